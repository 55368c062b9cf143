import type { Calendar } from "./calendar";
import type { Random } from "./random";

const PIECES = [
  ...["Marsh Symphony", "Tide Overture", "Saltgrass Variations", "Heronry Concerto", "Causeway Dances"],
  ...["Sedgewater Songs", "Lanternlight Suite", "Estuary Mass"],
];
const PARTS = [
  ...["Flute 1", "Flute 2", "Oboe 1", "Oboe 2", "Clarinet 1", "Clarinet 2", "Bassoon 1", "Bassoon 2", "Horn 1"],
  ...["Horn 3", "Trumpet 1", "Trombone 2", "Tuba", "Timpani", "Percussion 1", "Harp", "Violin I", "Violin II"],
  ...["Viola", "Cello", "Double bass"],
];
const PLACES = [
  ...["Quay Hall", "Orrin Hall", "Salt Street Hall", "Vell", "Lindweg", "Northgate", "Kestleby", "Ilverton"],
  ...["Garroway", "Pellworth", "Umberlow", "Tarnbrook"],
];
const PEOPLE = [
  ...["A. Abendroot", "C. Brackwell", "D. Carrowmede", "E. Dellinghurst", "F. Fennimoor", "G. Garroway"],
  ...["H. Hathersedge", "I. Ilverton", "J. Jessamund", "K. Kestleby", "L. Lorringer", "M. Marrowby", "N. Netherfold"],
  ...["O. Ostrander", "P. Pellworth", "Q. Quillby", "R. Rastermann", "S. Silvermere", "T. Tarnbrook", "U. Umberlow"],
  ...["W. Wexelby", "Y. Yarrowind", "Z. Zellenrath"],
];
const FIRMS = [
  ...["Copperfield Bank", "Lowmark Foundation", "Brindle Haulage", "Ferrant Events", "Fathom Records"],
  ...["Halden Press", "Quayside Staging", "Tessel Artists", "Gannet Management", "Inkhorn"],
];
const SCHOOLS = ["Reedham Primary", "Saltby Middle", "Causeway School", "Lindweg Youth", "Harrow Lane Primary"];
const CALLS = ["strings", "winds", "brass", "tutti", "dress rehearsal", "sectional", "seating rehearsal"];
const VERSIONS = ["", "", "", " v2", " v3", " v4 FINAL", " v7 FINAL", " draft", " (copy)", " OLD", " for review"];

/** What people call files in a folder of some name. A word in braces stands for one of a list, a date or a number. */
const IN_FOLDER: Record<string, string[]> = {
  Seasons: ["Season plan {year}{v}.xlsx", "Programme grid {year}{v}.xlsx", "Planning meeting {date}.docx"],
  "Season 26-27": [
    "Concert {n} running order{v}.docx",
    "{piece} programme note{v}.docx",
    "Rehearsal calls {month}.pdf",
  ],
  "Season 27-28": ["Draft concert {n}, {place}{v}.docx", "Soloist options {month}.xlsx", "Dates held {date}.xlsx"],
  "Opera co-production": [
    "Production meeting {date}.docx",
    "Rehearsal schedule {month}{v}.xlsx",
    "Contact sheet{v}.xlsx",
  ],
  "Stage plots": ["{place} stage plot{v}.pdf", "Scene {act} lighting plot{v}.pdf", "Orchestra layout {place}{v}.pdf"],
  "Cast contracts": ["Contract {person}, signed {date}.pdf", "Rider {person}{v}.pdf"],
  Surtitles: ["Scene {act} surtitles{v}.docx", "Surtitle cue list scene {act} {date}.csv"],
  "Guest artists": ["Rider {person}{v}.pdf", "Travel {person} {month}.docx", "Availability {person} {date}.xlsx"],
  Fees: ["Fee agreement {person}, signed {date}.pdf", "Fees {month}{v}.xlsx"],
  Biographies: ["Biography {person}{v}.docx", "Headshot {person} {n}.jpg"],
  Programmes: ["Programme book {place} {date}{v}.pdf", "{piece} programme note{v}.docx", "Biographies for {date}.docx"],
  Loans: ["Loan slip {piece} {date}.pdf", "Hire invoice {piece} {n}.pdf", "Returns {month}.xlsx"],
  "Marsh Symphony, parts": ["Marsh Symphony {part}{v}.pdf", "Marsh Symphony {part}, bowed{v}.pdf"],
  "Tide Overture, parts": ["Tide Overture {part}{v}.pdf", "Tide Overture {part}, cuts{v}.pdf"],
  Editions: ["{piece} full score{v}.pdf", "{piece} {part}{v}.pdf"],
  Bowings: ["{piece} {part}, bowings {date}.pdf"],
  Errata: ["{piece} errata{v}.docx", "{piece} {part}, corrections {date}.pdf"],
  Copyist: ["{piece} {part}, engraved{v}.pdf", "Copyist invoice {n} {month}.pdf"],
  "Coastal tour": ["Tour book{v}.docx", "Budget, {place}{v}.xlsx", "Who travels {date}.xlsx"],
  Travel: ["Flight list {date}{v}.xlsx", "Coach times {place} {date}.pdf", "Travel confirmation {n}.pdf"],
  "Passport scans": ["Passport {person} {n}.jpg", "Passport {person}, renewed {date}.pdf"],
  "Rooming lists": ["Rooming list {place}{v}.xlsx", "Hotel confirmation {place} {date}.pdf"],
  Itineraries: ["Day sheet {place} {date}.pdf", "Itinerary group {n}{v}.docx"],
  Freight: ["Carnet {n}, {place}.pdf", "Flight case list{v} {date}.xlsx", "Instrument insurance {month}.pdf"],
  "Venue contracts": ["{place} contract{v}.pdf", "{place} technical rider {date}.pdf"],
  "Winter tour": ["Tour book winter{v}.docx", "Budget winter, {place}{v}.xlsx", "Set list {place} {date}.docx"],
  Visas: ["Visa application {person}{v}.pdf", "Visa {person} {date}.jpg"],
  "Stage and light": ["Stage plan {place}{v}.pdf", "Light cues {piece}{v}.xlsx", "Riser plan {place} {date}.pdf"],
  Venues: ["{place} hire {month}.xlsx", "{place} settlement {date}.pdf"],
  Payroll: ["Payroll run {date}.xlsx", "Overtime strings {month}{v}.xlsx", "Pension return {month}.pdf"],
  Budgets: ["Budget {year}{v}.xlsx", "Forecast {month}{v}.xlsx"],
  "Opera budget": ["Opera budget{v} {date}.xlsx", "Set construction quote {n}.pdf"],
  "Tour budget": ["Tour budget {place}{v}.xlsx", "Per diems {date}.xlsx"],
  Audit: ["Audit query {n} {month}.docx", "Bank reconciliation {date}.pdf"],
  Contracts: ["Employment contract {person}{v}.pdf", "Contract change {person} {date}.pdf"],
  Auditions: ["Panel notes {part} {date}.docx", "Shortlist {part}{v}.xlsx"],
  Applications: ["Application {person}, {part}.pdf", "CV {person} {date}.pdf"],
  Recordings: ["Audition {part}, candidate {n}.wav", "Audition {part}, round {act} {date}.mp4"],
  Handbook: ["Handbook{v} {year}.docx", "Leave policy{v} {date}.pdf"],
  Appeals: ["Donor list {month}{v}.xlsx", "Appeal text {year}{v}.docx", "Gift report {date}.pdf"],
  Gala: ["Gala running order{v} {date}.docx", "Auction lots{v} {n}.xlsx", "Menu{v} {n}.pdf"],
  Seating: ["Seating chart, table {n}{v}.pdf", "Seating plan {date}{v}.xlsx"],
  Guests: ["Guest list {date}{v}.xlsx", "Dietary needs, table {n}.xlsx"],
  Sponsors: ["{firm} agreement{v}.pdf", "{firm} benefits {month}.docx", "Sponsor meeting {date}.docx"],
  Reports: ["Impact report {firm} {year}.pdf", "{firm} report {date}{v}.docx"],
  Public: ["Press kit {month}{v}.pdf", "Season brochure {year}{v}.pdf", "Poster {place} {date}.jpg"],
  "Pictures, season 26-27": ["{place} {date}, picture {n}.jpg", "{piece}, rehearsal {n}.jpg"],
  Logos: ["Logo {n} on white{v}.png", "Wordmark{v} {n}.svg"],
  Releases: ["Press release {date}{v}.docx", "{piece} announcement {month}{v}.docx"],
  Embargoed: ["EMBARGO {date} {piece}{v}.docx", "Season launch {year}{v} {n}.pdf"],
  "Youth exchange": ["Exchange programme {month}{v}.docx", "Host families {date}.xlsx"],
  Children: ["Participants {date}{v}.xlsx", "Medical notes, group {n}{v}.docx"],
  "Consent forms": ["Consent {person}, child {n}.pdf", "Photo consent {person} {date}.pdf"],
  Workshops: ["Workshop {school} {date}.docx", "Workshop plan {n}{v}.docx"],
  Worksheets: ["Worksheet {n}, {piece}.pdf", "Listening sheet {n} {part}.pdf"],
  Schools: ["{school} booking {date}.docx", "{school} contacts{v}.xlsx"],
  "Rehearsal recordings": ["{piece}, {call} {date}.wav", "{piece}, run {n} {date}.mp4"],
  "First edits": ["{piece} edit {n} {date}.wav"],
  "Recording, masters": ["{piece} master{v} {n}.wav", "{piece} mix {date}.wav"],
  Takes: ["{piece} session {act} take {n}.wav"],
  Sleeve: ["Booklet {piece}{v}.pdf", "Sleeve {piece} cover {n}.jpg"],
  Printers: ["Programme {date} print{v}.pdf", "Poster {place} A{act}{v}.pdf"],
  "Haulage papers": ["Waybill {n} {date}.pdf", "Truck plan {place}{v}.pdf"],
  "Intake, audition videos": ["{part} audition, candidate {n}.mp4"],
  "Intake, scores by composers": ["Submission {n}, {part} sketch{v}.pdf"],
  Sorted: ["Submission {n}, read {date}.pdf"],
  "Intake, stage plans": ["{place} floor plan{v}.pdf"],
};
/** In what people keep for themselves, and wherever else no custom is known. */
const ANYWHERE = [
  ...["Notes {date}.docx", "To do {month}{v}.docx", "{piece} notes{v}.docx", "Meeting {firm} {date}.docx"],
  ...["Scan {n} {date}.pdf", "Old list {year}{v}.xlsx", "{place} ideas{v}.docx"],
];

/**
 * A name as people give files in a folder.
 * @param taken the names that lie there already
 */
export function fileName(random: Random, calendar: Calendar, folder: string, taken: ReadonlySet<string>): string {
  const template = random.pick(IN_FOLDER[folder] ?? ANYWHERE);
  const [first, second, third, fourth] = [random.next(), random.next(), random.next(), random.next()];
  const of = (list: readonly string[], chance: number) => list[Math.floor(chance * list.length)];
  const day = calendar.daysAgo(Math.floor(first * 420));
  const slots: Record<string, string> = {
    piece: of(PIECES, second),
    part: of(PARTS, third),
    place: of(PLACES, second),
    person: of(PEOPLE, second),
    firm: of(FIRMS, second),
    school: of(SCHOOLS, second),
    call: of(CALLS, third),
    v: of(VERSIONS, fourth),
    n: String(1 + Math.floor(third * 48)),
    act: String(1 + Math.floor(third * 4)),
    date: day.slice(0, 10),
    month: day.slice(0, 7),
    year: day.slice(0, 4),
  };
  const name = template.replaceAll(/\{(\w+)\}/g, (_, slot: string) => slots[slot]);
  return apart(name, taken);
}

/** As programs that keep files do with a name that is taken. */
function apart(name: string, taken: ReadonlySet<string>): string {
  const dot = name.lastIndexOf(".");
  let free = name;
  for (let i = 2; taken.has(free); i++) free = `${name.slice(0, dot)} (${i})${name.slice(dot)}`;
  return free;
}

import { countWords, dayWords, listWords } from "@/core/text/words";
import type { Undecided } from "@/core/rounds/round";
import type { Breach } from "@/core/rules/demand";
import { firstRemedy } from "@/core/rules/remedies";
import { RULES, type RuleId } from "@/core/rules/list";
import { begun, within } from "@/core/text/text";
import { seconds, type Seconds } from "@/core/time/instant";
import { escaped } from "./message";

/** A letter as it goes out: the same content as plain text, and as HTML. */
export interface LetterContent {
  subject: string;
  text: string;
  html: string;
  /** Days to be put into a calendar, as iCalendar (RFC 5545). */
  calendar?: string;
  /** Contains something without which the reader can't get in. */
  cantWait?: true;
}

/** One mail with everything that there is to tell somebody. */
export function mailOf(contents: readonly LetterContent[]) {
  const calendars = contents.flatMap(({ calendar }) => calendar ?? []);
  const attachments = calendars.map((content, i) => ({
    filename: i === 0 ? "dates.ics" : `dates-${i + 1}.ics`,
    content,
    contentType: "text/calendar; charset=utf-8; method=PUBLISH",
  }));
  const [{ subject, text, html }] = contents;
  if (contents.length === 1) return { subject, text, html, attachments };
  return {
    subject: `${subject}; and ${countWords(contents.length - 1, "more message")}`,
    text: contents.map((one) => `${one.subject.toUpperCase()}\n\n${one.text}`).join("\n\n"),
    html: contents.map((one) => `<h2>${escaped(one.subject)}</h2>\n${one.html}`).join("\n"),
    attachments,
  };
}

/** Asks an owner about their shares, each in plain words, with the address of the page where they answer. */
export function askLetter(breaches: readonly Breach[], due: Seconds, address: string): LetterContent {
  const subjects = [...new Set(breaches.map(({ subject }) => subject))];
  const what = countWords(subjects.length, "of your shares needs", "of your shares need");
  const parts = subjects.map((subject) => partOf(breaches.filter((one) => one.subject === subject)));
  return letter(
    `${what} a decision by ${dayWords(due)}`,
    `${what} a decision. Keep it with a reason, tighten it, or end it. It takes a minute and needs no sign-in.`,
    parts,
    { words: "Answer here", address },
    `Shares without an answer by ${dayWords(due)} will be tightened or ended.`,
  );
}

/** One share: where it is, what it does, what is wrong, and what would become of it. */
function partOf(breaches: readonly Breach[]): string[] {
  const [{ itemName, storeName, place, sentence, lastUsed }] = breaches;
  const remedies = breaches.map(({ remedies }) => firstRemedy(remedies)?.words).filter((words) => words !== undefined);
  return [
    `${itemName} (${[storeName, ...place].join(" / ")})`,
    [sentence, lastUsed === null ? "" : `Last used on ${dayWords(lastUsed)}.`].filter(Boolean).join(" "),
    ...breaches.map(({ rule, reason }) => `${RULES[rule].title}: ${reason}`),
    ...(remedies.length > 0 ? [`Without an answer we will ${listWords([...new Set(remedies.map(within))])}.`] : []),
  ].filter(Boolean);
}

/** Tells whoever gave waivers that they are about to end. */
export function waiverEndsLetter(
  waivers: readonly { itemName: string; rule: string; reason: string; until: string }[],
  address: string,
): LetterContent {
  const what = countWords(waivers.length, "of your waivers ends", "of your waivers end");
  const parts = waivers.map(({ itemName, rule, reason, until }) => [
    `${itemName}, until ${dayWords(seconds(until))}`,
    `${RULES[rule as RuleId].title}: ${reason}`,
  ]);
  return letter(
    `${what} within a week`,
    `${what} within a week. After that, their rules apply again.`,
    parts,
    { words: "See all waivers", address },
    "Give a new one where it is still needed.",
  );
}

/** What becomes of a share about which nobody decides, as the end of a sentence. */
const UNDECIDED_WORDS: Record<Undecided, (days: number) => string> = {
  stay: () => "stays as it is",
  "end-date": (days) => `ends ${countWords(days, "day")} after that`,
  lock: () => "can no longer be edited or downloaded from, where the store can do that",
  end: () => "is ended",
};

interface RoundTold {
  name: string;
  note: string;
  open: number;
  closes: Seconds;
  undecided: Undecided;
  undecidedDays: number;
  address: string;
}

/** Asks somebody to decide about their lines: a part for each round that asks them. */
export function roundLetter(rounds: readonly RoundTold[]): LetterContent {
  const open = rounds.reduce((sum, one) => sum + one.open, 0);
  const first = Math.min(...rounds.map(({ closes }) => closes));
  const what = countWords(open, "of your shares needs", "of your shares need");
  const head = `${what} a decision by ${dayWords(first)}: keep it, tighten it, or end it. No sign-in is needed, and a phone will do.`;
  const parts = rounds.map((one) => [
    `${one.name}: ${countWords(one.open, "share")}, by ${dayWords(one.closes)}.`,
    ...one.note.split("\n").filter(Boolean),
    `Anything undecided by then ${UNDECIDED_WORDS[one.undecided](one.undecidedDays)}.`,
    { words: "Decide here", address: one.address },
  ]);
  const foot =
    "This address is only for you: don’t forward it. To pass a share on to a colleague, use “Pass on” on the page.";
  return linkedLetter(`${what} a decision by ${dayWords(first)}`, [[head], ...parts, [foot]]);
}

/** Tells a manager who has decided less than half. */
export function roundLateLetter(
  rounds: readonly {
    name: string;
    closes: Seconds;
    people: readonly { name: string; open: number; lines: number }[];
  }[],
): LetterContent {
  const people = rounds.reduce((sum, one) => sum + one.people.length, 0);
  const who = countWords(people, "person you manage hasn’t", "people you manage haven’t");
  const parts = rounds.map(({ name, closes, people }) => [
    `${name}, closes on ${dayWords(closes)}`,
    ...people.map((one) => `${one.name}: ${one.open} of ${countWords(one.lines, "share")} still to decide.`),
  ]);
  const head = `${who} decided even half of what they were asked. You get this copy so that you can help them find the time.`;
  return linkedLetter(`${who} decided yet`, [[head], ...parts]);
}

/** Tells whoever answers for engagements that they end soon, with the address where each can be extended. */
export function engagementLetter(
  engagements: readonly { name: string; organisations: readonly string[]; ends: Seconds; address: string }[],
  graceDays: number,
): LetterContent {
  const what = countWords(engagements.length, "of your projects ends", "of your projects end");
  const first = Math.min(...engagements.map(({ ends }) => ends));
  const head = `${what} soon. Extend it with a reason, or let it end. No sign-in is needed.`;
  const parts = engagements.map(({ name, organisations, ends, address }) => [
    `${name}, for ${organisations.join(", ")}: ends on ${dayWords(ends)}.`,
    { words: "Extend it, or let it end", address },
  ]);
  const foot = `Everything shared for it ends ${countWords(graceDays, "day")} later, once an administrator has reviewed it.`;
  return linkedLetter(`${what}, the first on ${dayWords(first)}`, [[head], ...parts, [foot]]);
}

export type LetterLine = string | { words: string; address: string };

/** A letter of paragraphs, in which lines may be addresses. */
export function linkedLetter(subject: string, parts: readonly (readonly LetterLine[])[]): LetterContent {
  const plain = (line: LetterLine) => (typeof line === "string" ? line : `${line.words}: ${line.address}`);
  const marked = (line: LetterLine) =>
    typeof line === "string" ? escaped(line) : `<a href="${escaped(line.address)}">${escaped(line.words)}</a>`;
  return {
    subject,
    text: parts.map((lines) => lines.map(plain).join("\n")).join("\n\n") + "\n",
    html: parts.map((lines) => `<p>${lines.map(marked).join("<br>")}</p>`).join("\n") + "\n",
  };
}

/** Tells somebody what a docket did that is about them. @param told a line for each thing, an address where one is new */
export function docketLetter(
  { subject, head }: { subject: string; head: string },
  told: readonly { itemName: string; place: string; words: string; address: string | null }[],
): LetterContent {
  const parts = told.map(({ itemName, place, words, address }) => [
    place === "" ? itemName : `${itemName} (${place})`,
    `${begun(words)}.`,
    ...(address === null ? [] : [address]),
  ]);
  const text = [head, ...parts.map((lines) => lines.join("\n"))];
  const html = [head, ...parts.map((lines) => lines)].map(
    (part) => `<p>${[part].flat().map(escaped).join("<br>")}</p>`,
  );
  const isNeeded = told.some(({ address }) => address !== null);
  return {
    ...{ subject, text: text.join("\n\n") + "\n", html: html.join("\n") + "\n" },
    ...(isNeeded && { cantWait: true }),
  };
}

function letter(
  subject: string,
  head: string,
  parts: readonly string[][],
  link: { words: string; address: string },
  foot: string,
): LetterContent {
  return linkedLetter(subject, [[head], ...parts, [link], [foot]]);
}

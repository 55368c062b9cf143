const SHOWN = 8;

let known: { zone: string; words: string }[] | undefined;

/** All zones of the tz database that the browser knows, each with the words it is found by. */
function zones() {
  return (known ??= ["UTC", ...Intl.supportedValuesOf("timeZone").filter((zone) => zone !== "UTC")].map((zone) => ({
    zone,
    words: plain(`${zone} ${nameOf(zone, "long")}`),
  })));
}

/** The zones whose name has all that is typed; those whose place begins with it come first. */
export function findZones(text: string): string[] {
  const wanted = plain(text).trim();
  if (wanted === "") return [];
  const parts = wanted.split(" ");
  const found = zones().filter(({ words }) => parts.every((part) => words.includes(part)));
  const rank = (zone: string) => (plain(zone.slice(zone.lastIndexOf("/") + 1)).startsWith(wanted) ? 0 : 1);
  return found
    .map(({ zone }) => zone)
    .sort((a, b) => rank(a) - rank(b))
    .slice(0, SHOWN);
}

/** Without accents, capitals and signs: `São_Paulo` is `sao paulo`. */
function plain(text: string): string {
  return text
    .normalize("NFD")
    .replaceAll(/\p{M}/gu, "")
    .toLowerCase()
    .replaceAll(/[/_\s]+/g, " ");
}

/** What the zone is called, and how far it is from UTC today. */
export function offsetWords(zone: string): string {
  return `${nameOf(zone, "long")}, ${nameOf(zone, "shortOffset").replace("GMT", "UTC")} now`;
}

function nameOf(zone: string, timeZoneName: "long" | "shortOffset"): string {
  const parts = new Intl.DateTimeFormat("en-GB", { timeZone: zone, timeZoneName }).formatToParts();
  return parts.find(({ type }) => type === "timeZoneName")!.value;
}

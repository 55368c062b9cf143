import { within } from "../text/text";
import { countWords, type DayWords, dayWords } from "../text/words";
import { NEVER } from "../time/instant";
import type { Estate } from "./estate";
import type { Share } from "./share";
import { filesReached } from "./tree";

/** For whom a share is, in a few words. */
export function audienceWords(estate: Estate, share: Share): string {
  const { audience } = share;
  switch (audience) {
    case "open":
      return "Whoever has the address";
    case "house":
      return "All our own people";
    case "nobody":
      return "Anyone can send files in";
    case "people":
      return share.group >= 0 ? groupWords(estate, share) : peopleWords(estate, [...share.people]);
  }
}

function groupWords(estate: Estate, { group, outsiders, people }: Share): string {
  const { name } = estate.principals.groups[group];
  const held = outsiders.length > 0 ? countWords(outsiders.length, "outsider") : countWords(people.length, "insider");
  return `Group ${name} (${held})`;
}

function peopleWords(estate: Estate, indexes: number[]): string {
  if (indexes.length === 0) return "Nobody";
  if (indexes.length === 1) {
    const { name, insider, organisation } = estate.people[indexes[0]];
    return insider ? `${name}, in-house` : `${name}, ${organisation}`;
  }
  const counts = new Map<string, number>();
  // Outsiders first: they are who people look for.
  const outsidersFirst = [...indexes].sort(
    (a, b) => Number(estate.people[a].insider) - Number(estate.people[b].insider),
  );
  for (const index of outsidersFirst) {
    const { insider, organisation } = estate.people[index];
    const where = insider ? "in-house" : `at ${organisation}`;
    counts.set(where, (counts.get(where) ?? 0) + 1);
  }
  return [...counts].map(([where, count]) => `${count} ${where}`).join(", ");
}

/** Who can do something, to what, and the pronoun for that. */
type Can = (who: string, what: string, it: string) => string;

/** What each role lets people do: where files can be downloaded, and where they can’t. */
const CAN: Record<Share["role"], { download: Can; look: Can }> = {
  view: {
    download: (who, what, it) => `${who} can look at ${what} and download ${it}`,
    look: (who, what, it) => `${who} can look at ${what} but not download ${it}`,
  },
  comment: {
    download: (who, what, it) => `${who} can look at and comment on ${what} and download ${it}`,
    look: (who, what, it) => `${who} can look at and comment on ${what} but not download ${it}`,
  },
  edit: {
    download: (who, what, it) => `${who} can look at and change ${what} and download ${it}`,
    look: (who, what, it) => `${who} can look at and change ${what} but not download ${it}`,
  },
  manage: {
    download: (who, what, it) => `${who} can change and share onward ${what} and download ${it}`,
    look: (who, what, it) => `${who} can change and share onward ${what} but not download ${it}`,
  },
  deposit: {
    download: (who) => `${who} can send files into this folder`,
    look: (who) => `${who} can send files into this folder`,
  },
};

/** One plain sentence of what a share does, effect first. */
export function shareSentence(estate: Estate, share: Share, days: DayWords = dayWords): string {
  const { tree } = estate;
  const files = filesReached(tree, share.position);
  const isFile = tree.kindAt(share.position) === "file";
  const what = isFile ? "this file" : countWords(files, "file");
  const can = CAN[share.role][share.download ? "download" : "look"];
  const does = can(whoWords(estate, share), what, isFile || files === 1 ? "it" : "them");
  const until = share.ends === NEVER ? null : untilWords(share, days);
  if (share.audience !== "open" && share.role !== "deposit")
    return until === null ? `${does}, with no end date.` : `${does}, ${until}.`;
  if (share.isLink && share.hasPassword)
    return until === null ? `${does}, with a password and with no end date.` : `${does}, with a password, ${until}.`;
  return until === null
    ? `${does}, without a password and with no end date.`
    : `${does}, without a password, ${until}.`;
}

function untilWords({ ends, expires }: Share, days: DayWords): string {
  return ends < expires ? `until ${days(ends)}, by a standing order` : `until ${days(ends)}`;
}

/** What an audience or a group is called within a sentence: names stay as they are. */
export function audienceWithin(words: string): string {
  return /^(Whoever|All our own|Anyone|Group|Nobody|Everyone) /.test(words) ? within(words) : words;
}

function whoWords(estate: Estate, share: Share): string {
  if (share.audience === "open" || share.audience === "nobody") return "Anyone who holds this link";
  if (share.audience === "house") return "All our own people who sign in";
  if (share.group >= 0) return `Everyone in the group ${estate.principals.groups[share.group].name}`;
  return share.people.length === 1
    ? estate.people[share.people[0]].name
    : `${countWords(share.people.length, "named person", "named people")}`;
}

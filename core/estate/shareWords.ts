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

const MAY: Record<Share["role"], string> = {
  view: "look at",
  comment: "look at and comment on",
  edit: "look at and change",
  manage: "change and share onward",
  deposit: "send files into",
};

/** One plain sentence of what a share does, effect first. */
export function shareSentence(estate: Estate, share: Share, days: DayWords = dayWords): string {
  const { tree } = estate;
  const files = filesReached(tree, share.position);
  const isFile = tree.kindAt(share.position) === "file";
  const what = share.role === "deposit" ? "this folder" : isFile ? "this file" : countWords(files, "file");
  const them = isFile || files === 1 ? "it" : "them";
  const download =
    share.role === "deposit" ? "" : share.download ? ` and download ${them}` : ` but not download ${them}`;
  const keyed = share.isLink && share.hasPassword ? "with a password" : "without a password";
  const key = share.audience === "open" || share.role === "deposit" ? [keyed] : [];
  const byOrder = share.ends < share.expires ? ", by a standing order" : "";
  const until = share.ends === NEVER ? "with no end date" : `until ${days(share.ends)}${byOrder}`;
  return `${whoWords(estate, share)} can ${MAY[share.role]} ${what}${download}, ${[...key, until].join(share.ends === NEVER ? " and " : ", ")}.`;
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

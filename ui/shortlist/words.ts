import type { Act, Opening } from "@/core/advice/candidate";
import type { ActGroup } from "@/core/advice/groups";
import type { ShortlistLine, UsedBy } from "@/contract/shortlist";
import { audienceWithin } from "@/core/estate/shareWords";
import { begun } from "@/core/text/text";
import { countWords, listWords } from "../parts/words";

/** A part of a whole in words: `61 %`; what is next to nothing, or to all, is never told as such. */
export function percentWords(part: number, whole: number): string {
  if (whole === 0 || part === 0) return "0 %";
  const percent = (100 * part) / whole;
  if (percent < 1) return "under 1 %";
  if (percent > 99 && percent < 100) return "over 99 %";
  return `${Math.round(percent)} %`;
}

/** What stands over a point: `40 changes shut 61 % of what is open`. */
export function headline(changes: number, left: number, mass: number): string {
  if (changes === 0) return `No changes yet: everything stays open`;
  return `${countWords(changes, "change")} ${changes === 1 ? "shuts" : "shut"} ${percentWords(mass - left, mass)} of what is open`;
}

const SHARES: Record<Opening, [one: string, many: string]> = {
  open: ["open link", "open links"],
  locked: ["open link with a password", "open links with a password"],
  unwanted: [
    "share with private mailboxes or denied organisations",
    "shares with private mailboxes or denied organisations",
  ],
  named: ["share with people by name", "shares with people by name"],
};

/** What the changes of a group do: `End 61 open links unused for 45 days`. */
export function groupTitle({ act, opening, isUsed, isRunning, changes }: ActGroup, usedDays: number): string {
  const shares = countWords(changes, ...SHARES[opening]) + (isRunning ? " of running projects," : "");
  const use = isUsed ? `used in the last ${usedDays} days` : `unused for ${usedDays} days`;
  return `${act === "end" ? "End" : "Give a password to"} ${shares} ${use}`;
}

/** What is to be known of a group besides. */
export function groupRemarks({ act, changes, together }: ActGroup): string {
  const [it, closes] = changes === 1 ? ["it", "It closes"] : ["them", "All of them close"];
  const those = together === changes ? closes : `${together.toLocaleString("en-GB")} of them close`;
  return [
    ...(act === "password" ? [`Whoever opens ${it} will need the passphrase.`] : []),
    ...(together > 0 ? [`${those} something only in combination.`] : []),
  ].join(" ");
}

const ACTS: Record<Act, string> = { end: "end", password: "give a password to" };

/** What is done with a share: `end a share of Season brochure`. */
export const actWords = (act: Act, itemName: string) => `${ACTS[act]} a share of ${itemName}`;

/** What is done with one share: `End a share of Rider (anyone with the address)`. */
export function lineTitle({ act, row }: Pick<ShortlistLine, "act" | "row">): string {
  return `${begun(actWords(act, row.itemName))} (${audienceWithin(row.audience)})`;
}

/** What a change closes, and together with which others. */
export function closesWords({ files, others, othersCount }: ShortlistLine): string {
  const what = `Closes ${countWords(files, "file")}`;
  if (othersCount === 0) return `${what} by itself.`;
  const names = others.map(({ words }) => words);
  const more = othersCount - names.length;
  return `${what} together with ${listWords(more > 0 ? [...names, `${countWords(more, "other")}`] : names)}.`;
}

/** Who has used a share lately. */
export function usedByWords({ names, people, unnamed }: UsedBy, isUsed: boolean, usedDays: number): string {
  const more = people - names.length;
  const some = more > 0 ? [...names, countWords(more, "other")] : names;
  const all = unnamed ? [...some, "somebody the store doesn’t name"] : some;
  if (all.length > 0) return `Used in the last ${usedDays} days by ${listWords(all)}.`;
  return isUsed
    ? `Used in the last ${usedDays} days; the store doesn’t say who by.`
    : `Nobody used it in the last ${usedDays} days.`;
}

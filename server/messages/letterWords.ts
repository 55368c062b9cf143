import { countWords, dayWords } from "@/core/text/words";
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
}

/** Asks an owner about their shares, each in plain words, with the address of the page where they answer. */
export function askLetter(breaches: readonly Breach[], due: Seconds, address: string): LetterContent {
  const subjects = [...new Set(breaches.map(({ subject }) => subject))];
  const what = countWords(subjects.length, "share of yours needs", "shares of yours need");
  const parts = subjects.map((subject) => partOf(breaches.filter((one) => one.subject === subject)));
  return letter(
    `${what} a word by ${dayWords(due)}`,
    `${what} a word from you. Keep it with a reason, tighten it, or end it: it takes a minute, and no sign-in.`,
    parts,
    { words: "Answer here", address },
    `What has no answer by ${dayWords(due)} is tightened or ended.`,
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
    ...(remedies.length > 0 ? [`Without an answer we ${[...new Set(remedies.map(within))].join(", and ")}.`] : []),
  ].filter(Boolean);
}

/** Tells whoever gave waivers that they are about to end. */
export function waiverEndsLetter(
  waivers: readonly { itemName: string; rule: string; reason: string; until: string }[],
  address: string,
): LetterContent {
  const what = countWords(waivers.length, "waiver of yours ends", "waivers of yours end");
  const parts = waivers.map(({ itemName, rule, reason, until }) => [
    `${itemName}, until ${dayWords(seconds(until))}`,
    `${RULES[rule as RuleId].title}: ${reason}`,
  ]);
  return letter(
    `${what} within a week`,
    `${what} within a week. From then on the rules count again.`,
    parts,
    { words: "See all waivers", address },
    "Give a new one where it is still needed.",
  );
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
  return { subject, text: text.join("\n\n") + "\n", html: html.join("\n") + "\n" };
}

function letter(
  subject: string,
  head: string,
  parts: readonly string[][],
  link: { words: string; address: string },
  foot: string,
): LetterContent {
  const text = [head, ...parts.map((lines) => lines.join("\n")), `${link.words}: ${link.address}`, foot];
  const html = [
    `<p>${escaped(head)}</p>`,
    ...parts.map((lines) => `<p>${lines.map(escaped).join("<br>")}</p>`),
    `<p><a href="${escaped(link.address)}">${escaped(link.words)}</a></p>`,
    `<p>${escaped(foot)}</p>`,
  ];
  return { subject, text: text.join("\n\n") + "\n", html: html.join("\n") + "\n" };
}

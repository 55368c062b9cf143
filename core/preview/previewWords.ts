import { countWords } from "../text/words";
import { begun } from "../text/text";
import type { Preview } from "./preview";

/** What a docket would do, in a line: the changes, the losses, and what stays open all the same. */
export function previewWords(preview: Preview): string {
  const { people, anyone, house, impossible, later, reopened, tighter, back, newAddresses } = preview;
  const byOrder = later.filter((one) => one.byOrder).length;
  const possible = Object.values(preview.counts).reduce((sum, count) => sum + count, 0);
  const sentences = [`${countWords(possible + impossible.length, "change")}.`];
  const losers = people.filter((person) => person.loses.count > 0);
  const outsiders = losers.filter((person) => !person.insider).length;
  const insiders = losers.length - outsiders;
  const keepers = people.filter((person) => person.keeps.count > 0).length;
  const gainers = people.filter((person) => person.gains.count > 0).length;
  const losses = [
    outsiders > 0 && `${countWords(outsiders, "outsider")} ${verb(outsiders)} access`,
    anyone.loses.count > 0 && `${countWords(anyone.loses.count, "item")} no longer open to anyone`,
    insiders > 0 && `${countWords(insiders, "insider")} ${verb(insiders)} access`,
    house.loses.count > 0 && `${countWords(house.loses.count, "item")} no longer open to all our own people`,
    gainers > 0 && `${countWords(gainers, "person", "people")} ${gainers === 1 ? "gains" : "gain"} access`,
    anyone.gains.count > 0 && `${countWords(anyone.gains.count, "item")} open to anyone again`,
    keepers > 0 && `${keepers.toLocaleString("en-GB")} ${keepers === 1 ? "keeps" : "keep"} another way in`,
    anyone.keeps.count > 0 && `${countWords(anyone.keeps.count, "item")} still open by another link`,
  ].filter((part) => part !== false);
  if (losses.length > 0) sentences.push(`${losses.join("; ")}.`);
  if (reopened.length > 0)
    sentences.push(`${countWords(reopened.length, "ended share opens", "ended shares open")} again.`);
  const stricter = [
    later.length > 0 && countWords(later.length, "share gets an end date", "shares get an end date"),
    byOrder > 0 && `${byOrder.toLocaleString("en-GB")} by a standing order`,
    tighter.length > 0 &&
      `${tighter.length.toLocaleString("en-GB")} only ${tighter.length === 1 ? "tightens" : "tighten"}`,
    back.length > 0 && `${countWords(back.length, "share is", "shares are")} restored`,
    newAddresses.length > 0 && `${countWords(newAddresses.length, "new address", "new addresses")} to be sent`,
  ].filter((part) => part !== false);
  if (preview.passwordsReplaced > 0)
    sentences.push(`${countWords(preview.passwordsReplaced, "password is", "passwords are")} replaced.`);
  if (stricter.length > 0) sentences.push(`${begun(stricter.join(", "))}.`);
  if (impossible.length > 0) sentences.push(`${impossible.length.toLocaleString("en-GB")} can't be done.`);
  return sentences.join(" ");
}

function verb(count: number): string {
  return count === 1 ? "loses" : "lose";
}

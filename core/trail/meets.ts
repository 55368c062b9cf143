import { piecesOf, standAmong, wordsIn } from "../text/text";
import { type TrailEvent, type Part, PARTS, type Spoken } from "./event";
import type { Side, TrailSearch } from "./search";

/** The parts of an event in which a person is looked for, as actor or recipient. A share's recipients belong to the share. */
export const PARTS_OF_SIDE: Record<Side, readonly Part[]> = {
  either: ["who", "share", "whom"],
  actor: ["who"],
  recipient: ["share", "whom"],
};
/** The parts that can hold outsiders. */
export const PARTS_WITH_PEOPLE = PARTS_OF_SIDE.either;

export const testsOfSpoken = {
  word: (spoken: Spoken, word: string) => standAmong(piecesOf([word]), wordsOf(spoken)),
  person: (spoken: Spoken, address: string) => spoken.people?.includes(address) ?? false,
  item: (spoken: Spoken, id: string) => spoken.path?.includes(id) ?? false,
  share: (spoken: Spoken, id: string) => spoken.kind === "share" && spoken.key === id,
  organisation: (spoken: Spoken, asked: readonly string[]) =>
    spoken.organisations?.some((one) => asked.includes(one)) ?? false,
  label: (spoken: Spoken, asked: readonly string[]) => spoken.label !== undefined && asked.includes(spoken.label),
  party: (spoken: Spoken, asked: readonly string[]) => spoken.parties?.some((one) => asked.includes(one)) ?? false,
};

/** The words by which something that is spoken of can be found, in the pieces of an index. */
export function wordsOf(spoken: Spoken): string[] {
  let words = wordsKnown.get(spoken);
  if (!words) wordsKnown.set(spoken, (words = piecesOf(wordsIn(`${spoken.name} ${spoken.detail}`))));
  return words;
}

/** Many events refer to the same things, and many watches look at each. */
const wordsKnown = new WeakMap<Spoken, string[]>();

/**
 * Makes a test of events from a search, for events that come one by one. The engine's columns answer the same for all
 * events at once, and are tested against this.
 */
export function meets(search: TrailSearch): (event: TrailEvent) => boolean {
  const tests: ((event: TrailEvent) => boolean)[] = [];
  const add = (isAsked: boolean, test: (event: TrailEvent) => boolean) => isAsked && tests.push(test);
  const some = (event: TrailEvent, parts: readonly Part[], test: (spoken: Spoken) => boolean) =>
    parts.some((part) => event[part] !== null && test(event[part]));
  // The cheap ones first: most events fail at one of them.
  add(search.verbs.length > 0, ({ verb }) => search.verbs.includes(verb));
  add(search.stores.length > 0, ({ source }) => search.stores.includes(source));
  add(search.from !== null, ({ at }) => at >= search.from!);
  add(search.to !== null, ({ at }) => at < search.to!);
  add(search.item !== null, (event) => some(event, ["item"], (one) => testsOfSpoken.item(one, search.item!)));
  add(search.share !== null, (event) => some(event, ["share"], (one) => testsOfSpoken.share(one, search.share!)));
  add(search.labels.length > 0, (event) => some(event, ["item"], (one) => testsOfSpoken.label(one, search.labels)));
  for (const [asked, test] of [
    [search.organisations, testsOfSpoken.organisation],
    [search.parties, testsOfSpoken.party],
  ] as const)
    add(asked.length > 0, (event) => some(event, PARTS_WITH_PEOPLE, (one) => test(one, asked)));
  const { person } = search;
  if (person !== null)
    tests.push((event) => some(event, PARTS_OF_SIDE[search.side], (one) => testsOfSpoken.person(one, person)));
  for (const word of wordsIn(search.words))
    tests.push((event) => some(event, PARTS, (one) => testsOfSpoken.word(one, word)));
  return (event) => tests.every((test) => test(event));
}

import { type Label, LABELS } from "../estate/records";
import { FIRST_INSTANT, LAST_INSTANT, type Seconds } from "../time/instant";
import { type Party, PARTIES } from "./event";

export const SIDES = ["either", "actor", "recipient"] as const;
export type Side = (typeof SIDES)[number];

/** A search among events. An empty list doesn't limit it; of a list with several, one is enough. */
export interface TrailSearch {
  /** Every word must begin a word in something that the event refers to. */
  words: string;
  verbs: string[];
  /** From this instant on, and before that one. */
  from: Seconds | null;
  to: Seconds | null;
  /** An address, normalised, and in which part of the event. */
  person: string | null;
  side: Side;
  /** An item's id: events on it, and on all that lay below it at the time. */
  item: string | null;
  share: string | null;
  organisations: string[];
  stores: string[];
  labels: Label[];
  parties: Party[];
}

export const NOTHING_ASKED: TrailSearch = {
  words: "",
  verbs: [],
  from: null,
  to: null,
  person: null,
  side: "either",
  item: null,
  share: null,
  organisations: [],
  stores: [],
  labels: [],
  parties: [],
};

/** The fields that have a list of values, each with its name in an address. */
const LISTS = {
  verbs: "verb",
  organisations: "organisation",
  stores: "store",
  labels: "label",
  parties: "party",
} as const;
const TEXTS = { words: "q", person: "person", item: "item", share: "share" } as const;
const MOST_TEXT = 500;
const MOST_VALUES = 50;

/** A search as the parameters of an address: only what is asked for stands there. */
export function printSearch(search: TrailSearch): URLSearchParams {
  const parameters = new URLSearchParams();
  for (const [field, name] of entries(TEXTS)) if (search[field]) parameters.set(name, search[field]);
  for (const [field, name] of entries(LISTS)) for (const value of search[field]) parameters.append(name, value);
  if (search.person && search.side !== "either") parameters.set("side", search.side);
  for (const end of ["from", "to"] as const) if (search[end] !== null) parameters.set(end, String(search[end]));
  return parameters;
}

/** What each parameter of a search takes, in words; and whether a text is that. */
const TAKES: Record<string, [takes: string, is: (text: string) => boolean]> = {
  from: ["a time in whole seconds since 1970", isInstant],
  to: ["a time in whole seconds since 1970", isInstant],
  side: [`one of ${SIDES.join(", ")}`, (text) => SIDES.includes(text as Side)],
  label: [`one of ${LABELS.join(", ")}`, (text) => LABELS.includes(text as Label)],
  party: [`one of ${PARTIES.join(", ")}`, (text) => PARTIES.includes(text as Party)],
};
export const SEARCH_PARAMETERS = [...Object.values(TEXTS), ...Object.values(LISTS), "side", "from", "to"];

function isInstant(text: string): boolean {
  return /^-?\d{1,12}$/.test(text) && Number(text) >= FIRST_INSTANT && Number(text) <= LAST_INSTANT;
}

const SHORT_TEXT: (typeof TAKES)[string] = [`at most ${MOST_TEXT} characters`, (text) => text.length <= MOST_TEXT];

/** What of the parameters of a search isn't understood: each in a sentence. */
export function searchProblems(parameters: URLSearchParams): string[] {
  const tooMany = SEARCH_PARAMETERS.filter((name) => parameters.getAll(name).length > MOST_VALUES);
  return [...parameters]
    .flatMap(([name, text]) => {
      // An object also answers to names that it has inherited.
      const [takes, is] = Object.hasOwn(TAKES, name) ? TAKES[name] : SHORT_TEXT;
      return !SEARCH_PARAMETERS.includes(name) || is(text) ? [] : [`${name} takes ${takes}, not ${text.slice(0, 60)}`];
    })
    .concat(tooMany.map((name) => `${name} takes at most ${MOST_VALUES} values`));
}

/** Reads what `printSearch` writes. What isn't a value of its field is left out: `searchProblems` tells of it. */
export function parseSearch(parameters: URLSearchParams): TrailSearch {
  const text = (name: string) => parameters.get(name)?.slice(0, MOST_TEXT) ?? "";
  const list = (name: string) => [...new Set(parameters.getAll(name).slice(0, MOST_VALUES))];
  const instant = (name: string) => (isInstant(text(name)) ? Number(text(name)) : null);
  return {
    words: text("q"),
    person: text("person") || null,
    side: SIDES.find((side) => side === text("side")) ?? "either",
    item: text("item") || null,
    share: text("share") || null,
    from: instant("from"),
    to: instant("to"),
    verbs: list("verb"),
    organisations: list("organisation"),
    stores: list("store"),
    labels: list("label").filter((label): label is Label => LABELS.includes(label as Label)),
    parties: list("party").filter((party): party is Party => PARTIES.includes(party as Party)),
  };
}

function entries<T extends object>(of: T): [keyof T, T[keyof T]][] {
  return Object.entries(of) as [keyof T, T[keyof T]][];
}

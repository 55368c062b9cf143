import { parse } from "tldts";
import { domainSkeleton } from "../rules/lookAlike";

/** Why two domains can be mistaken for each other. */
export const LIKENESSES = ["looks", "edit", "ending", "word"] as const;
export type Likeness = (typeof LIKENESSES)[number];

/** Two domains that can be mistaken for each other, in alphabetical order. */
export interface LookAlike {
  domains: [string, string];
  /** The first of LIKENESSES that applies: nobody looks at a pair twice. */
  likeness: Likeness;
}

/** A name as short as this is an edit, or a word, away from too many others. */
const SHORTEST_NAME = 4;

/** Words that are added to a known name to pass for it (common practice, no source). */
const ADDED = [
  ...["files", "file", "share", "shares", "sharing", "docs", "documents", "data", "cloud", "drive", "transfer"],
  ...["mail", "mails", "secure", "login", "account", "portal", "support", "service", "services", "team", "group"],
  ...["online", "office", "invoice", "billing", "payments"],
];

/** A registrable domain in its two parts. */
interface Parted {
  domain: string;
  name: string;
  suffix: string;
}

/** The domains under one key; most keys have only one. */
type Under<K> = Map<K, Parted | Parted[]>;

/**
 * Finds domains that can be mistaken for each other: that look the same (the skeleton of UTS #39), whose names are one edit
 * apart (Damerau and Levenshtein: a letter added, left out, changed, or two beside each other swapped), that have the
 * same name under another ending, or one of which has the other's name and a word more. Domains are taken one by one;
 * each is held under the keys by which another one would look it up, so that none is compared with all.
 */
export class LookAlikes {
  private readonly taken = new Set<string>();
  private readonly bySkeleton: Under<string> = new Map();
  private readonly byDeletion: Under<number> = new Map();
  private readonly byName: Under<string> = new Map();
  private readonly byLonger: Under<string> = new Map();

  /** Takes a registrable domain, normalised. @returns its pairs with the domains taken before */
  take(domain: string): LookAlike[] {
    if (this.taken.has(domain)) return [];
    this.taken.add(domain);
    const one = partsOf(domain);
    const found = new Map<string, Likeness>();
    const see = <K>(likeness: Likeness, under: Under<K>, key: K, isSo?: (other: Parted) => boolean) => {
      const there = under.get(key);
      if (!there) return;
      for (const other of Array.isArray(there) ? there : [there])
        if (!found.has(other.domain) && (!isSo || isSo(other))) found.set(other.domain, likeness);
    };
    const both = <K>(likeness: Likeness, under: Under<K>, key: K, isSo?: (other: Parted) => boolean) => {
      see(likeness, under, key, isSo);
      put(under, key, one);
    };
    both("looks", this.bySkeleton, domainSkeleton(domain));
    const isLong = one.name.length >= SHORTEST_NAME;
    if (isLong)
      for (const key of deletionsOf(one.name)) both("edit", this.byDeletion, key, (other) => isOneEdit(one, other));
    both("ending", this.byName, one.name);
    if (isLong) this.takeWords(one, see);
    return [...found].map(([other, likeness]) => ({
      domains: domain < other ? [domain, other] : [other, domain],
      likeness,
    }));
  }

  private takeWords(one: Parted, see: (likeness: Likeness, under: Under<string>, key: string) => void) {
    see("word", this.byLonger, one.name);
    for (const shorter of withoutWord(one.name)) {
      see("word", this.byName, shorter);
      put(this.byLonger, shorter, one);
    }
  }
}

/** The name is the part before the public suffix, or all of a domain that is itself a suffix. */
function partsOf(domain: string): Parted {
  const { domainWithoutSuffix: name, publicSuffix } = parse(domain, {
    allowPrivateDomains: false,
    validateHostname: false,
  });
  return name ? { domain, name, suffix: publicSuffix ?? "" } : { domain, name: domain, suffix: "" };
}

const BASE = 31;

/**
 * Numbers for a text, and for each text without one of its characters: texts one edit apart share one. Others
 * may too, so each match is checked.
 */
function deletionsOf(text: string): Set<number> {
  let after = 0;
  let power = 1;
  const behind = new Int32Array(text.length + 1);
  const powers = new Int32Array(text.length + 1).fill(1);
  for (let i = text.length - 1; i >= 0; i--) {
    after = (after + Math.imul(text.charCodeAt(i), power)) | 0;
    power = Math.imul(power, BASE);
    behind[i] = after;
    powers[i] = power;
  }
  const keys = new Set([after]);
  let before = 0;
  for (let i = 0; i < text.length; i++) {
    keys.add((Math.imul(before, powers[i + 1]) + behind[i + 1]) | 0);
    before = (Math.imul(before, BASE) + text.charCodeAt(i)) | 0;
  }
  return keys;
}

/** What is left of a name when a word at its end or beginning is removed. */
function withoutWord(name: string): Set<string> {
  const left = new Set<string>();
  const keep = (shorter: string) => {
    if (shorter.length >= SHORTEST_NAME) left.add(shorter);
  };
  const first = name.indexOf("-");
  if (first > 0) {
    keep(name.slice(first + 1));
    keep(name.slice(0, name.lastIndexOf("-")));
  }
  for (const word of ADDED) {
    if (name.endsWith(word)) keep(name.slice(0, -word.length));
    if (name.startsWith(word)) keep(name.slice(word.length));
  }
  return left;
}

/** Whether two names with the same ending are one edit apart (Damerau and Levenshtein, with neighbours swapped). */
function isOneEdit({ name: a, suffix }: Parted, { name: b, suffix: other }: Parted): boolean {
  if (suffix !== other) return false;
  let from = 0;
  while (from < a.length && from < b.length && a[from] === b[from]) from++;
  let [endA, endB] = [a.length, b.length];
  while (endA > from && endB > from && a[endA - 1] === b[endB - 1]) [endA, endB] = [endA - 1, endB - 1];
  const [left, right] = [a.slice(from, endA), b.slice(from, endB)];
  if (left.length + right.length === 1) return true;
  if (left.length === 1 && right.length === 1) return true;
  return left.length === 2 && right.length === 2 && left[0] === right[1] && left[1] === right[0];
}

function put<K>(under: Under<K>, key: K, one: Parted) {
  const there = under.get(key);
  if (!there) under.set(key, one);
  else if (Array.isArray(there)) there.push(one);
  else under.set(key, [there, one]);
}

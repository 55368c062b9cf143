import { type Estate, storeAt } from "@/core/estate/estate";
import { LABELS, STANCES } from "@/core/estate/records";
import { placeOf } from "@/core/estate/tree";
import { SPAN_DAYS } from "@/core/query/facets";
import { FIELDS, type FieldName, listedValues, NONE } from "@/core/query/fields";
import type { SortKey } from "@/core/query/order";
import type { PhraseHits } from "@/core/query/phrases";
import type { Comparison, KnownTest, Term } from "@/core/query/query";
import { Register } from "@/core/register/register";
import type { RegisterRow } from "@/core/register/columns";
import { registerRow } from "@/core/register/row";
import { stateOf, wayOf } from "@/core/register/wayAndState";
import { audienceWords } from "@/core/estate/shareWords";
import { RULE_IDS, type RuleId } from "@/core/rules/list";
import { findings } from "@/core/rules/findings";
import { judge } from "@/core/rules/judging";
import { LATCHES } from "@/core/changes/latches";
import { latchesOf } from "@/core/rules/latches";
import { stanceOf } from "@/core/rules/parties";
import { LEVELS, riskOf } from "@/core/rules/risk";
import { DAY, NEVER, type Seconds } from "@/core/time/instant";

/** The register as plain rows and a plain predicate over them: slow, and with nothing in common with the columns. */
export interface PlainRow {
  row: RegisterRow;
  slot: number;
  /** Texts in which words are looked for. */
  texts: string[];
  values: Record<string, string[]>;
  counts: Record<string, number>;
}

/** For so long a revoked share is found by those who ask for it. */
const YEAR = 365 * DAY;

/** Every share that is listed at t, in the order of the slots. */
export function plainRows(estate: Estate, t: Seconds): PlainRow[] {
  return knownRows(estate, t).filter(({ row }) => row.state !== "revoked");
}

/** The same with those that were revoked within the last year. */
export function knownRows(estate: Estate, t: Seconds): PlainRow[] {
  const judging = judge(estate, t);
  const broken = new Map<string, RuleId[]>();
  for (const { subject, rule } of findings(judging)) broken.set(subject, [...(broken.get(subject) ?? []), rule]);
  return judging.shares
    .filter(({ share }) => share.revoked + YEAR > t)
    .map((judged): PlainRow => {
      const { share } = judged;
      const { tree, people } = estate;
      const store = storeAt(estate, share.position);
      const rules = RULE_IDS.filter((id) => broken.get(share.id)?.includes(id));
      const maker = people[share.maker];
      const owner = people[estate.ownerAt(share.position)];
      const outsiders = [...judged.outsiders].map((index) => people[index]);
      const place = placeOf(tree, share.position);
      const latches = latchesOf(share, tree.kindAt(share.position), store.capabilities, rules);
      const row: RegisterRow = {
        id: share.id,
        storeId: store.id,
        storeName: store.name,
        itemId: share.itemId,
        itemName: tree.nameAt(share.position),
        itemKind: tree.kindAt(share.position),
        place,
        way: wayOf(share),
        role: share.role,
        label: judged.worst ?? LABELS[tree.label[share.position]],
        state: stateOf(estate, share, t),
        outside: judged.outside,
        latches,
        audience: audienceWords(estate, share),
        organisations: [...new Set(outsiders.map((one) => one.organisation))].sort(),
        expires: share.expires,
        ended:
          share.revoked <= t ? share.revoked : share.expires <= t && tree.live[share.position] ? share.expires : null,
        endedBy: null,
        lastUsed: share.lastUsed,
        isUseKnown: share.lastUsed === null || share.lastUsed <= estate.asAt,
        made: share.made,
        maker: maker?.name ?? "",
        department: maker?.department ?? null,
        rules,
        waived: [],
        risk: judged.outside ? riskOf(estate, share, t) : null,
      };
      const named = [...share.people].map((index) => people[index]);
      const reached = Array.from({ length: tree.end[share.position] - share.position }, (_, i) => share.position + i);
      const engaged = (positions: Set<number>) => {
        for (let at = share.position; at >= 0; at = tree.parent[at]) if (positions.has(at)) return true;
        return false;
      };
      return {
        row,
        slot: share.slot,
        texts: [
          row.itemName,
          ...place,
          store.name,
          ...named.flatMap((one) => [one.name, one.address]),
          ...(maker ? [maker.name, maker.address] : []),
          ...(share.group >= 0 ? [estate.principals.groups[share.group].name] : []),
        ],
        values: {
          store: [store.name, store.id],
          reach: [row.way],
          role: [row.role],
          label: [row.label],
          latch: LATCHES.filter((latch) => latches[latch] === "demanded"),
          rule: rules,
          waived: [],
          risk: row.risk ? [row.risk] : [],
          outside: [row.outside ? "yes" : "no"],
          state: [row.state],
          kind: [row.itemKind],
          password: share.hasPassword ? ["set"] : [],
          download: [share.download ? "possible" : "blocked"],
          owner: owner ? [owner.address, owner.name] : [],
          organisation: row.organisations,
          party: STANCES.filter((stance) => outsiders.some((one) => stanceOf(estate, one) === stance)),
          engagement: estate.engagements.filter(({ positions }) => engaged(positions)).map(({ record }) => record.name),
          for: named.map((one) => one.address),
          maker: maker ? [maker.address, maker.name] : [],
          department: row.department ? [row.department] : [],
        },
        counts: {
          people: named.length,
          outsiders: outsiders.length,
          items: reached.filter((position) => tree.live[position] === 1).length,
          findings: rules.length,
        },
      };
    });
}

/** Whether a row meets all of some terms; that of a revoked share only where one of them asks for such. */
export function meetsAll(plain: PlainRow, terms: readonly Term[], t: Seconds): boolean {
  const isState = (term: Term) => term.kind === "choice" && term.field === "state" && !term.negated;
  const isMeant = plain.row.state !== "revoked" || terms.some((term) => isState(term) && meets(plain, term, t));
  return isMeant && terms.every((term) => meets(plain, term, t));
}

export function meets(plain: PlainRow, term: Term, t: Seconds): boolean {
  if (term.kind === "moment" && term.test.kind === "unknown") return isUnknown(plain, term) !== term.negated;
  return !isUnknown(plain, term) && holds(plain, term, t) !== term.negated;
}

function holds({ row, texts, values, counts }: PlainRow, term: Term, t: Seconds): boolean {
  switch (term.kind) {
    case "words":
      return term.values.some(
        (phrase) => texts.some((text) => hasPhrase(text, phrase)) || phrase.toLowerCase() === row.id,
      );
    case "choice": {
      const own = values[term.field].map(plainText);
      const isListed = listedValues(term.field) !== undefined;
      return term.values.some(({ text, exact }) => {
        if (text === NONE && (isListed || !exact)) if (own.length === 0) return true;
        return own.some((one) => (exact ? one === plainText(text) : one.includes(plainText(text))));
      });
    }
    case "moment": {
      const at = { made: row.made, used: row.lastUsed, ends: row.expires === NEVER ? null : row.expires }[term.field];
      return term.test.kind !== "unknown" && meetsTest(at, term.test, t, term.field === "ends");
    }
    case "count":
      return compare(counts[term.field], term.comparison, term.count);
  }
}

/** A use behind the instant asked about tells nothing of that instant. */
const isUnknown = ({ row }: PlainRow, term: Term) => term.kind === "moment" && term.field === "used" && !row.isUseKnown;

function meetsTest(at: Seconds | null, test: KnownTest, t: Seconds, isAhead: boolean) {
  if (test.kind === "never") return at === null;
  if (at === null) return isAhead && test.comparison.startsWith(">");
  if (test.kind === "age") return compare(isAhead ? at - t : t - at, test.comparison, test.seconds);
  switch (test.comparison) {
    case "<":
      return at < test.from;
    case "<=":
      return at < test.to;
    case ">":
      return at >= test.to;
    case ">=":
      return at >= test.from;
    case "=":
      return at >= test.from && at < test.to;
  }
}

function compare(a: number, comparison: Comparison, b: number): boolean {
  return { "<": a < b, "<=": a <= b, ">": a > b, ">=": a >= b, "=": a === b }[comparison];
}

/** Marks that belong to no script, but for the voicing of kana, and those of Hebrew and Arabic, are left out when one looks for a name. */
const LEFT_OUT = /(?![\u3099\u309a])[\p{Script=Inherited}\p{Script=Hebrew}\p{Script=Arabic}]/u;
const SPACELESS = /[\p{Script=Han}\p{Script=Katakana}\p{Script=Hiragana}\p{Script=Thai}\p{Script=Khmer}ー]/u;

function plainText(text: string): string {
  // Names from right to left stand in isolates, which are no letters.
  const letters = [...text.replace(/[\u2068\u2069]/g, "").normalize("NFKD")].filter(
    (one) => !(/\p{M}/u.test(one) && LEFT_OUT.test(one)),
  );
  const plain = letters.join("").toUpperCase().toLowerCase().normalize("NFKD");
  return plain.replaceAll("ς", "σ").normalize("NFC");
}

/** Whether words stand in a text one after the other, the last of them perhaps only begun. */
function hasPhrase(text: string, phrase: string): boolean {
  const words = (of: string) =>
    [...plainText(of)]
      .map((letter) => (SPACELESS.test(letter) ? ` ${letter}` : /[\p{L}\p{N}\p{M}]/u.test(letter) ? letter : " "))
      .join("")
      // A letter of another script behind one of those begins a word of its own.
      .replace(new RegExp(`(${SPACELESS.source}\\p{M}*)(?=[\\p{L}\\p{N}])`, "gu"), "$1 ")
      .split(/ +/u)
      .filter(Boolean);
  return ` ${words(text).join(" ")}`.includes(` ${words(phrase).join(" ")}`);
}

/** Rows in an order; equal ones in the order of their slots. */
export function plainlySorted(rows: readonly PlainRow[], order: readonly SortKey[]): PlainRow[] {
  return [...rows].sort((a, b) => {
    for (const { by, reversed } of order) {
      const difference = plainOrder(a, b, by);
      if (difference !== 0) return reversed ? -difference : difference;
    }
    return a.slot - b.slot;
  });
}

function plainOrder(a: PlainRow, b: PlainRow, by: SortKey["by"]): number {
  const texts = (x: string, y: string) => (plainText(x) < plainText(y) ? -1 : plainText(x) > plainText(y) ? 1 : 0);
  const rank = ({ row }: PlainRow) => (row.risk ? LEVELS.indexOf(row.risk) : -1);
  const roles = ["view", "comment", "edit", "manage", "deposit"];
  switch (by) {
    case "risk":
      return rank(b) - rank(a) || b.counts.findings - a.counts.findings;
    case "item":
      return texts(a.row.itemName, b.row.itemName);
    case "for":
      return texts(a.row.audience, b.row.audience);
    case "role":
      return roles.indexOf(b.row.role) - roles.indexOf(a.row.role);
    case "ends":
      return a.row.expires - b.row.expires;
    case "used":
      return (a.row.lastUsed ?? -Infinity) - (b.row.lastUsed ?? -Infinity) || 0;
    case "made":
      return b.row.made - a.row.made;
    case "maker":
      return texts(a.row.maker, b.row.maker);
    case "findings":
      return b.counts.findings - a.counts.findings;
    case "items":
      return b.counts.items - a.counts.items;
  }
}

/** How many rows have each value of a field, were that field not asked about. */
export function plainCounts(
  rows: readonly PlainRow[],
  terms: readonly Term[],
  field: FieldName,
  t: Seconds,
): Map<string, number> {
  const others = terms.filter((term) => term.kind === "words" || term.field !== field);
  const counts = new Map<string, number>();
  const add = (value: string) => counts.set(value, (counts.get(value) ?? 0) + 1);
  const isFound = (one: PlainRow) =>
    field === "state" ? others.every((term) => meets(one, term, t)) : meetsAll(one, others, t);
  for (const plain of rows.filter(isFound)) {
    if (FIELDS[field].kind === "moment") add(plainSpan(plain, field, t));
    // A store and a maker have a second name, which is not a second value.
    else
      for (const value of plain.values[field].slice(0, ["store", "maker", "owner"].includes(field) ? 1 : undefined))
        add(value);
  }
  return counts;
}

function plainSpan({ row }: PlainRow, field: FieldName, t: Seconds): string {
  const at = field === "made" ? row.made : field === "used" ? row.lastUsed : row.expires;
  if (at === null || at === NEVER) return "never";
  const days = (field === "ends" ? at - t : t - at) / DAY;
  const span = SPAN_DAYS.findIndex((end) => days < end);
  return String(span < 0 ? SPAN_DAYS.length : span);
}

/** Finds phrases in names and addresses by looking through all of them. */
export function plainFind(estate: Estate): (phrase: string) => PhraseHits {
  return (phrase) => {
    const indexesOf = (texts: string[][]) =>
      [...texts.keys()].filter((index) => texts[index].some((text) => hasPhrase(text, phrase)));
    return {
      items: indexesOf([...estate.items.names].map((name) => [name])),
      people: indexesOf(estate.people.map(({ name, address }) => [name, address])),
      groups: indexesOf(estate.principals.groups.map(({ name }) => [name])),
      stores: [...estate.stores.values()].filter(({ name }) => hasPhrase(name, phrase)).map(({ id }) => id),
    };
  };
}

/** The rows of all listed shares, as the register itself has them. */
export function listedRows(estate: Estate, t: Seconds): RegisterRow[] {
  const register = new Register(estate);
  return register
    .at(t)
    .filter((slot) => register.isIn[slot] === 1)
    .map((slot) => registerRow(register, slot));
}

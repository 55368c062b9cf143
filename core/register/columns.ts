import { z } from "zod";
import { LATCHES } from "../changes/latches";
import type { Person } from "../estate/principals";
import { type Kind, KINDS, LABELS, type StoreRecord } from "../estate/records";
import type { Share } from "../estate/share";
import { SHARE_ROLES } from "../estate/shares";
import { placeOf } from "../estate/tree";
import { LATCH_STATES, type Latches, latchesOf } from "../rules/latches";
import { RULE_IDS, type RuleId, RULES } from "../rules/list";
import { LEVELS } from "../rules/risk";
import { NEVER, rfc3339 } from "../time/instant";
import type { Register } from "./register";
import { endedAt, STATES, WAYS } from "./wayAndState";

/** A listed share and everything that its row is read from. */
export interface Listed {
  register: Register;
  slot: number;
  share: Share;
  kind: Kind;
  store: StoreRecord;
  maker: Person | undefined;
  /** The rules that it breaks, and those for which a waiver is in force. */
  rules: readonly RuleId[];
  waived: readonly RuleId[];
}

/** A column of an export. Text that others chose can look like a formula, and may recur in few rows or in many. */
interface Exported<T> {
  head: string;
  cell: (value: T, one: { isUseKnown: boolean }) => string;
  from: "us" | "others" | "others, again and again";
}

/** One column of the register: what drives the row, the contract, the exports and the screen. */
export interface Column<T> {
  schema: z.ZodType<T>;
  of: (one: Listed) => T;
  exported?: Exported<T>[];
  /** Shown on the screen where that has no cell of its own for it; hidden until somebody chooses it. */
  shown?: { title: string; width: number; text: (value: T) => string };
}

/** A column's type comes from its schema. */
function column<T>(given: { schema: z.ZodType<T> } & Omit<Column<NoInfer<T>>, "schema">): Column<T> {
  return given as Column<T>;
}

const ours = <T extends string | null>(head: string): Exported<T>[] => [
  { head, cell: (value) => value ?? "", from: "us" },
];
const others = (head: string): Exported<string>[] => [{ head, cell: (value) => value, from: "others" }];
const othersAgain = <T extends string | null>(head: string): Exported<T>[] => [
  { head, cell: (value) => value ?? "", from: "others, again and again" },
];

/** Keyed by the list itself: shares that break the same rules have the same list. */
const titles = new WeakMap<readonly RuleId[], string>();
function titlesOf(rules: readonly RuleId[]): string {
  let text = titles.get(rules);
  if (text === undefined) titles.set(rules, (text = rules.map((rule) => RULES[rule].title).join("; ")));
  return text;
}
const ruleIds: z.ZodType<readonly RuleId[]> = z.array(z.enum(RULE_IDS));
const rulesIn = (head: string): Exported<readonly RuleId[]>[] => [
  { head, cell: titlesOf, from: "others, again and again" },
];

/** Every column. Their order is the order of an export. Instants are seconds since 1970. */
export const COLUMNS = {
  id: column({ schema: z.string(), of: ({ share }) => share.id, exported: others("Share") }),
  storeId: column({ schema: z.string(), of: ({ store }) => store.id }),
  storeName: column({
    schema: z.string(),
    of: ({ store }) => store.name,
    exported: othersAgain("Store"),
  }),
  itemId: column({ schema: z.string(), of: ({ share }) => share.itemId }),
  itemName: column({
    schema: z.string(),
    of: ({ register, share }) => register.estate.tree.nameAt(share.position),
    exported: others("Item"),
  }),
  place: column({
    schema: z.array(z.string()),
    of: ({ register, share }) => placeOf(register.estate.tree, share.position),
    exported: [{ head: "Place", cell: (place) => place.join(" / "), from: "others" }],
  }),
  itemKind: column({
    schema: z.enum(KINDS),
    of: ({ kind }) => kind,
    exported: ours("Kind"),
  }),
  way: column({
    schema: z.enum(WAYS),
    of: ({ register, slot }) => WAYS[register.fact(slot, "way")],
    exported: ours("Reach"),
  }),
  audience: column({
    schema: z.string(),
    of: ({ register, slot }) => register.audiences.get(register.audience[slot]),
    exported: othersAgain("Audience"),
  }),
  organisations: column({
    schema: z.array(z.string()),
    of: ({ register, slot }) => {
      const found = register.organisationSets.get(register.organisations[slot]);
      const { organisations } = register.estate.principals;
      return found.length === 0 ? [] : found.map((one) => organisations[one]).sort();
    },
    exported: [{ head: "Organisations", cell: (names) => names.join(", "), from: "others" }],
  }),
  role: column({
    schema: z.enum(SHARE_ROLES),
    of: ({ share }) => share.role,
    exported: ours("Role"),
  }),
  /** The most sensitive label among all that it reaches. */
  label: column({
    schema: z.enum(LABELS),
    of: ({ register, slot }) => LABELS[register.fact(slot, "label")],
    exported: ours("Label"),
  }),
  state: column({
    schema: z.enum(STATES),
    of: ({ register, slot }) => STATES[register.fact(slot, "state")],
    exported: ours("State"),
  }),
  outside: column({
    schema: z.boolean(),
    of: ({ register, slot }) => register.fact(slot, "outside") === 1,
    exported: [{ head: "Outside", cell: (outside) => (outside ? "yes" : "no"), from: "us" }],
  }),
  risk: column({
    schema: z.enum(LEVELS).nullable(),
    of: ({ register, slot }) => LEVELS[register.fact(slot, "risk")] ?? null,
    exported: ours("Risk"),
  }),
  latches: column({
    schema: z.record(z.enum(LATCHES), z.enum(LATCH_STATES)) satisfies z.ZodType<Latches>,
    of: ({ share, kind, store, rules, waived }) => latchesOf(share, kind, store.capabilities, rules, waived),
    exported: LATCHES.map((latch): Exported<Latches> => {
      return { head: `Latch: ${latch}`, cell: (all) => all[latch], from: "us" };
    }),
  }),
  /** When it ends by its store, or by our own standing order where that comes before. */
  expires: column({
    schema: z.number(),
    of: ({ share }) => share.ends,
    exported: [{ head: "Ends", cell: (at) => (at === NEVER ? "" : rfc3339(at)), from: "us" }],
  }),
  /** When it was revoked, or came to its end; null while it stands, and where it was used up. */
  ended: column({
    schema: z.number().nullable(),
    of: ({ register, slot, share }) => endedAt(STATES[register.fact(slot, "state")], share, register.now),
    exported: [{ head: "Ended", cell: (at) => (at === null ? "" : rfc3339(at)), from: "us" }],
  }),
  /** Who revoked it, if that is known: dockets and the trail know, the estate doesn't. */
  endedBy: column({ schema: z.string().nullable(), of: () => null, exported: othersAgain("Ended by") }),
  /** Null where it was never used, or only after the past instant that is asked about. */
  lastUsed: column({
    schema: z.number().nullable(),
    of: ({ share }) => share.lastUsed,
    exported: [
      {
        head: "Last used",
        cell: (at, { isUseKnown }) => (!isUseKnown ? "unknown" : at === null ? "" : rfc3339(at)),
        from: "us",
      },
    ],
  }),
  /** False where it was used after the past instant asked about, and no earlier use is known. */
  isUseKnown: column({ schema: z.boolean(), of: ({ share }) => share.isUseKnown }),
  made: column({
    schema: z.number(),
    of: ({ share }) => share.made,
    exported: [{ head: "Made", cell: rfc3339, from: "us" }],
  }),
  maker: column({
    schema: z.string(),
    of: ({ maker }) => maker?.name ?? "",
    exported: othersAgain("Made by"),
  }),
  department: column({
    schema: z.string().nullable(),
    of: ({ maker }) => maker?.department ?? null,
    exported: othersAgain("Department"),
  }),
  /** The rules that it breaks. */
  rules: column({ schema: ruleIds, of: ({ rules }) => rules, exported: rulesIn("Findings") }),
  /** Those for which a waiver is in force. */
  waived: column({ schema: ruleIds, of: ({ waived }) => waived, exported: rulesIn("Waived") }),
};

export type ColumnName = keyof typeof COLUMNS;
export const COLUMN_NAMES = Object.keys(COLUMNS) as ColumnName[];

/** One share as the register shows it. */
export type RegisterRow = { [Name in ColumnName]: z.output<(typeof COLUMNS)[Name]["schema"]> };

export function columnOf(name: ColumnName): Column<unknown> {
  return COLUMNS[name] as unknown as Column<unknown>;
}

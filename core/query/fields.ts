import { KINDS, LABELS, ROLES } from "../estate/records";
import { type RegisterRow, STATES, WAYS } from "../register/row";
import { RULE_IDS } from "../rules/catalogue";
import { LATCHES } from "../rules/latches";
import { LEVELS } from "../rules/risk";
import { NEVER, type Seconds } from "../time/instant";

/** A field whose values are words: exactly one of a list where `values` is given, else any text. */
interface WordField {
  kind: "words";
  help: string;
  values?: readonly string[];
  of: (row: RegisterRow) => readonly string[];
}

/** A field that is a moment: how long ago, or how far ahead. Null is never. */
interface AgeField {
  kind: "age";
  help: string;
  direction: "past" | "ahead";
  of: (row: RegisterRow) => Seconds | null;
}

const LEVEL_WORDS = LEVELS.map((level) => level as string);

/** What can stand before a colon in a query. */
export const FIELDS = {
  store: { kind: "words", help: "the store's name", of: (row) => [row.storeName, row.storeId] },
  reach: { kind: "words", help: "how it lets people in", values: WAYS, of: (row) => [row.way] },
  role: { kind: "words", help: "what they may do", values: [...ROLES, "deposit"], of: (row) => [row.role] },
  label: { kind: "words", help: "the most sensitive label it reaches", values: LABELS, of: (row) => [row.label] },
  latch: {
    kind: "words",
    help: "a latch that a rule demands and that is open",
    values: LATCHES,
    of: (row) => LATCHES.filter((latch) => row.latches[latch] === "demanded"),
  },
  rule: { kind: "words", help: "a rule that it breaks", values: RULE_IDS, of: (row) => row.rules },
  risk: { kind: "words", help: "its risk", values: LEVEL_WORDS, of: (row) => (row.risk ? [row.risk] : []) },
  outside: {
    kind: "words",
    help: "whether it reaches outside",
    values: ["yes", "no"],
    of: (row) => [row.outside ? "yes" : "no"],
  },
  state: { kind: "words", help: "live, or why not", values: STATES, of: (row) => [row.state] },
  kind: { kind: "words", help: "what is shared", values: KINDS, of: (row) => [row.itemKind] },
  for: {
    kind: "words",
    help: "an address or organisation that it is for",
    of: (row) => [...row.addresses, ...row.organisations],
  },
  maker: { kind: "words", help: "who made it", of: (row) => [row.maker] },
  department: {
    kind: "words",
    help: "the department of who made it",
    of: (row) => (row.department ? [row.department] : []),
  },
  used: { kind: "age", help: "when it was last used", direction: "past", of: (row) => row.lastUsed },
  made: { kind: "age", help: "when it was made", direction: "past", of: (row) => row.made },
  ends: {
    kind: "age",
    help: "when it ends",
    direction: "ahead",
    of: (row) => (row.expires === NEVER ? null : row.expires),
  },
} satisfies Record<string, WordField | AgeField>;

export type FieldName = keyof typeof FIELDS;
export type Field = WordField | AgeField;
export const FIELD_NAMES = Object.keys(FIELDS) as FieldName[];

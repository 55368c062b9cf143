import { KINDS, LABELS, ROLES, STANCES } from "../estate/records";
import { DOWNLOADS, PASSWORDS, STATES, WAYS } from "../register/wayAndState";
import { RULE_IDS } from "../rules/list";
import { LATCHES } from "../changes/latches";
import { LEVELS } from "../rules/risk";

/** A field of which a share has one value, several, or none: those of a list, or whatever the data hold. */
interface ChoiceField {
  kind: "choice";
  help: string;
  values?: readonly string[];
}
/** A field that is a moment: how long ago or ahead, before or after a day, or never. */
interface MomentField {
  kind: "moment";
  help: string;
  direction: "past" | "ahead";
}
interface CountField {
  kind: "count";
  help: string;
}

/** As a field's value, this finds shares that have none. */
export const NONE = "none";

/** What can stand before a colon in a query. */
export const FIELDS = {
  store: { kind: "choice", help: "the store's name" },
  reach: { kind: "choice", help: "how it lets people in", values: WAYS },
  role: { kind: "choice", help: "what they may do", values: [...ROLES, "deposit"] },
  label: { kind: "choice", help: "the most sensitive label it reaches", values: LABELS },
  password: { kind: "choice", help: "whether a password is asked for", values: PASSWORDS },
  download: { kind: "choice", help: "whether it allows downloads", values: DOWNLOADS },
  latch: { kind: "choice", help: "a latch a rule requires that is open", values: LATCHES },
  rule: { kind: "choice", help: "a rule that it breaks", values: RULE_IDS },
  waived: { kind: "choice", help: "a rule that is waived for it", values: RULE_IDS },
  risk: { kind: "choice", help: "its risk", values: LEVELS },
  outside: { kind: "choice", help: "whether it reaches outside", values: ["yes", "no"] },
  state: {
    kind: "choice",
    help: "live, or why not; only this finds shares revoked in the last year",
    values: STATES,
  },
  kind: { kind: "choice", help: "what is shared", values: KINDS },
  organisation: { kind: "choice", help: "an organisation whose people it names" },
  party: { kind: "choice", help: "our stance on such an organisation", values: STANCES },
  engagement: { kind: "choice", help: "the project its item belongs to" },
  for: { kind: "choice", help: "an address it names" },
  docket: { kind: "choice", help: "a docket that changes it, by its id" },
  round: { kind: "choice", help: "a round that asks about it, by its number" },
  share: { kind: "choice", help: "the share itself, by its id" },
  owner: { kind: "choice", help: "who owns the item, by name or address" },
  maker: { kind: "choice", help: "who made it, by name or address" },
  department: { kind: "choice", help: "the department of who made it" },
  made: { kind: "moment", help: "when it was made", direction: "past" },
  used: { kind: "moment", help: "when it was last used", direction: "past" },
  ends: { kind: "moment", help: "when it ends", direction: "ahead" },
  people: { kind: "count", help: "how many people it names" },
  outsiders: { kind: "count", help: "how many outsiders it names" },
  items: { kind: "count", help: "how many files and folders it reaches" },
  findings: { kind: "count", help: "how many rules it breaks" },
} as const satisfies Record<string, ChoiceField | MomentField | CountField>;

/** What can stand before a colon in the queries of a list. */
export type Fields = Readonly<Record<string, Field>>;
export type FieldName = keyof typeof FIELDS;
export type Field = ChoiceField | MomentField | CountField;
export const FIELD_NAMES = Object.keys(FIELDS) as FieldName[];

type NamesOf<K extends Field["kind"]> = {
  [F in FieldName]: (typeof FIELDS)[F]["kind"] extends K ? F : never;
}[FieldName];
export type ChoiceName = NamesOf<"choice">;
export type MomentName = NamesOf<"moment">;
export type CountName = NamesOf<"count">;

function namesOf<K extends Field["kind"]>(kind: K): NamesOf<K>[] {
  return FIELD_NAMES.filter((name) => FIELDS[name].kind === kind) as NamesOf<K>[];
}
export const CHOICE_NAMES = namesOf("choice");
/** What stands beside the columns: people in the pool, dockets where they are kept. */
export type CodedName = Exclude<ChoiceName, "for" | LookedUp>;

/** What is looked up by an id, and stands in no column. */
export const LOOKED_UP = ["docket", "round", "share"] as const;
export type LookedUp = (typeof LOOKED_UP)[number];
export const isLookedUp = (name: FieldName | null): name is LookedUp =>
  (LOOKED_UP as readonly (FieldName | null)[]).includes(name);
export const MOMENT_NAMES = namesOf("moment");
export const COUNT_NAMES = namesOf("count");

/** The values that a field can have, where they don't depend on the data. */
export function listedValues(name: FieldName): readonly string[] | undefined {
  const field: Field = FIELDS[name];
  return field.kind === "choice" ? field.values : undefined;
}

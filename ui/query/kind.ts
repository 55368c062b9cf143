import type { Fields } from "@/core/query/fields";

/** A value of the data that a field may be asked for. */
export interface OfferedValue {
  value: string;
  title: string;
}

/** What a list can be asked by: its fields, and how it is explained. */
export interface QueryKind {
  fields: Fields;
  /** The first stands in the empty field. */
  examples: readonly (readonly [query: string, meaning: string])[];
  /** Where words without a field are looked for. */
  wordsIn: string;
  /** How values of the data are found, where they can be. */
  values?: {
    key: readonly string[];
    ask: (asked: { field: string; text: string; past: string | null; signal: AbortSignal }) => Promise<OfferedValue[]>;
  };
}

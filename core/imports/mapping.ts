import { z } from "zod";
import { ROLES } from "../estate/records";
import { isZone } from "../time/zoned";
import { ENCODINGS, SEPARATORS } from "./file";
import { CHOICES, FIELDS, type ChoiceField } from "./field";

/** How dates with two numbers before the year are read: in the order that fits all rows, or as somebody has chosen. */
export const DATE_ORDERS = ["by the rows", "day first", "month first"] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

const text = z.string().max(1_000);
const meanings = <F extends ChoiceField>(field: F) => z.record(text, z.enum(CHOICES[field])).optional();
/** By field and by text, as `plainText` makes it: what it means. */
const values = z.object({
  ...{ kind: meanings("kind"), label: meanings("label"), inherits: meanings("inherits") },
  ...{ audience: meanings("audience"), means: meanings("means"), role: meanings("role") },
  ...{ password: meanings("password"), download: meanings("download"), inherited: meanings("inherited") },
});
export type Values = z.output<typeof values>;

/** How a report is read. It is kept under a name, for the next report of the same shape. */
export const mappingSchema = z.object({
  /** Of a file of text; a workbook has neither. */
  encoding: z.enum(ENCODINGS),
  separator: z.enum(SEPARATORS),
  /** Of a workbook: the sheet's name. Null for its first. */
  sheet: z.string().max(200).nullable(),
  /** The row on which the headings begin, and how many rows they take. */
  headingRow: z.int().min(1).max(100),
  headingRows: z.int().min(1).max(2),
  /** By field: the heading of its column. */
  columns: z.partialRecord(z.enum(FIELDS), text),
  values,
  dateOrder: z.enum(DATE_ORDERS),
  /** The time zone of times without one. */
  zone: z.string().refine(isZone, "must be a time zone such as Europe/Lisbon"),
  /** An empty cell of the item’s columns means what the row above says. */
  repeatsAbove: z.boolean(),
  /** The role where no column says it. */
  roleOtherwise: z.enum(ROLES),
});
export type Mapping = z.output<typeof mappingSchema>;

/** The form of a mapping's name. */
export const mappingName = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, "must be 1 to 40 lower-case letters, digits and hyphens, such as archive-export");

/** Whether a report with some columns can be read by a mapping: it has all that the mapping names. */
export function fits({ columns }: Pick<Mapping, "columns">, headings: readonly string[]): boolean {
  return Object.values(columns).every((heading) => headings.includes(heading));
}

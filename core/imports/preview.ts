import { DATE_FIELDS } from "./field";
import type { Rows } from "./file";
import { columnsOf } from "./headings";
import type { Mapping } from "./mapping";
import { DateLook } from "./reading";
import { type RowRead, RowReader } from "./row";

/** What the first rows of a report say when read with a mapping. */
export interface ReportPreview {
  /** Rows that aren’t empty, with their numbers in the file. */
  rows: { row: number; read: NonNullable<RowRead> }[];
  understood: number;
  refused: number;
  left: number;
  /** The question about dates to be answered before these rows can be read completely. */
  question: string | null;
}

/** Reads the first rows of a report. Dates that could be read in two ways are left out until somebody says which. */
export function previewOf(rows: Rows, mapping: Mapping): ReportPreview {
  const look = new DateLook(mapping);
  look.take(rows, true);
  const { settled, question } = look.orders;
  const order = mapping.dateOrder === "by the rows" ? settled : mapping.dateOrder;
  const columns = columnsOf(rows, mapping);
  const reader = new RowReader(order === null ? withoutDates(mapping) : mapping, columns, order ?? "day first");
  const preview: ReportPreview = {
    rows: [],
    understood: 0,
    refused: 0,
    left: 0,
    question: order === null ? question : null,
  };
  const first = mapping.headingRow - 1 + mapping.headingRows;
  for (let i = first; i < rows.length; i++) {
    const read = reader.read(rows[i]);
    if (read === null) continue;
    preview.rows.push({ row: i + 1, read });
    if ("problem" in read) preview.refused++;
    else if ("left" in read) preview.left++;
    else preview.understood++;
  }
  return preview;
}

function withoutDates(mapping: Mapping): Mapping {
  const columns = { ...mapping.columns };
  for (const field of DATE_FIELDS) delete columns[field];
  return { ...mapping, columns };
}

/** What is assumed where a report has no column for it, in sentences. */
export function takenForGranted({ columns, roleOtherwise }: Mapping): string[] {
  const has = (field: keyof Mapping["columns"]) => columns[field] !== undefined;
  return [
    ...(has("role") ? [] : [`Every share is taken to have the role ${roleOtherwise}.`]),
    ...(has("password") ? [] : ["Links are taken to have no password."]),
    ...(has("download") ? [] : ["Downloading is taken to be allowed."]),
    ...(has("ends") ? [] : ["Shares are taken to have no end."]),
    ...(has("lastUsed") ? [] : ["Nothing is known about when shares were last used, so no rule asks about it."]),
    ...(has("madeBy")
      ? []
      : [has("owner") ? "The item’s owner is taken to have made a share." : "It isn’t known who made a share."]),
    ...(has("madeOn") ? [] : ["Shares are taken to have been made on the day of their first import."]),
  ];
}

/** What a mapping still needs before any row can be read; null where it is complete. */
export function lacks({ columns }: Pick<Mapping, "columns">): string | null {
  if (!columns.path && !columns.name && !columns.item) return "Say which column has the item’s path, name or ID.";
  if (!columns.audience && !columns.means) return "Say which column has who an item is shared with.";
  return null;
}

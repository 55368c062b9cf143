"use client";

import { shownName } from "@/core/text/shown";
import { useId } from "react";
import { type Field, FIELD_WORDS, isChoiceField } from "@/core/imports/field";
import type { Rows } from "@/core/imports/file";
import type { Mapping } from "@/core/imports/mapping";
import type { Proposal } from "@/core/imports/propose";
import { begun } from "@/core/text/text";
import { TextsLine } from "./TextsLine";
import { FIELD_GROUPS } from "./words";

interface Props {
  rows: Rows;
  columns: readonly string[];
  mapping: Mapping;
  proposals: Partial<Record<Field, Proposal>>;
  /** By field: texts that the whole report has and nobody has mapped. */
  unmapped: readonly { field: Field; text: string; rows: number }[];
  onColumn: (column: string, field: Field | null) => void;
  onMeaning: (field: Field, text: string, meaning: string) => void;
}

/** Which column says what, with the reason for each proposal; and what its texts mean. */
export function ColumnsPart({ rows, columns, mapping, proposals, unmapped, onColumn, onMeaning }: Props) {
  const first = mapping.headingRow - 1 + mapping.headingRows;
  return (
    <section aria-labelledby="columns" className="mt-6">
      <h2 id="columns" className="text-[17px] font-semibold">
        What each column says
      </h2>
      <table className="mt-2 w-full max-w-6xl table-fixed">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="w-52 py-1 pr-3 font-semibold">Column</th>
            <th className="px-3 font-semibold">Its first values</th>
            <th className="w-72 px-3 font-semibold">It says</th>
            <th className="w-64 px-3 font-semibold">Why</th>
          </tr>
        </thead>
        {columns.map((column, at) => {
          const field = (Object.keys(mapping.columns) as Field[]).find((one) => mapping.columns[one] === column);
          const proposal = field && proposals[field];
          return (
            <tbody key={column} className="border-t border-line">
              <tr className="align-baseline">
                <th scope="row" className="py-1.5 pr-3 text-left font-semibold wrap-anywhere">
                  {shownName(column)}
                </th>
                <td className="truncate px-3 text-[12.5px] text-ink-soft">{examples(rows, first, at)}</td>
                <td className="px-3 py-1">
                  <FieldChoice {...{ column, field }} onPick={(picked) => onColumn(column, picked)} />
                </td>
                <td className="px-3 text-[12.5px] text-ink-faint">
                  {proposal?.column === column ? proposal.why : field ? "you chose it" : ""}
                </td>
              </tr>
              {field && isChoiceField(field) && (
                <TextsLine {...{ field, rows, columns, mapping, onMeaning }} unmapped={unmapped} />
              )}
            </tbody>
          );
        })}
      </table>
    </section>
  );
}

const EXAMPLES = 4;

function examples(rows: Rows, first: number, at: number): string {
  const seen = new Set<string>();
  for (let i = first; i < rows.length && seen.size < EXAMPLES; i++) {
    const text = (rows[i][at] ?? "").trim();
    if (text !== "") seen.add(text);
  }
  return shownName([...seen].join(" · "));
}

interface FieldProps {
  column: string;
  field: Field | undefined;
  onPick: (field: Field | null) => void;
}

function FieldChoice({ column, field, onPick }: FieldProps) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className="sr-only">
        What {shownName(column)} says
      </label>
      <select
        id={id}
        value={field ?? ""}
        onChange={({ target }) => onPick((target.value || null) as Field | null)}
        className="h-[30px] w-full rounded-[3px] border border-control bg-raised px-2"
      >
        <option value="">nothing that is needed</option>
        {FIELD_GROUPS.map(([group, fields]) => (
          <optgroup key={group} label={group}>
            {fields.map((one) => (
              <option key={one} value={one}>
                {begun(FIELD_WORDS[one])}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </>
  );
}

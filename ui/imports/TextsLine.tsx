"use client";

import { shownName } from "@/core/text/shown";
import { useId } from "react";
import { CHOICES, type ChoiceField, type Field } from "@/core/imports/field";
import type { Rows } from "@/core/imports/file";
import type { Mapping } from "@/core/imports/mapping";
import { textsOf } from "@/core/imports/propose";
import { countWords } from "../parts/words";
import { MEANING_WORDS } from "./words";

interface Props {
  field: ChoiceField;
  rows: Rows;
  columns: readonly string[];
  mapping: Mapping;
  unmapped: readonly { field: Field; text: string; rows: number }[];
  onMeaning: (field: Field, text: string, meaning: string) => void;
}

/** More of them can be mapped once they turn out to be needed. */
const MOST_SHOWN = 24;

/** What the texts of a column mean, each mapped once. */
export function TextsLine({ field, rows, columns, mapping, unmapped, onMeaning }: Props) {
  const values = (mapping.values[field] ?? {}) as Record<string, string>;
  const found = new Map(textsOf(rows, columns, mapping, mapping.columns[field]!));
  for (const one of unmapped) if (one.field === field && !found.has(one.text)) found.set(one.text, one.rows);
  // Addresses aren't values to be mapped, and the meaning of an empty cell is known.
  const texts = [...found].filter(([text]) => text !== "" && !(field === "audience" && text.includes("@")));
  const open = (text: string) => Number(values[text] === undefined);
  const shown = texts.sort((a, b) => open(b[0]) - open(a[0])).slice(0, MOST_SHOWN);
  if (shown.length === 0) return null;
  return (
    <tr>
      <td />
      <td colSpan={3} className="px-3 pb-2">
        <ul className="flex flex-wrap gap-x-6 gap-y-1.5">
          {shown.map(([text, count]) => (
            <li key={text}>
              <Meaning
                {...{ field, text, count }}
                meaning={values[text]}
                onPick={(meaning) => onMeaning(field, text, meaning)}
              />
            </li>
          ))}
          {texts.length > shown.length && (
            <li className="text-ink-faint">and {countWords(texts.length - shown.length, "more text")}</li>
          )}
        </ul>
      </td>
    </tr>
  );
}

interface MeaningProps {
  field: ChoiceField;
  text: string;
  count: number;
  meaning: string | undefined;
  onPick: (meaning: string) => void;
}

function Meaning({ field, text, count, meaning, onPick }: MeaningProps) {
  const id = useId();
  return (
    <span className="flex items-center gap-1.5 text-[12.5px]">
      <label htmlFor={id} title={countWords(count, "row")} className="max-w-56 truncate">
        “{shownName(text)}” means
      </label>
      <select
        id={id}
        value={meaning ?? ""}
        onChange={({ target }) => onPick(target.value)}
        className={`h-[26px] rounded-[3px] border bg-raised px-1 ${meaning ? "border-control" : "border-copper"}`}
      >
        {meaning === undefined && <option value="">choose…</option>}
        {CHOICES[field].map((one) => (
          <option key={one} value={one}>
            {MEANING_WORDS[field][one]}
          </option>
        ))}
      </select>
    </span>
  );
}

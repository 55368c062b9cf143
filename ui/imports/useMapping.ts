"use client";

import { useMemo, useState } from "react";
import type { LookTold, SavedMappingTold } from "@/contract/imports";
import { type Field, isChoiceField } from "@/core/imports/field";
import { columnsOf, guessHeadings } from "@/core/imports/headings";
import { fits, type Mapping } from "@/core/imports/mapping";
import { proposeColumns, proposeMapping, proposeValues, textsOf } from "@/core/imports/propose";

export interface StoreNamed {
  source: string;
  title: string;
}

/** How a report is read: as one of its shape was before, else as is proposed; and what somebody has changed of it. */
export function useMapping(look: LookTold, saved: readonly SavedMappingTold[], zone: string) {
  const { rows, encoding, separator, sheet } = look;
  const [known] = useState(() => saved.find((one) => isOfShape(one.mapping, look)) ?? null);
  const [mapping, setMapping] = useState<Mapping>(() =>
    known
      ? { ...known.mapping, encoding, separator, sheet }
      : proposeMapping(rows, guessHeadings(rows), { encoding, separator, sheet, zone }),
  );
  const [store, setStore] = useState<StoreNamed>(() => known ?? { source: "", title: "" });
  const columns = useMemo(
    () => columnsOf(rows, { headingRow: mapping.headingRow, headingRows: mapping.headingRows }),
    [rows, mapping.headingRow, mapping.headingRows],
  );
  const proposals = useMemo(
    () => proposeColumns(rows, { headingRow: mapping.headingRow, headingRows: mapping.headingRows }),
    [rows, mapping.headingRow, mapping.headingRows],
  );
  return {
    ...{ mapping, columns, proposals, known, store, setStore },
    /** Where the headings are elsewhere, all is proposed anew. */
    set(change: Partial<Mapping>) {
      setMapping((now) => {
        const next = { ...now, ...change };
        return change.headingRow === undefined ? next : proposeMapping(rows, next, next);
      });
    },
    /** Each column has one field, and each field one column. */
    setColumn(column: string, field: Field | null) {
      setMapping((now) => {
        const others = Object.entries(now.columns).filter(([one, name]) => name !== column && one !== field);
        const next: Mapping = { ...now, columns: Object.fromEntries(others) };
        if (field === null) return next;
        next.columns[field] = column;
        if (!isChoiceField(field)) return next;
        const texts = textsOf(rows, columns, next, column).map(([text]) => text);
        return { ...next, values: { ...next.values, [field]: proposeValues(field, texts, column) } };
      });
    },
    setMeaning(field: Field, text: string, meaning: string) {
      setMapping((now) => {
        const values = now.values as Record<string, Record<string, string>>;
        return { ...now, values: { ...values, [field]: { ...values[field], [text]: meaning } } };
      });
    },
  };
}

function isOfShape(mapping: Mapping, { rows, isWorkbook, sheets }: LookTold): boolean {
  if (isWorkbook && mapping.sheet !== null && !sheets.includes(mapping.sheet)) return false;
  return rows.length >= mapping.headingRow && fits(mapping, columnsOf(rows, mapping));
}

"use client";

import { ROLES } from "@/core/estate/records";
import { DATE_ORDERS, type DateOrder, type Mapping } from "@/core/imports/mapping";
import { Choice } from "../parts/Choice";
import { Notice } from "../parts/Notice";
import { ZoneField } from "../parts/ZoneField";

interface Props {
  mapping: Mapping;
  /** What has to be said of dates before rows can be understood whole. */
  question: string | null;
  onMap: (change: Partial<Mapping>) => void;
}

const ORDER_WORDS: Record<DateOrder, string> = {
  "by the rows": "as all rows allow",
  "day first": "day first: 31/12/2026",
  "month first": "month first: 12/31/2026",
};

/** What no column says: the order of dates, their clocks, and the role. */
export function RestPart({ mapping, question, onMap }: Props) {
  return (
    <section aria-labelledby="rest" className="mt-6 max-w-6xl">
      <h2 id="rest" className="text-[17px] font-semibold">
        Dates, and cells that are empty
      </h2>
      {question && (
        <Notice>
          {question} Until then, these rows are shown without their dates. Left “as all rows allow”, the rest of the
          report may settle it.
        </Notice>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <Choice
          label="Dates"
          value={mapping.dateOrder}
          choices={DATE_ORDERS.map((value) => ({ value, words: ORDER_WORDS[value] }))}
          onPick={(dateOrder) => onMap({ dateOrder })}
        />
        <ZoneField
          label="Times are those of"
          value={mapping.zone}
          onValue={(zone) => onMap({ zone })}
          className="w-72"
        />
        {mapping.columns.role === undefined && (
          <Choice
            label="Role of every share"
            value={mapping.roleOtherwise}
            choices={ROLES.map((value) => ({ value, words: value }))}
            onPick={(roleOtherwise) => onMap({ roleOtherwise })}
          />
        )}
        <label className="flex h-9 items-center gap-2">
          <input
            type="checkbox"
            checked={mapping.repeatsAbove}
            onChange={({ target }) => onMap({ repeatsAbove: target.checked })}
          />
          A row without an item belongs to the item above it
        </label>
      </div>
    </section>
  );
}

"use client";

import type { SavedMappingTold } from "@/contract/imports";
import { Field } from "../parts/Field";
import type { StoreNamed } from "./useMapping";

interface Props {
  store: StoreNamed;
  saved: readonly SavedMappingTold[];
  onStore: (store: StoreNamed) => void;
}

/** Which store the report is of: the same each time, since what a report no longer names has ended. */
export function StorePart({ store, saved, onStore }: Props) {
  const rename = (title: string) => {
    const known = saved.find((one) => one.title === title);
    onStore({ title, source: known?.source ?? shortName(title) });
  };
  return (
    <section aria-labelledby="store" className="mt-6 max-w-3xl">
      <h2 id="store" className="text-[17px] font-semibold">
        Which store it is of
      </h2>
      <div className="mt-2 flex flex-wrap gap-x-6">
        <div className="w-72">
          <Field
            label="Store"
            required
            list="stores-known"
            value={store.title}
            onChange={({ target }) => rename(target.value)}
            hint="What people call it. Choose the same one each time: shares that its next report no longer names have ended."
          />
          <datalist id="stores-known">
            {saved.map(({ name, title }) => (
              <option key={name} value={title} />
            ))}
          </datalist>
        </div>
        <div className="w-72">
          <Field
            label="Short name"
            required
            pattern="[a-z0-9][a-z0-9\-]{0,39}"
            value={store.source}
            onChange={({ target }) => onStore({ ...store, source: target.value })}
            hint="For its mapping and for commands: lower-case letters, digits and hyphens."
          />
        </div>
      </div>
    </section>
  );
}

/** `The archive, Lisbon` is `the-archive-lisbon`. */
function shortName(title: string): string {
  const plain = title.normalize("NFD").toLowerCase();
  return plain
    .replace(/[^a-z0-9\s-]/g, "")
    .trim()
    .replace(/[\s-]+/g, "-")
    .slice(0, 40)
    .replace(/-$/, "");
}

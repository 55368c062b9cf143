"use client";

import { parseAsString, useQueryState } from "nuqs";
import type { ReactNode } from "react";
import { FIELD_NAMES, FIELDS } from "@/core/query/fields";
import { fold } from "@/core/text/text";
import { FirstLook } from "../desk/FirstLook";
import { KEYS_EVERYWHERE, KEYS_BY_SCREEN } from "../frame/keys";
import { Key } from "../parts/Key";
import { WORDS } from "./words";

/** What the words mean, what the keys do, what can be asked; and once more what was found at first. */
export function HelpScreen() {
  const [text, setText] = useQueryState("q", parseAsString.withDefault(""));
  const wanted = fold(text.trim());
  const has = (...words: string[]) => words.some((one) => fold(one).includes(wanted));
  const words = WORDS.filter(([word, means]) => has(word, means));
  const keys = [["Everywhere", KEYS_EVERYWHERE] as const, ...KEYS_BY_SCREEN].map(([screen, all]) => {
    return [screen, all.filter(([key, does]) => has(screen, key, does))] as const;
  });
  const fields = FIELD_NAMES.filter((name) => has(name, FIELDS[name].help));
  const isNothing = words.length + fields.length + keys.flatMap(([, all]) => all).length === 0;
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <h1 className="text-[20px] font-semibold">Help</h1>
      <input
        type="search"
        aria-label="Search the help"
        placeholder="Search the help: a word, a key, a field"
        value={text}
        onChange={(event) => void setText(event.target.value || null)}
        className="mt-3 mb-5 h-9 w-full max-w-xl rounded-[3px] border border-control bg-raised px-2.5"
      />
      {isNothing && <p className="text-ink-soft">Nothing here speaks of “{text}”. Try another word.</p>}
      {wanted === "" && (
        <section aria-labelledby="found" className="mb-6 max-w-3xl">
          <h2 id="found" className="mb-1 text-[16px] font-semibold">
            What was found
          </h2>
          <FirstLook />
        </section>
      )}
      <div className="grid max-w-6xl gap-x-10 lg:grid-cols-2">
        <Terms title="What the words mean" terms={words} />
        <div>
          {keys.map(([screen, all]) => (
            <Terms
              key={screen}
              title={`Keys: ${screen}`}
              terms={all.map(([key, does]) => [<Key key={key}>{key}</Key>, does])}
            />
          ))}
        </div>
        <Terms
          title="What can be asked in the register"
          terms={fields.map((name) => [`${name}:`, FIELDS[name].help])}
        />
      </div>
    </div>
  );
}

function Terms({ title, terms }: { title: string; terms: readonly (readonly [ReactNode, string])[] }) {
  if (terms.length === 0) return null;
  return (
    <section className="mb-6">
      <h2 className="mb-1 border-b border-line-strong pb-1 text-[16px] font-semibold">{title}</h2>
      <dl>
        {terms.map(([term, means]) => (
          <div key={means} className="grid grid-cols-[130px_1fr] gap-3 border-b border-line py-1.5">
            <dt className="font-semibold">{term}</dt>
            <dd className="text-ink-soft">{means}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

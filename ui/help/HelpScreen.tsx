"use client";

import { parseAsString, useQueryStates } from "nuqs";
import type { ReactNode } from "react";
import { fold } from "@/core/text/text";
import { FirstLook } from "../desk/FirstLook";
import { INSIDER_QUERY } from "../directory/queryKind";
import { ENGAGEMENT_QUERY } from "../engagements/queryKind";
import { KEYS_EVERYWHERE, KEYS_BY_SCREEN, keysOn } from "../frame/keys";
import { LEAVER_QUERY } from "../leavers/queryKind";
import { ORGANISATION_QUERY } from "../outsiders/queryKind";
import { Key } from "../parts/Key";
import { QUERY_RULES } from "../query/QueryHelp";
import { REGISTER_QUERY } from "../register/queryKind";
import { partOf, type ScreenPart } from "./parts";
import { TASKS, type Task } from "./tasks";
import { WORDS } from "./words";

const QUERIES = [
  ["Register", REGISTER_QUERY],
  ["Organisations", ORGANISATION_QUERY],
  ["Insiders", INSIDER_QUERY],
  ["Leavers", LEAVER_QUERY],
  ["Projects", ENGAGEMENT_QUERY],
] as const;

/** How things are done, what each word means, the keys and the query language; the part of the screen one came from first. */
export function HelpScreen() {
  const [{ q: text, on }, set] = useQueryStates({ q: parseAsString.withDefault(""), on: parseAsString });
  const wanted = fold(text.trim());
  const part = on === null || wanted !== "" ? undefined : partOf(on);
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <h1 className="text-[20px] font-semibold">Help</h1>
      <input
        type="search"
        aria-label="Search the help"
        placeholder="Search the help: a task, a word, a key, a field"
        value={text}
        onChange={(event) => void set({ q: event.target.value || null })}
        className="mt-3 mb-5 h-9 w-full max-w-xl rounded-[3px] border border-control bg-raised px-2.5"
      />
      {part && on ? <OnScreen part={part} path={on} /> : <Everything text={text} wanted={wanted} />}
      {part && (
        <button type="button" onClick={() => void set({ on: null })} className="text-verdigris underline">
          Show all help
        </button>
      )}
    </div>
  );
}

/** What concerns one screen. */
function OnScreen({ part, path }: { part: ScreenPart; path: string }) {
  const keys = keysOn(path);
  return (
    <>
      <h2 className="text-[17px] font-semibold">{part.title}</h2>
      <p className="mt-1 mb-5 max-w-prose">{part.about}</p>
      <div className="grid max-w-6xl gap-x-10 lg:grid-cols-2">
        <Tasks tasks={TASKS.filter(({ screens }) => screens.some((one) => partOf(one) === part))} isOpen />
        <div>
          <Terms title="What each word means" terms={WORDS.filter(([word]) => part.words.includes(word))} />
          <Terms title="Keys" terms={[...keys, ...KEYS_EVERYWHERE].map(keyTerm)} />
        </div>
      </div>
    </>
  );
}

function Everything({ text, wanted }: { text: string; wanted: string }) {
  const has = (...words: string[]) => words.some((one) => fold(one).includes(wanted));
  const tasks = TASKS.filter(({ title, steps }) => has(title, ...steps));
  const words = WORDS.filter(([word, means]) => has(word, means));
  const keys = [["Everywhere", KEYS_EVERYWHERE] as const, ...KEYS_BY_SCREEN].map(([screen, all]) => {
    return [screen, all.filter(([key, does]) => has(screen, key, does))] as const;
  });
  const fields = QUERIES.map(([list, { fields }]) => {
    const all = Object.entries(fields).map(([name, { help }]) => [`${name}:`, help] as const);
    return [list, all.filter(([name, help]) => has(name, help))] as const;
  });
  const isNothing = [tasks, words, ...keys.map(([, all]) => all), ...fields.map(([, all]) => all)].flat().length === 0;
  return (
    <>
      {isNothing && <p className="text-ink-soft">Nothing found for “{text}”. Try another word.</p>}
      <div className="grid max-w-6xl gap-x-10 lg:grid-cols-2">
        <div>
          <Tasks tasks={tasks} isOpen={wanted !== ""} />
          {wanted === "" && <Found />}
          {keys.map(([screen, all]) => (
            <Terms key={screen} title={`Keys: ${screen}`} terms={all.map(keyTerm)} />
          ))}
        </div>
        <div>
          <Terms title="What each word means" terms={words} />
          {wanted === "" && <QueryLanguage />}
          {fields.map(([list, all]) => (
            <Terms key={list} title={`Query fields: ${list}`} terms={all} />
          ))}
        </div>
      </div>
    </>
  );
}

function Tasks({ tasks, isOpen }: { tasks: readonly Task[]; isOpen: boolean }) {
  if (tasks.length === 0) return null;
  return (
    <section aria-labelledby="tasks" className="mb-6">
      <Title id="tasks">How to</Title>
      {tasks.map(({ title, steps }) => (
        <details key={title} open={isOpen} className="border-b border-line py-1.5">
          <summary className="cursor-pointer font-semibold">{title}</summary>
          <ol className="mt-1 list-decimal pl-9 text-ink-soft">
            {steps.map((step) => (
              <li key={step} className="py-0.5">
                {step}
              </li>
            ))}
          </ol>
        </details>
      ))}
    </section>
  );
}

function Found() {
  return (
    <section aria-labelledby="found" className="mb-6">
      <Title id="found">What was found</Title>
      <FirstLook />
    </section>
  );
}

function QueryLanguage() {
  return (
    <section aria-labelledby="queries" className="mb-6">
      <Title id="queries">The query language</Title>
      <p className="mb-2">{QUERY_RULES}</p>
      <dl>
        {REGISTER_QUERY.examples.map(([query, meaning]) => (
          <div key={query} className="border-b border-line py-1.5">
            <dt className="font-mono text-[12.5px]">{query}</dt>
            <dd className="text-ink-soft">{meaning}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

const keyTerm = ([key, does]: readonly [string, string]) => [<Key key={key}>{key}</Key>, does] as const;

function Title({ id, children }: { id?: string; children: ReactNode }) {
  return (
    <h2 id={id} className="mb-1 border-b border-line-strong pb-1 text-[16px] font-semibold">
      {children}
    </h2>
  );
}

function Terms({ title, terms }: { title: string; terms: readonly (readonly [ReactNode, string])[] }) {
  if (terms.length === 0) return null;
  return (
    <section className="mb-6">
      <Title>{title}</Title>
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

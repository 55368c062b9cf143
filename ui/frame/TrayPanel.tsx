"use client";

import clsx from "clsx";
import type { ReactNode } from "react";
import type { EffectWords, PersonEffect, Preview } from "@/core/dockets/preview";
import type { StagedChange, TrayView } from "@/core/dockets/progress";
import { Button } from "../parts/Button";
import { changeWords } from "../parts/changeWords";
import { countWords, itemWords, wayWords } from "../parts/words";
import { useTray } from "./useTray";

const MOST_SHOWN = 200;

/** The tray, open: the changes by kind at the left, what they would really do at the right. */
export function TrayPanel({ tray, preview }: { tray: TrayView; preview: Preview }) {
  return (
    <section
      aria-label="What is staged"
      className="grid h-[min(60vh,460px)] grid-cols-[440px_1fr] grid-rows-[minmax(0,1fr)] border-t border-line-strong bg-surface text-ink"
    >
      <Changes changes={tray.changes} />
      <div className="grid grid-cols-2 gap-x-8 overflow-y-auto px-5 py-3">
        <div>
          <Losses preview={preview} />
        </div>
        <div>
          <Remains preview={preview} />
          <Impossible preview={preview} />
        </div>
      </div>
    </section>
  );
}

function Changes({ changes }: { changes: StagedChange[] }) {
  const { unstage } = useTray();
  return (
    <div className="flex min-h-0 flex-col border-r border-line-strong">
      <div className="flex items-center justify-between px-3.5 py-2">
        <h2 className="font-semibold">{countWords(changes.length, "change")} staged</h2>
        <Button onClick={() => unstage.mutate(null)}>Take all out</Button>
      </div>
      <ul className="overflow-y-auto border-t border-line">
        {changes.slice(0, MOST_SHOWN).map((one) => (
          <li key={one.subject} className="flex items-center gap-3 border-b border-line px-3.5 py-1.5">
            <span
              className={clsx(
                "w-[104px] shrink-0 font-semibold",
                one.change.action === "set-expiry" ? "text-verdigris" : "text-oxide",
              )}
            >
              {changeWords(one.change)}
            </span>
            <span className="min-w-0 grow">
              <span className="block truncate">{one.itemName}</span>
              <span className="block truncate text-[12px] text-ink-faint">{one.audience}</span>
            </span>
            <button
              type="button"
              aria-label={`Take ${one.itemName} out of the tray`}
              onClick={() => unstage.mutate([one.subject])}
              className="text-verdigris underline"
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      {changes.length > MOST_SHOWN && <p className="px-3.5 py-2 text-ink-faint">The first {MOST_SHOWN} are shown.</p>}
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-4">
      <h3 className="border-b border-line-strong pb-1 font-semibold">{title}</h3>
      {children}
    </section>
  );
}

function Losses({ preview }: { preview: Preview }) {
  const losers = preview.people.filter((person) => person.loses.count > 0);
  return (
    <Part title="Who loses what">
      <CrowdLine who="Anyone with the address" effect={preview.anyone} />
      <CrowdLine who="Everyone in the house" effect={preview.house} />
      {losers.slice(0, MOST_SHOWN).map((person) => (
        <PersonLine key={person.address} person={person}>
          {itemWords(person.loses)}
        </PersonLine>
      ))}
      {preview.people
        .filter((person) => person.gains.count > 0)
        .slice(0, MOST_SHOWN)
        .map((person) => (
          <PersonLine key={person.address} person={person}>
            <span className="text-copper">gains {itemWords(person.gains)}</span>
          </PersonLine>
        ))}
      {losers.length === 0 && preview.anyone.loses.count + preview.house.loses.count === 0 && (
        <p className="py-1.5 text-ink-soft">Nobody loses anything now.</p>
      )}
    </Part>
  );
}

function CrowdLine({ who, effect }: { who: string; effect: EffectWords }) {
  if (effect.loses.count === 0) return null;
  return (
    <div className="border-b border-line py-1.5">
      <b className="font-semibold">{who}</b>
      <p className="text-ink-soft">{itemWords(effect.loses)}</p>
    </div>
  );
}

function PersonLine({ person, children }: { person: PersonEffect; children: ReactNode }) {
  return (
    <div className="border-b border-line py-1.5">
      <b className="font-semibold">{person.name}</b>{" "}
      <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
      {person.insider && <span className="ml-1 text-copper">in the house</span>}
      <p className="text-ink-soft">{children}</p>
    </div>
  );
}

function Remains({ preview }: { preview: Preview }) {
  const keepers = preview.people.filter((person) => person.keeps.count > 0);
  const { anyone } = preview;
  return (
    <Part title="Who keeps another way in">
      {anyone.keeps.count > 0 && (
        <div className="border-b border-line py-1.5">
          <b className="font-semibold">Anyone, by another open link</b>
          <p className="text-ink-soft">{itemWords(anyone.keeps)}</p>
          <p className="text-copper">{wayWords(anyone.ways)}</p>
        </div>
      )}
      {keepers.slice(0, MOST_SHOWN).map((person) => (
        <PersonLine key={person.address} person={person}>
          {itemWords(person.keeps)}
          <span className="block text-copper">by {wayWords(person.ways)}</span>
        </PersonLine>
      ))}
      {keepers.length === 0 && anyone.keeps.count === 0 && <p className="py-1.5 text-ink-soft">Nobody.</p>}
    </Part>
  );
}

function Impossible({ preview }: { preview: Preview }) {
  return (
    <>
      {preview.impossible.length > 0 && (
        <Part title="What can't be done">
          {preview.impossible.slice(0, MOST_SHOWN).map((one) => (
            <div key={one.subject} className="border-b border-line py-1.5">
              <b className="font-semibold">{one.name}</b>
              <p className="text-ink-soft">
                {one.why} {one.instead}
              </p>
            </div>
          ))}
        </Part>
      )}
      {preview.addressesStopping > 0 && (
        <Part title="What can't be undone">
          <p className="py-1.5 text-oxide">
            {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good. Whoever needs
            one of them again has to be sent a new one.
          </p>
        </Part>
      )}
    </>
  );
}

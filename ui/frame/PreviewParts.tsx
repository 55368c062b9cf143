"use client";

import { type ReactNode, useState } from "react";
import type { EffectWords, PersonEffect, Preview } from "@/core/preview/preview";
import { countWords, itemWords, wayWords } from "../parts/words";

const MOST_SHOWN = 200;

/** What a docket would really do: who loses what, who keeps another way in, what can't be done or undone. */
export function PreviewParts({ preview }: { preview: Preview }) {
  return (
    <div className="grid grid-cols-2 gap-x-8 overflow-y-auto px-5 py-3">
      <div>
        <Reopened preview={preview} />
        <Losses preview={preview} />
        <Tighter preview={preview} />
      </div>
      <div>
        <Remains preview={preview} />
        <NewAddresses preview={preview} />
        <Impossible preview={preview} />
      </div>
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-4">
      <h2 className="border-b border-line-strong pb-1 font-semibold">{title}</h2>
      {children}
    </section>
  );
}

const VIEWS = ["person", "organisation", "item"] as const;
type View = (typeof VIEWS)[number];

function Losses({ preview }: { preview: Preview }) {
  const [view, setView] = useState<View>("person");
  const gains = [...preview.people, preview.anyone, preview.house].some((effect) => effect.gains.count > 0);
  return (
    <Part title={gains ? "Who loses or gains what" : "Who loses what"}>
      {preview.items.length > 0 && (
        <div role="group" aria-label="Losses by" className="flex gap-2 py-1.5">
          {VIEWS.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={view === one}
              onClick={() => setView(one)}
              className="rounded-[3px] px-2 text-verdigris underline aria-pressed:bg-verdigris-soft aria-pressed:font-semibold aria-pressed:no-underline"
            >
              By {one}
            </button>
          ))}
        </div>
      )}
      {view === "person" && <ByPerson preview={preview} />}
      {view === "organisation" && <ByOrganisation organisations={preview.organisations} />}
      {view === "item" && <ByItem items={preview.items} />}
    </Part>
  );
}

function ByOrganisation({ organisations }: Pick<Preview, "organisations">) {
  if (organisations.length === 0) return <p className="py-1.5 text-ink-soft">Nobody who is known by name.</p>;
  return organisations.slice(0, MOST_SHOWN).map(({ organisation, insider, people, items }) => (
    <div key={organisation} className="border-b border-line py-1.5">
      <b className="font-semibold">{organisation}</b>
      {insider && <span className="ml-1 text-copper">in the house</span>}
      <p className="text-ink-soft">
        {countWords(people, "person loses", "people lose")} {countWords(items, "item")}
      </p>
    </div>
  ));
}

function ByItem({ items }: Pick<Preview, "items">) {
  return items.map(({ id, name, people, anyone }) => (
    <div key={id} className="border-b border-line py-1.5">
      <b className="font-semibold">{name}</b>
      <p className="text-ink-soft">
        {[anyone && "anyone with the address", people > 0 && countWords(people, "person", "people")]
          .filter(Boolean)
          .join(", and ")}
      </p>
    </div>
  ));
}

function ByPerson({ preview }: { preview: Preview }) {
  const losers = preview.people.filter((person) => person.loses.count > 0);
  return (
    <>
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
    </>
  );
}

function CrowdLine({ who, effect }: { who: string; effect: EffectWords }) {
  if (effect.loses.count + effect.gains.count === 0) return null;
  return (
    <div className="border-b border-line py-1.5">
      <b className="font-semibold">{who}</b>
      {effect.loses.count > 0 && <p className="text-ink-soft">{itemWords(effect.loses)}</p>}
      {effect.gains.count > 0 && <p className="text-copper">gains {itemWords(effect.gains)}</p>}
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

/** What becomes stricter for those who keep access or is put back, and what ends later. */
function Tighter({ preview: { tighter, back, later } }: { preview: Preview }) {
  const lines = [
    ...tighter.map(({ shareId, itemName, words }) => ({ key: `${shareId} ${words}`, itemName, words })),
    ...back.map(({ shareId, itemName, words }) => ({
      key: `${shareId} back`,
      itemName,
      words: `as it was before: ${words}`,
    })),
    ...later.map(({ shareId, itemName, on, byOrder }) => ({
      key: `${shareId} end`,
      itemName,
      words: byOrder ? `Tight Latch revokes it on ${on}: its store keeps no such end` : `ends on ${on}`,
    })),
  ];
  return <Lines title="What is otherwise from then on" lines={lines} />;
}

/** What lets people in again that was over: it is gained, and has to be confirmed before it is applied. */
function Reopened({ preview: { reopened } }: { preview: Preview }) {
  const lines = reopened.map(({ shareId, itemName, until }) => ({
    key: shareId,
    itemName,
    words: `ended, and lets people in again until ${until}`,
  }));
  return <Lines title="What opens again" lines={lines} />;
}

/** Who has to be sent a new address. */
function NewAddresses({ preview: { newAddresses } }: { preview: Preview }) {
  const lines = newAddresses.map(({ shareId, itemName, addresses }) => ({
    key: shareId,
    itemName,
    words: addresses.length === 0 ? "nobody to be told is known" : `to be sent to ${addresses.join(", ")}`,
  }));
  return <Lines title="New addresses" lines={lines} />;
}

function Lines({ title, lines }: { title: string; lines: { key: string; itemName: string; words: string }[] }) {
  if (lines.length === 0) return null;
  return (
    <Part title={title}>
      {lines.slice(0, MOST_SHOWN).map(({ key, itemName, words }) => (
        <div key={key} className="border-b border-line py-1.5">
          <b className="font-semibold">{itemName}</b>
          <p className="text-ink-soft">{words}</p>
        </div>
      ))}
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
      {preview.addressesStopping + preview.passwordsReplaced > 0 && (
        <Part title="What can't be undone">
          {preview.addressesStopping > 0 && (
            <p className="py-1.5 text-oxide">
              {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good. Whoever needs
              one of them again has to be sent a new one.
            </p>
          )}
          {preview.passwordsReplaced > 0 && (
            <p className="py-1.5 text-oxide">
              {countWords(preview.passwordsReplaced, "old password is", "old passwords are")} replaced, and known to
              nobody here.
            </p>
          )}
        </Part>
      )}
    </>
  );
}

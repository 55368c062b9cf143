"use client";

import { type ReactNode, useState } from "react";
import type { EffectWords, PersonEffect, Preview } from "@/core/preview/preview";
import { Button } from "../parts/Button";
import { countWords, itemWords, wayWords, listWords } from "../parts/words";
import { isLong, previewAbout } from "./previewSearch";
import { useTray } from "./useTray";
import { useStandpoint } from "./viewer";

const MOST_SHOWN = 100;

/** What a docket would really do: who loses what, who keeps another way in, what can't be done or undone. */
export function PreviewParts({ preview: whole }: { preview: Preview }) {
  const [text, setText] = useState("");
  const preview = previewAbout(whole, text);
  return (
    <div className="overflow-y-auto px-5 py-3">
      {isLong(whole) && (
        <input
          type="search"
          aria-label="Search this preview"
          placeholder="Search this preview by person, organisation or item"
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="mb-2 h-[30px] w-full max-w-md rounded-[3px] border border-control bg-raised px-2.5"
        />
      )}
      <div className="grid gap-x-8 lg:grid-cols-2">
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

/** Lines of two cells: what they are about, and what becomes of it. More than can be shown are counted. */
function Lines<T>({ all, children }: { all: readonly T[]; children: (one: T) => ReactNode }) {
  return (
    <>
      <table className="w-full table-fixed text-left">
        <tbody>{all.slice(0, MOST_SHOWN).map(children)}</tbody>
      </table>
      {all.length > MOST_SHOWN && (
        <p className="py-1.5 text-ink-faint">
          The first {MOST_SHOWN} of {all.length.toLocaleString("en-GB")} are shown. Search to find the others.
        </p>
      )}
    </>
  );
}

function Line({ head, children }: { head: ReactNode; children: ReactNode }) {
  return (
    <tr className="border-b border-line align-top">
      <th scope="row" className="w-[44%] py-1.5 pr-3 font-normal wrap-anywhere">
        {head}
      </th>
      <td className="py-1.5 wrap-anywhere text-ink-soft">{children}</td>
    </tr>
  );
}

const name = (words: string) => <b className="font-semibold">{words}</b>;

const VIEWS = ["person", "organisation", "item"] as const;
type View = (typeof VIEWS)[number];

function Losses({ preview }: { preview: Preview }) {
  const [view, setView] = useState<View>("person");
  const gains = [...preview.people, preview.anyone, preview.house].some((effect) => effect.gains.count > 0);
  return (
    <Part title={gains ? "Who loses or gains what" : "Who loses what"}>
      {preview.items.length > 0 && (
        <div role="group" aria-label="Group losses by" className="flex gap-2 py-1.5">
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
  if (organisations.length === 0) return <p className="py-1.5 text-ink-soft">Nobody known by name.</p>;
  return (
    <Lines all={organisations}>
      {({ organisation, insider, people, items }) => (
        <Line key={organisation} head={<Whose words={organisation} isInsider={insider} />}>
          {countWords(people, "person loses", "people lose")} {countWords(items, "item")}
        </Line>
      )}
    </Lines>
  );
}

function ByItem({ items }: Pick<Preview, "items">) {
  return (
    <Lines all={items}>
      {(one) => (
        <Line key={one.id} head={name(one.name)}>
          {listWords([
            ...(one.anyone ? ["whoever has the address"] : []),
            ...(one.people > 0 ? [countWords(one.people, "person", "people")] : []),
          ])}
        </Line>
      )}
    </Lines>
  );
}

function ByPerson({ preview }: { preview: Preview }) {
  const losers = preview.people.filter((person) => person.loses.count > 0);
  const gainers = preview.people.filter((person) => person.gains.count > 0);
  return (
    <>
      <Crowd who="Whoever has the address" effect={preview.anyone} />
      <Crowd who="All our own people" effect={preview.house} />
      <Lines all={losers}>
        {(person) => (
          <Line key={person.address} head={<Person person={person} />}>
            {itemWords(person.loses)}
          </Line>
        )}
      </Lines>
      <Lines all={gainers}>
        {(person) => (
          <Line key={person.address} head={<Person person={person} />}>
            <span className="text-copper">gains {itemWords(person.gains)}</span>
          </Line>
        )}
      </Lines>
      {losers.length === 0 && preview.anyone.loses.count + preview.house.loses.count === 0 && (
        <p className="py-1.5 text-ink-soft">Nobody loses access now.</p>
      )}
    </>
  );
}

function Crowd({ who, effect }: { who: string; effect: EffectWords }) {
  if (effect.loses.count + effect.gains.count === 0) return null;
  return (
    <Lines all={[effect]}>
      {() => (
        <Line key={who} head={name(who)}>
          {effect.loses.count > 0 && <span className="block">{itemWords(effect.loses)}</span>}
          {effect.gains.count > 0 && <span className="text-copper">gains {itemWords(effect.gains)}</span>}
        </Line>
      )}
    </Lines>
  );
}

function Whose({ words, isInsider }: { words: string; isInsider: boolean }) {
  return (
    <>
      {name(words)}
      {isInsider && <span className="ml-1 text-copper">in-house</span>}
    </>
  );
}

function Person({ person }: { person: PersonEffect }) {
  return (
    <>
      <Whose words={person.name} isInsider={person.insider} />
      <span className="block font-mono text-[12px] text-ink-faint">{person.address}</span>
    </>
  );
}

function Remains({ preview }: { preview: Preview }) {
  const keepers = preview.people.filter((person) => person.keeps.count > 0);
  const { anyone } = preview;
  return (
    <Part title="Who keeps access another way">
      {anyone.keeps.count > 0 && (
        <>
          <Lines all={[anyone]}>
            {() => (
              <Line key="anyone" head={name("Anyone, by another open link")}>
                {itemWords(anyone.keeps)}
                <span className="block text-copper">{wayWords(anyone.ways)}</span>
              </Line>
            )}
          </Lines>
          <AddOthers ways={anyone.ways} />
        </>
      )}
      <Lines all={keepers}>
        {(person) => (
          <Line key={person.address} head={<Person person={person} />}>
            {itemWords(person.keeps)}
            <span className="block text-copper">by {wayWords(person.ways)}</span>
          </Line>
        )}
      </Lines>
      {keepers.length === 0 && anyone.keeps.count === 0 && <p className="py-1.5 text-ink-soft">Nobody.</p>}
    </Part>
  );
}

/** The other open links on the same items: closing one of two closes nothing. */
function AddOthers({ ways }: Pick<EffectWords, "ways">) {
  const { viewer } = useStandpoint();
  const { stage } = useTray();
  const shareIds = [...new Set(ways.map(({ share }) => share))];
  if (!viewer.mayChange || shareIds.length === 0) return null;
  return (
    <Button
      className="my-1.5"
      disabled={stage.isPending}
      onClick={() => stage.mutate(shareIds.map((shareId) => ({ action: "revoke", shareId })))}
    >
      Add {shareIds.length === 1 ? "the other link that keeps" : `the ${shareIds.length} other links that keep`} these
      open
    </Button>
  );
}

interface Told {
  key: string;
  itemName: string;
  words: string;
}

function Items({ title, lines }: { title: string; lines: Told[] }) {
  if (lines.length === 0) return null;
  return (
    <Part title={title}>
      <Lines all={lines}>
        {({ key, itemName, words }) => (
          <Line key={key} head={name(itemName)}>
            {words}
          </Line>
        )}
      </Lines>
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
      words: `restored as it was: ${words}`,
    })),
    ...later.map(({ shareId, itemName, on, byOrder }) => ({
      key: `${shareId} end`,
      itemName,
      words: byOrder
        ? `Tight Latch will revoke it on ${on}, because its store can’t keep that end date`
        : `ends on ${on}`,
    })),
  ];
  return <Items title="What else changes" lines={lines} />;
}

/** Shares that were over and let people in again: gained access, which has to be confirmed before applying. */
function Reopened({ preview: { reopened } }: { preview: Preview }) {
  const lines = reopened.map(({ shareId, itemName, until }) => ({
    key: shareId,
    itemName,
    words: `ended before; lets people in again until ${until}`,
  }));
  return <Items title="What becomes open again" lines={lines} />;
}

/** Who has to be sent a new address. */
function NewAddresses({ preview: { newAddresses } }: { preview: Preview }) {
  const lines = newAddresses.map(({ shareId, itemName, addresses }) => ({
    key: shareId,
    itemName,
    words: addresses.length === 0 ? "no recipients known" : `to be sent to ${addresses.join(", ")}`,
  }));
  return <Items title="New addresses" lines={lines} />;
}

function Impossible({ preview }: { preview: Preview }) {
  const lines = preview.impossible.map((one) => ({
    key: one.subject,
    itemName: one.name,
    words: `${one.why} ${one.instead}`,
  }));
  return (
    <>
      <Items title="What can't be done" lines={lines} />
      {preview.addressesStopping + preview.passwordsReplaced > 0 && (
        <Part title="What can't be undone">
          {preview.addressesStopping > 0 && (
            <p className="py-1.5 text-oxide">
              {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good. Anyone who
              needs one again has to be sent a new one.
            </p>
          )}
          {preview.passwordsReplaced > 0 && (
            <p className="py-1.5 text-oxide">
              {countWords(preview.passwordsReplaced, "old password is", "old passwords are")} replaced. Nobody here
              knows the old ones.
            </p>
          )}
        </Part>
      )}
    </>
  );
}

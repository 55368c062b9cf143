"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { type FormEvent, useState } from "react";
import {
  noticeWords,
  type NoticesView,
  type SentNotice,
  TOLD,
  type ToldAudience,
  type ToldPerson,
} from "@/core/changes/telling";
import { docketsOperations } from "@/contract/dockets";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";

const TAB_WORDS: Record<ToldAudience, string> = { owners: "Owners", recipients: "Recipients" };
const SENT_WORDS: Record<SentNotice["state"], string> = {
  waiting: "sending",
  sent: "sent",
  aside: "could not be sent",
};

/** Tells owners, and recipients if wished, what a docket did that is about them: one mail each, in words that can be changed. */
export function NoticesScreen({ id }: { id: string }) {
  const { viewer } = useStandpoint();
  const [audience, setAudience] = useQueryState("to", parseAsStringLiteral(TOLD).withDefault("owners"));
  const { data, error } = useQuery({
    ...asked(docketsOperations.docketNotices, { params: { id } }),
  });
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <div className="flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">Tell owners and recipients</h1>
        <Link href={`/ledger/dockets/${id}`} className="text-verdigris underline">
          Back to the docket
        </Link>
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <>
          <div role="group" aria-label="Recipients" className="mt-3 flex gap-2">
            {TOLD.map((one) => (
              <Button
                key={one}
                aria-pressed={audience === one}
                onClick={() => void setAudience(one)}
                className="aria-pressed:bg-verdigris-soft aria-pressed:font-semibold"
              >
                {TAB_WORDS[one]}, {data.telling[one].length}
              </Button>
            ))}
          </div>
          <Composer key={audience} id={id} audience={audience} view={data} mayChange={viewer.mayChange} />
        </>
      )}
    </div>
  );
}

interface Props {
  id: string;
  audience: ToldAudience;
  view: NoticesView;
  mayChange: boolean;
}

function Composer({ id, audience, view, mayChange }: Props) {
  const client = useQueryClient();
  const people = view.telling[audience];
  const told = new Map(view.sent.filter((one) => one.audience === audience).map((one) => [one.address, one.state]));
  const open = people.filter(({ address }) => (told.get(address) ?? "aside") === "aside");
  const [words, setWords] = useState(noticeWords(audience, view));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [shown, setShown] = useState(people[0]?.address);
  const chosen = open.filter(({ address }) => !left.has(address));
  const send = useMutation({
    mutationFn: () =>
      ask(docketsOperations.sendNotices, {
        params: { id },
        body: { audience, ...words, addresses: chosen.map(({ address }) => address) },
      }),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(docketsOperations.docketNotices, { id }) }),
  });
  const turn = (address: string) => {
    const next = new Set(left);
    if (!next.delete(address)) next.add(address);
    setLeft(next);
  };
  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  if (people.length === 0) return <p className="mt-4 text-ink-soft">{NOBODY[audience]}</p>;
  return (
    <form onSubmit={onSubmit} className="mt-4 grid gap-8 lg:grid-cols-[380px_minmax(0,1fr)]">
      <fieldset className="min-w-0">
        <legend className="mb-1 font-semibold">{countWords(people.length, "person", "people")}, one mail each</legend>
        <ul className="max-h-[60vh] overflow-y-auto border-t border-line">
          {people.map((person) => (
            <PersonChoice
              key={person.address}
              person={person}
              state={told.get(person.address)}
              isChosen={!left.has(person.address)}
              isShown={shown === person.address}
              onTurn={() => turn(person.address)}
              onShow={() => setShown(person.address)}
            />
          ))}
        </ul>
      </fieldset>
      <div className="max-w-2xl">
        <Field
          label="Subject"
          value={words.subject}
          maxLength={200}
          required
          onChange={(event) => setWords({ ...words, subject: event.target.value })}
        />
        <label className="mb-1 block font-semibold" htmlFor="head">
          Opening words
        </label>
        <textarea
          id="head"
          rows={4}
          required
          maxLength={5_000}
          value={words.head}
          onChange={(event) => setWords({ ...words, head: event.target.value })}
          className="mb-3 w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
        />
        {mayChange && (
          <Button type="submit" look="act" disabled={send.isPending || chosen.length === 0}>
            Send {countWords(chosen.length, "mail")}
          </Button>
        )}
        <span role="status" className="ml-3 text-ink-soft">
          {send.data && `${countWords(send.data.count, "mail")} being sent.`}
        </span>
        {send.error && <Notice tone="wrong">{send.error.message}</Notice>}
        <Mail words={words} person={people.find(({ address }) => address === shown) ?? people[0]} />
      </div>
    </form>
  );
}

const NOBODY: Record<ToldAudience, string> = {
  owners: "No known owner has items this docket changed.",
  recipients: "Nobody had access by name to the items this docket changed.",
};

interface PersonChoiceProps {
  person: ToldPerson;
  state: SentNotice["state"] | undefined;
  isChosen: boolean;
  isShown: boolean;
  onTurn: () => void;
  onShow: () => void;
}

function PersonChoice({ person, state, isChosen, isShown, onTurn, onShow }: PersonChoiceProps) {
  const isDone = state === "sent" || state === "waiting";
  return (
    <li className={`flex items-start gap-2 border-b border-line py-1.5 ${isShown ? "bg-verdigris-soft" : ""}`}>
      <input
        type="checkbox"
        aria-label={`Tell ${person.name}`}
        className="mt-1 ml-1"
        checked={isChosen && !isDone}
        disabled={isDone}
        onChange={onTurn}
      />
      <button type="button" onClick={onShow} aria-pressed={isShown} className="min-w-0 grow text-left">
        <span className="block truncate">{person.name}</span>
        <span className="block truncate font-mono text-[12px] text-ink-faint">{person.address}</span>
      </button>
      <span className="pr-2 text-right text-[12px] text-ink-soft">
        {countWords(person.lines.length, "thing")}
        {state && <span className="block">{SENT_WORDS[state]}</span>}
      </span>
    </li>
  );
}

/** The mail as this person would have it. */
function Mail({ words, person }: { words: { subject: string; head: string }; person: ToldPerson }) {
  return (
    <section aria-label={`The mail to ${person.name}`} className="mt-5 border border-line-strong bg-surface px-4 py-3">
      <p className="text-[12px] text-ink-faint">To {person.address}</p>
      <h2 className="font-semibold">{words.subject}</h2>
      <p className="mt-2 whitespace-pre-wrap">{words.head}</p>
      {person.lines.slice(0, MOST_LINES).map(({ itemName, place, words, newLink }, i) => (
        <p key={i} className="mt-2">
          {itemName}
          {place && ` (${place})`}
          <span className="block text-ink-soft">
            {words.charAt(0).toUpperCase() + words.slice(1)}.{newLink && " The mail has its address here."}
          </span>
        </p>
      ))}
      {person.lines.length > MOST_LINES && (
        <p className="mt-2 text-ink-faint">And {person.lines.length - MOST_LINES} more in the mail itself.</p>
      )}
    </section>
  );
}
const MOST_LINES = 30;

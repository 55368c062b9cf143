"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useQueryStates } from "nuqs";
import { type FormEvent, useId } from "react";
import { roundsOperations } from "@/contract/rounds";
import { QUESTIONS } from "@/core/rounds/round";
import { UNDECIDED, CARRYING } from "@/core/rounds/round";
import { DAY, HOUR } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Link } from "../parts/Link";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useMoment } from "../parts/useMoment";
import { countWords } from "../parts/words";
import { DRAFT, REPEATS, roundFrom } from "./draft";
import { ForecastPane } from "./ForecastPane";
import { NumberSlot, OneSlot } from "./OneSlot";
import { OrderSlot } from "./OrderSlot";
import { CARRYING_WORDS, undecidedWords } from "./words";

/** A round is made from sentences; beside them stands what it would be. */
export function MakeRoundScreen() {
  const { past, viewer } = useStandpoint();
  if (past !== null) return <OfNow />;
  return viewer.mayChange ? <Making /> : <Notice>Only administrators can make rounds.</Notice>;
}

function Making() {
  const { now } = useStandpoint();
  const router = useRouter();
  const client = useQueryClient();
  const [draft, setDraft] = useQueryStates(DRAFT);
  const opens = useMoment("today", { now, edge: "start", min: now - DAY });
  const closes = useMoment("in 14 days", { now, edge: "end", min: now + HOUR });
  const make = useMutation({
    mutationFn: () => {
      // A day that has begun means from now on.
      const from = Math.max(opens.at!, now);
      return ask(roundsOperations.makeRound, { body: roundFrom(draft, from, closes.at!, opens.dates.settings.zone) });
    },
    onSuccess: async ({ id }) => {
      await client.invalidateQueries({ queryKey: keyOf(roundsOperations.rounds) });
      router.push(`/rounds/${id}`);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (opens.at !== null && closes.at !== null) make.mutate();
  };
  const note = useId();
  const query = useId();
  const repeatWords = REPEATS.find(([rule]) => rule === draft.repeat)?.[1] ?? "by a custom rule";
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_380px]">
      <form onSubmit={submit} className="min-h-0 overflow-y-auto bg-raised px-6 py-5">
        <nav aria-label="Where this is" className="text-ink-soft">
          <Link href="/rounds" className="underline">
            Rounds
          </Link>{" "}
          / New round
        </nav>
        <h1 className="mb-3 text-[20px] font-semibold">Which shares should owners decide about?</h1>
        <div className="max-w-2xl">
          <Field
            label="Name"
            required
            minLength={3}
            maxLength={120}
            placeholder="Open links to confidential files"
            value={draft.name}
            onChange={({ target }) => void setDraft({ name: target.value })}
          />
          <div className="mb-3">
            <label htmlFor={query} className="mb-1 block font-semibold">
              Shares, as a query of the register
            </label>
            <input
              id={query}
              spellCheck={false}
              value={draft.q}
              onChange={({ target }) => void setDraft({ q: target.value })}
              className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5 font-mono text-[13px]"
            />
            <p className="mt-1">
              <Link href={`/register?${new URLSearchParams({ q: draft.q })}`} className="text-verdigris underline">
                See them in the register
              </Link>
            </p>
          </div>
        </div>
        <p className="max-w-2xl text-[16px] leading-8">
          Ask{" "}
          <OrderSlot
            order={draft.order}
            named={draft.named}
            onOrder={(order) => void setDraft({ order })}
            onNamed={(named) => void setDraft({ named })}
          />{" "}
          about{" "}
          <OneSlot
            label="How shares are grouped"
            words={draft.by === "share" ? "each share" : "each outsider or organisation"}
            chosen={draft.by}
            choices={QUESTIONS.map((by) => [
              by,
              by === "share" ? "each share" : "each outsider or organisation: all that they have at once",
            ])}
            onChoose={(by) => void setDraft({ by })}
          />
          . Anything nobody decides{" "}
          <OneSlot
            label="What happens to undecided shares"
            words={draft.undecided === "end-date" ? "gets an end date" : undecidedWords(draft.undecided, draft.days)}
            chosen={draft.undecided}
            choices={UNDECIDED.map((one) => [one, undecidedWords(one, draft.days)])}
            onChoose={(undecided) => void setDraft({ undecided })}
          />
          {draft.undecided === "end-date" && (
            <>
              {" "}
              in{" "}
              <NumberSlot
                label="Days until they end"
                words={countWords(draft.days, "day")}
                value={draft.days}
                most={180}
                onChange={(days) => void setDraft({ days })}
              />
            </>
          )}
          . Decisions are carried out{" "}
          <OneSlot
            label="When decisions are carried out"
            words={CARRYING_WORDS[draft.carry]}
            chosen={draft.carry}
            choices={CARRYING.map((one) => [one, CARRYING_WORDS[one]])}
            onChoose={(carry) => void setDraft({ carry })}
          />
          . A share can be kept for{" "}
          <NumberSlot
            label="Days that a share can be kept"
            words={countWords(draft.limit, "day")}
            value={draft.limit}
            most={180}
            onChange={(limit) => void setDraft({ limit })}
          />{" "}
          at most. The round is held{" "}
          <OneSlot
            label="How often the round is held"
            words={repeatWords}
            chosen={draft.repeat}
            choices={REPEATS}
            onChoose={(repeat) => void setDraft({ repeat })}
          />
          . Managers of people who have decided less than half{" "}
          <OneSlot
            label="Whether managers get a copy"
            words={draft.managers ? "get a copy three days before the close" : "get no copy"}
            chosen={draft.managers ? "yes" : "no"}
            choices={[
              ["no", "get no copy"],
              ["yes", "get a copy three days before the close"],
            ]}
            onChoose={(chosen) => void setDraft({ managers: chosen === "yes" })}
          />
          .
        </p>
        <div className="mt-3 grid max-w-2xl gap-x-6 sm:grid-cols-2">
          <MomentField label="Opens" moment={opens} />
          <MomentField label="Closes" moment={closes} />
        </div>
        <div className="max-w-2xl">
          <label htmlFor={note} className="mb-1 block font-semibold">
            Note to the deciders (optional)
          </label>
          <textarea
            id={note}
            rows={3}
            maxLength={2_000}
            value={draft.note}
            onChange={({ target }) => void setDraft({ note: target.value })}
            className="block w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
          />
          <details className="mt-2">
            <summary className="cursor-pointer text-ink-soft">Custom repeat rule (RFC 5545)</summary>
            <Field
              label="Rule"
              placeholder="FREQ=MONTHLY;INTERVAL=6;BYDAY=1MO;COUNT=6"
              value={draft.repeat}
              onChange={({ target }) => void setDraft({ repeat: target.value })}
            />
          </details>
        </div>
        {make.error && <Notice tone="wrong">{make.error.message}</Notice>}
        <p className="mt-4">
          <Button type="submit" look="act" disabled={make.isPending}>
            {opens.at !== null && opens.at > now ? "Schedule the round" : "Open the round"}
          </Button>
        </p>
      </form>
      <ForecastPane draft={draft} />
    </div>
  );
}

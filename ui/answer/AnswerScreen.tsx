"use client";

import { QueryClient, QueryClientProvider, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answersOperations } from "@/contract/answers";
import type { Answer, AskedShare } from "@/core/rules/answer";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { within } from "@/core/text/text";
import { Loading } from "../parts/Loading";
import { ask, asked, keyOf } from "../parts/ask";
import { useFragment } from "../parts/useFragment";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { AddressesField, readAddresses } from "../parts/AddressesField";
import { MomentField } from "../parts/MomentField";
import { useMoment } from "../parts/useMoment";
import { ShowOnce } from "../parts/ShowOnce";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

interface Props {
  token: string;
  now: Seconds;
}

/** The page that a letter leads an owner to: each share that they are asked about, and what they can do. */
export function AnswerScreen({ now }: Pick<Props, "now">) {
  const token = useFragment();
  const [client] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={client}>
      <main className="mx-auto min-h-screen max-w-2xl bg-raised px-4 py-6 sm:px-8">
        {token === null ? <Loading /> : <Asked token={token} now={now} />}
      </main>
    </QueryClientProvider>
  );
}

const STILL_DOING = ["staged", "sending"];

function Asked({ token, now }: Props) {
  const dates = useDates();
  const { data, error } = useQuery({
    ...asked(answersOperations.asked, { body: { token } }),
    retry: false,
    refetchInterval: ({ state }) =>
      state.data?.shares.some(({ steps }) => steps.some((step) => STILL_DOING.includes(step.state))) ? 1_000 : false,
  });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!data) return <Loading />;
  const open = data.shares.filter(({ answered }) => answered === null);
  return (
    <>
      <h1 className="text-[22px] leading-tight font-semibold">
        {open.length === 0
          ? "Nothing to decide"
          : `${countWords(open.length, "of your shares needs", "of your shares need")} a decision`}
      </h1>
      <p className="mt-1 mb-4 text-ink-soft">
        {data.owner}. {open.length === 0 ? "You can close this page." : dueWords(open, now, dates)}
      </p>
      <ul className="grid gap-5">
        {data.shares.map((share) => (
          <li key={share.subject} className="border-t-2 border-line-strong pt-3">
            <ShareCard share={share} token={token} now={now} latest={data.latest} />
          </li>
        ))}
      </ul>
    </>
  );
}

function dueWords(open: AskedShare[], now: Seconds, dates: Dates): string {
  const due = Math.min(...open.map((share) => share.due));
  return `Shares without an answer by ${dates.day(due)}, ${dates.distance(due, now)}, will be tightened or ended.`;
}

interface CardProps extends Props {
  share: AskedShare;
  latest: Seconds;
}

function ShareCard({ share, token, now, latest }: CardProps) {
  const dates = useDates();
  const { itemName, where, sentence, audience, lastUsed, reasons, answered, steps } = share;
  return (
    <>
      <h2 className="text-[17px] font-semibold wrap-anywhere">{itemName}</h2>
      <p className="text-ink-faint wrap-anywhere">{where}</p>
      <p className="mt-1.5">{answered === null ? sentence || audience : audience}</p>
      <p className="text-ink-soft">{usedWords(lastUsed, now, dates)}</p>
      {answered === null && (
        <ul className="my-2">
          {reasons.map(({ rule, title, reason }) => (
            <li key={rule} className="my-1 border-l-[3px] border-copper pl-2.5">
              <b className="font-semibold">{title}.</b> {reason}
            </li>
          ))}
        </ul>
      )}
      {answered !== null && <p className="mt-2 font-semibold text-verdigris">{answered}</p>}
      {steps.map((step) => (
        <div key={step.words} className="mt-1">
          {step.words}:{" "}
          {STILL_DOING.includes(step.state)
            ? "in progress…"
            : step.state === "done"
              ? "done."
              : `not done. ${step.answer}`}
          {step.passphrase && (
            <ShowOnce show={() => ask(answersOperations.showToOwner, { body: { token, change: step.passphrase! } })} />
          )}
        </div>
      ))}
      {answered === null && <Decide share={share} token={token} now={now} latest={latest} />}
    </>
  );
}

function Decide({ share, token, now, latest }: CardProps) {
  const [open, setOpen] = useState<"keep" | "named" | "end" | null>(null);
  const turn = (what: "keep" | "named" | "end") => setOpen(open === what ? null : what);
  const client = useQueryClient();
  const answer = useMutation({
    mutationFn: (given: Answer) => ask(answersOperations.decide, { body: { token, answer: given } }),
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(answersOperations.asked) }),
  });
  const { subject, tighten, canBeNamed, canEnd } = share;
  return (
    <>
      {tighten && (
        <p className="mb-2 text-ink-soft">
          Tightening it would: {tighten.map(within).join(", ")}. Everyone who has access keeps it.
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {tighten && (
          <Button
            look="act"
            disabled={answer.isPending}
            onClick={() => answer.mutate({ decision: "tighten", subject })}
          >
            Tighten it
          </Button>
        )}
        {canBeNamed && (
          <Button disabled={answer.isPending} aria-expanded={open === "named"} onClick={() => turn("named")}>
            Limit it to named people
          </Button>
        )}
        <Button disabled={answer.isPending} aria-expanded={open === "keep"} onClick={() => turn("keep")}>
          Keep it as it is
        </Button>
        {canEnd && (
          <Button
            className="text-oxide"
            disabled={answer.isPending}
            aria-expanded={open === "end"}
            onClick={() => turn("end")}
          >
            End it
          </Button>
        )}
      </div>
      {open === "named" && (
        <Named
          isPending={answer.isPending}
          onName={(addresses) => answer.mutate({ decision: "named", subject, addresses })}
        />
      )}
      {open === "keep" && (
        <Keep
          now={now}
          latest={latest}
          isPending={answer.isPending}
          onSave={(reason, until) => answer.mutate({ decision: "keep", subject, reason, until })}
        />
      )}
      {open === "end" && (
        <End
          share={share}
          now={now}
          isPending={answer.isPending}
          onEnd={() => answer.mutate({ decision: "end", subject })}
          onCancel={() => setOpen(null)}
        />
      )}
      {answer.error && <Notice tone="wrong">{answer.error.message}</Notice>}
    </>
  );
}

interface EndProps {
  share: AskedShare;
  now: Seconds;
  isPending: boolean;
  onEnd: () => void;
  onCancel: () => void;
}

/** Asks once before a share is ended for good, and says what that does. */
function End({ share: { itemName, audience, lastUsed }, now, isPending, onEnd, onCancel }: EndProps) {
  const dates = useDates();
  return (
    <div role="group" aria-label={`End this share of ${itemName}`} className="mt-3 border border-oxide bg-surface p-3">
      <p className="font-semibold">End this share of {itemName}?</p>
      <p className="mt-1">
        It stops working at once, for {within(audience)}. {usedWords(lastUsed, now, dates)} You can’t undo this here:
        anyone who needs it again needs a new share, with a new address.
      </p>
      <div className="mt-3 flex gap-2">
        <Button look="end" disabled={isPending} onClick={onEnd}>
          End the share
        </Button>
        <Button disabled={isPending} onClick={onCancel}>
          Cancel
        </Button>
      </div>
    </div>
  );
}

function usedWords(lastUsed: Seconds | null, now: Seconds, dates: Dates): string {
  return lastUsed === null
    ? "Nobody has used it yet."
    : `Last used on ${dates.day(lastUsed)}, ${dates.distance(lastUsed, now)}.`;
}

function Named({ isPending, onName }: { isPending: boolean; onName: (addresses: string[]) => void }) {
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { addresses, problem } = readAddresses(text);
    setProblem(problem);
    if (problem === null) onName(addresses);
  };
  return (
    <form onSubmit={submit} className="mt-3 border border-line-strong bg-surface p-3">
      <AddressesField text={text} problem={problem} onText={setText} />
      <p className="mb-2 text-ink-soft">
        Nobody else will be able to open it. If the store makes a new link for them, send them its new address.
      </p>
      <Button type="submit" look="act" disabled={isPending}>
        Limit it to them
      </Button>
    </form>
  );
}

function Keep(props: { now: Seconds; latest: Seconds; isPending: boolean; onSave: (r: string, u: string) => void }) {
  const { now, latest, isPending, onSave } = props;
  const [reason, setReason] = useState("");
  const until = useMoment("in 90 days", { now, edge: "end", min: now, max: latest });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (until.at !== null) onSave(reason, rfc3339(until.at));
  };
  return (
    <form onSubmit={submit} className="mt-3 border border-line-strong bg-surface p-3">
      <Field
        label="Reason to keep it"
        required
        minLength={3}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <MomentField label="Until" moment={until} hint="You will be asked again then." />
      <Button type="submit" look="act" disabled={isPending}>
        Keep it
      </Button>
    </form>
  );
}

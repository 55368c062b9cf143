"use client";

import { type RoundView } from "@/contract/rounds";
import { useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { DecidersPart } from "./DecidersPart";
import { DecisionsPart } from "./DecisionsPart";
import { LooksPart } from "./LooksPart";
import { RecordPart } from "./RecordPart";
import { RoundActs } from "./RoundActs";
import { StatesBar } from "./StatesBar";
import { useRound } from "./useRound";
import { orderWords, ROUND_STATE_WORDS, STAGE_WORDS, undecidedWords, CARRYING_WORDS, standingWords } from "./words";

/** How one round goes: who has decided, what, and what came of it. */
export function RoundScreen({ id }: { id: string }) {
  return useStandpoint().past === null ? <RoundNow id={id} /> : <OfNow />;
}

function RoundNow({ id }: { id: string }) {
  const { data: round, error } = useRound(id);
  const { viewer } = useStandpoint();
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!round) return <Loading className="p-6" />;
  const isBegun = round.state !== "planned" && round.state !== "opening";
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="min-h-0 overflow-y-auto bg-raised px-6 py-5">
        <nav aria-label="Where this is" className="text-ink-soft">
          <Link href="/rounds" className="underline">
            Rounds
          </Link>{" "}
          / {ROUND_STATE_WORDS[round.state]}
        </nav>
        <Head round={round} />
        {viewer.mayChange && <RoundActs round={round} />}
        {isBegun && <DecidersPart round={round} />}
        {isBegun && <DecisionsPart round={round} />}
      </div>
      <aside
        aria-label="About this round"
        tabIndex={0}
        className="min-h-0 overflow-y-auto border-l border-line-strong bg-surface px-5 py-5"
      >
        <About round={round} />
        <Departments round={round} />
        <Mails round={round} />
        {isBegun && <LooksPart round={round} />}
        {isBegun && <RecordPart round={round} />}
      </aside>
    </div>
  );
}

function Head({ round }: { round: RoundView }) {
  const { now } = useStandpoint();
  const dates = useDates();
  const { asked, lines, counts, state, deciders, late, nobodys, changed, passed } = round;
  return (
    <>
      <h1 className="text-[20px] font-semibold wrap-anywhere">{asked.name}</h1>
      <p className="mb-2 text-ink-soft" aria-live="polite">
        {standingWords(round, now, dates)}.{" "}
        {state === "opening" && `${countWords(lines, "share")} so far. You can leave this page, or stop it.`}
        {state === "open" && late > 0 && `${late} of ${countWords(deciders, "person", "people")} still to decide.`}
        {round.docketId && (
          <>
            {" "}
            <Link href={`/ledger/dockets/${round.docketId}`} className="text-verdigris underline">
              Carried out at the close
            </Link>
          </>
        )}
      </p>
      {lines > 0 && state !== "opening" && (
        <>
          <StatesBar counts={counts} />
          <p className="mt-1 text-ink-soft">
            <Link
              href={`/register?${new URLSearchParams({ q: `round:${round.id}` })}`}
              className="text-verdigris underline"
            >
              {countWords(lines, "share")}
            </Link>
            {passed > 0 && `; ${passed} passed on`}
            {changed > 0 && `; ${changed} changed since, asked again`}
            {nobodys > 0 && `; ${nobodys} left to administrators because nobody else can decide`}.{" "}
            <Link href={`/ledger/reports/round?round=${round.id}`} className="text-verdigris underline">
              Report
            </Link>
          </p>
        </>
      )}
      {lines === 0 && state === "open" && (
        <Notice>No shares matched when it opened, so there is nothing to decide.</Notice>
      )}
      <Comparison round={round} />
    </>
  );
}

/** How it compares with the last of its series. */
function Comparison({ round: { before, lines, next } }: { round: RoundView }) {
  const dates = useDates();
  if (!before && !next) return null;
  return (
    <p className="mt-1 text-ink-soft">
      {before && (
        <>
          The{" "}
          <Link href={`/rounds/${before.id}`} className="text-verdigris underline">
            last time
          </Link>{" "}
          it asked about {countWords(before.lines, "share")}: {changeWords(lines - before.lines)}.{" "}
        </>
      )}
      {next && `It opens again on ${dates.day(next.opens)}.`}
    </p>
  );
}

function changeWords(more: number): string {
  if (more === 0) return "just as many";
  return more > 0 ? `${more} more now` : `${-more} fewer now`;
}

function About({ round: { asked, repeatWords, madeBy } }: { round: RoundView }) {
  const dates = useDates();
  return (
    <section aria-labelledby="about">
      <h2 id="about" className="text-[15px] font-semibold">
        What was asked
      </h2>
      <p>
        About <code className="font-mono text-[12.5px] wrap-anywhere">{asked.query || "every share"}</code>, of{" "}
        {orderWords(asked.order, asked.named)}; from {dates.day(asked.opens)} to {dates.day(asked.closes)}. Anything
        nobody decides {undecidedWords(asked.undecided, asked.undecidedDays)}. Decisions are carried out{" "}
        {CARRYING_WORDS[asked.carriedOut]}.
      </p>
      {asked.note && <blockquote className="mt-1 border-l-[3px] border-line-strong pl-2.5">{asked.note}</blockquote>}
      <p className="mt-1 text-ink-faint">
        Made by {madeBy}. {repeatWords && `Repeats ${repeatWords}.`}
      </p>
    </section>
  );
}

function Departments({ round: { departments } }: { round: RoundView }) {
  if (departments.length < 2) return null;
  return (
    <section aria-labelledby="departments" className="mt-5">
      <h2 id="departments" className="text-[15px] font-semibold">
        By department
      </h2>
      <ul>
        {departments.map(({ department, lines, decided }) => (
          <li key={department} className="flex gap-3 border-t border-line py-1">
            <span className="min-w-0 grow">{department || "None"}</span>
            <span className="tabular-nums">
              {decided} of {lines} decided
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Mails({ round: { mails } }: { round: RoundView }) {
  const dates = useDates();
  if (mails.length === 0) return null;
  return (
    <section aria-labelledby="mails" className="mt-5">
      <h2 id="mails" className="text-[15px] font-semibold">
        Mails
      </h2>
      <ul>
        {mails.map(({ stage, people, at }) => (
          <li key={stage} className="flex gap-3 border-t border-line py-1">
            <span className="min-w-0 grow">{STAGE_WORDS[stage]}</span>
            <span className="tabular-nums">
              {countWords(people, "person", "people")}, {dates.day(at)}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-ink-faint">Nobody gets more than one mail a day: anything sooner waits.</p>
    </section>
  );
}

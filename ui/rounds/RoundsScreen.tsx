"use client";

import { useQuery } from "@tanstack/react-query";
import { type RoundLine, roundsOperations } from "@/contract/rounds";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { StatesBar } from "./StatesBar";
import { roundGroups, standingWords } from "./words";

/** All rounds, and how far each is. */
export function RoundsScreen() {
  return useStandpoint().past === null ? <RoundsNow /> : <OfNow />;
}

function RoundsNow() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery({ ...asked(roundsOperations.rounds), refetchInterval: 30_000 });
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-5">
      <header className="flex max-w-5xl items-center gap-4">
        <h1 className="grow text-[20px] font-semibold">Rounds</h1>
        <Link href="/estate/deciders" className="text-verdigris underline">
          Heads of departments and deputies
        </Link>
        {viewer.mayChange && (
          <Link href="/rounds/new" className="rounded-[3px] bg-verdigris px-3 py-1 font-semibold text-on-verdigris">
            New round
          </Link>
        )}
      </header>
      <p className="max-w-prose text-ink-soft">
        In a round, owners say which shares are still needed. Dockets carry out their decisions, and the record shows
        that nothing was left out.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.length === 0 && (
        <p className="mt-4 max-w-prose">
          There are no rounds yet. A good first one: ask owners about{" "}
          {viewer.mayChange ? (
            <Link
              href="/rounds/new?q=reach%3Aopen+label%3Aconfidential%2Crestricted+state%3Alive"
              className="text-verdigris underline"
            >
              open links to confidential and restricted files
            </Link>
          ) : (
            "open links to confidential and restricted files"
          )}
          .
        </p>
      )}
      {data &&
        roundGroups(data).map(([title, rounds]) => (
          <section key={title} aria-label={title} className="mt-5 max-w-5xl">
            <h2 className="text-[15px] font-semibold">{title}</h2>
            <ul>
              {rounds.map((round) => (
                <li key={round.id} className="border-t border-line py-2.5">
                  <RoundRow round={round} />
                </li>
              ))}
            </ul>
          </section>
        ))}
    </div>
  );
}

function RoundRow({ round }: { round: RoundLine }) {
  const { now } = useStandpoint();
  const dates = useDates();
  const { id, name, state, counts, lines, deciders, late, repeats } = round;
  return (
    <div className="grid gap-x-6 gap-y-1 sm:grid-cols-[minmax(0,1fr)_300px]">
      <div>
        <Link href={`/rounds/${id}`} className="font-semibold text-verdigris underline wrap-anywhere">
          {name}
        </Link>
        <p className="text-ink-soft">
          {standingWords(round, now, dates)}.{" "}
          {lines > 0 && `${countWords(lines, "share")}, ${countWords(deciders, "person decides", "people decide")}. `}
          {state === "open" && late > 0 && `${countWords(late, "person", "people")} still to decide.`}
          {repeats && <span className="block">Repeats {repeats}.</span>}
        </p>
      </div>
      {lines > 0 && (
        <div>
          <StatesBar counts={counts} />
        </div>
      )}
    </div>
  );
}

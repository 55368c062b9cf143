"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import type { ReactNode } from "react";
import { directoryOperations, type SourceTold } from "@/contract/directory";
import type { PersonTold, Said } from "@/core/directory/person";
import type { Told } from "@/core/estate/believed";
import { asOf, useStandpoint } from "../frame/viewer";
import { LastDayPart } from "../leavers/LastDayPart";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";
import { sourceTitle } from "./words";

/** Somebody, and who says what of them. */
export function PersonScreen() {
  const { past } = useStandpoint();
  const [address] = useQueryState("address", parseAsString.withDefault(""));
  const { data, error } = useQuery(asked(directoryOperations.person, { query: { address }, past }));
  const { data: known } = useQuery(asked(directoryOperations.sources));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href={asOf("/people/insiders", past)} className="underline">
          Insiders
        </Link>{" "}
        / {data?.name ?? address}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Person key={address} person={data} sources={known?.sources} />}
    </div>
  );
}

interface Props {
  person: PersonTold;
  sources: readonly SourceTold[] | undefined;
}

function Person({ person, sources }: Props) {
  const { past } = useStandpoint();
  const { address, name, insider, organisation, status, department, manager, lastDay } = person;
  const to = (path: string) => asOf(`${path}${encodeURIComponent(address)}`, past);
  return (
    <div className="max-w-4xl">
      <h1 className="text-[20px] font-semibold">{name}</h1>
      <p>
        <span className="font-mono text-[13px]">{address}</span>
        {insider ? department && `, ${department}` : `, of ${organisation}`}: {status === "left" ? "has left" : status}.
        {manager && (
          <>
            {" "}
            Their manager is <PersonLink {...manager} />.
          </>
        )}
      </p>
      {insider && <LastDayPart leaver={{ address, status, lastDay }} set={null} />}
      <p className="mt-2 flex flex-wrap gap-x-5">
        <Link href={to("/ways?person=")} className="text-verdigris underline">
          What they reach
        </Link>
        <Link
          href={asOf(`/register?q=${encodeURIComponent(`maker:${address}`)}`, past)}
          className="text-verdigris underline"
        >
          Shares they made
        </Link>
        <Link href={to("/trail?person=")} className="text-verdigris underline">
          What they did
        </Link>
        {insider && (status !== "active" || lastDay !== null) && (
          <Link href={to("/people/leaver?address=")} className="text-verdigris underline">
            What they leave behind
          </Link>
        )}
      </p>
      <SaidPart said={person.said} sources={sources} />
      {person.groups.length > 0 && (
        <section aria-label="Groups" className="mt-5">
          <h2 className="text-[15px] font-semibold">Groups</h2>
          <p>{listWords(person.groups.map(({ name, store }) => (store ? `${name} (${store})` : name)))}</p>
        </section>
      )}
      {person.manages.length > 0 && (
        <section aria-label="People they manage" className="mt-5">
          <h2 className="text-[15px] font-semibold">Manages</h2>
          <ul className="columns-2 gap-8">
            {person.manages.map((one) => (
              <li key={one.address}>
                <PersonLink {...one} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function PersonLink({ name, address }: { name: string; address: string }) {
  const { past } = useStandpoint();
  return (
    <Link
      href={asOf(`/people/person?address=${encodeURIComponent(address)}`, past)}
      className="text-verdigris underline"
    >
      {name}
    </Link>
  );
}

const COLUMNS: readonly [Told, string, (said: Said, dates: Dates) => string | null][] = [
  ["name", "Name", ({ name }) => name || null],
  ["status", "Status", statusWords],
  ["department", "Department", ({ department }) => department],
  ["managerId", "Manager", ({ manager }) => manager],
  ["leftAt", "Last day", ({ lastDay }, dates) => (lastDay === null ? null : dates.day(lastDay))],
];

function statusWords({ status, suspendedAt }: Said, dates: Dates): string | null {
  if (status === null || suspendedAt === null) return status;
  return `${status}, suspended since ${dates.day(suspendedAt)}`;
}

/** Every source with what it says; what is believed stands out. */
function SaidPart({ said, sources }: { said: readonly Said[]; sources: readonly SourceTold[] | undefined }) {
  const dates = useDates();
  return (
    <section aria-labelledby="said" className="mt-5">
      <h2 id="said" className="text-[15px] font-semibold">
        Who says what
      </h2>
      {said.length === 0 ? (
        <p>No source describes them: only their address is known, from a share or an event.</p>
      ) : (
        <>
          <p className="text-ink-soft">
            The value used is marked. The order of the sources is set{" "}
            <Link href="/estate/directory" className="text-verdigris underline">
              under Estate
            </Link>
            .
          </p>
          <table className="mt-2 w-full">
            <thead className="text-left text-[12px] text-ink-faint">
              <tr>
                <th className="py-1 pr-3 font-semibold">Source</th>
                {COLUMNS.map(([told, head]) => (
                  <th key={told} className="px-3 font-semibold">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {said.map((one, i) => (
                <tr key={i} className="border-t border-line align-top">
                  <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                    {sourceTitle(one.source, sources)}
                  </th>
                  {COLUMNS.map(([told, , words]) => (
                    <td key={told} className="px-3 py-1.5">
                      <Cell words={words(one, dates)} isBelieved={one.believed.includes(told)} />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}

function Cell({ words, isBelieved }: { words: string | null; isBelieved: boolean }): ReactNode {
  if (words === null) return <span className="text-ink-faint">–</span>;
  if (!isBelieved) return <span className="text-ink-soft">{words}</span>;
  return (
    <b className="border-b-2 border-verdigris font-semibold">
      {words}
      <span className="sr-only"> (believed)</span>
    </b>
  );
}

"use client";

import { useQuery } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import { type EngagementPage, engagementsOperations } from "@/contract/engagements";
import { asOf, useStandpoint } from "../frame/viewer";
import { organisationAt } from "../outsiders/words";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { EngagementForm } from "./EngagementForm";
import { EndPart } from "./EndPart";
import { SharesList } from "./SharesList";

/** One engagement: what is shared for it, with whom, and what of that was used. */
export function EngagementScreen() {
  const { past } = useStandpoint();
  const [id] = useQueryState("id", parseAsString.withDefault(""));
  const { data, error } = useQuery(asked(engagementsOperations.engagement, { query: { id }, past }));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href={asOf("/people/projects", past)} className="underline">
          Projects
        </Link>{" "}
        / {data?.engagement.name}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Page key={id} page={data} />}
    </div>
  );
}

function Page({ page }: { page: EngagementPage }) {
  const { viewer, past } = useStandpoint();
  const [isChanging, setChanging] = useState(false);
  const { engagement, kept, items, shares, strays } = page;
  const mayChange = viewer.mayChange && past === null && kept !== null;
  if (isChanging) return <EngagementForm page={page} onDone={() => setChanging(false)} />;
  return (
    <div className="max-w-4xl">
      <div className="flex items-baseline gap-4">
        <h1 className="grow text-[20px] font-semibold">{engagement.name}</h1>
        {mayChange && <Button onClick={() => setChanging(true)}>Change it</Button>}
      </div>
      <Summary page={page} />
      {mayChange && <EndPart page={page} />}
      <section aria-label="Shared for it" className="mt-5">
        <h2 className="text-[15px] font-semibold">Shared for it: {countWords(shares.length, "share")}</h2>
        {shares.length === 0 ? (
          <p className="text-ink-soft">No live share on its items lets anyone from these organisations in.</p>
        ) : (
          <SharesList shares={shares} name={(share) => <ShareLink {...share} />} />
        )}
      </section>
      {strays.length > 0 && (
        <section aria-label="Shared outside without a project" className="mt-5">
          <h2 className="text-[15px] font-semibold">
            On its items, but not for any project: {countWords(strays.length, "share")}
          </h2>
          <p className="text-ink-soft">These shares outlast the project. Check whether anybody still needs them.</p>
          <SharesList shares={strays} name={(share) => <ShareLink {...share} />} />
        </section>
      )}
      <section aria-label="Its items" className="mt-5">
        <h2 className="text-[15px] font-semibold">Its items</h2>
        <ul className="mt-1">
          {items.map(({ id, name, label, place }) => (
            <li key={id} className="flex gap-4 border-t border-line py-1">
              <span className="grow">
                <Link href={asOf(`/ways?item=${encodeURIComponent(id)}`, past)} className="text-verdigris underline">
                  {name}
                </Link>{" "}
                <span className="text-[12px] text-ink-faint">{place.join(" / ")}</span>
              </span>
              <span className="text-ink-soft">{plainWords(label)}</span>
            </li>
          ))}
        </ul>
      </section>
      <Extensions page={page} />
    </div>
  );
}

function Summary({ page: { engagement, kept, graceDays } }: { page: EngagementPage }) {
  const { past, now } = useStandpoint();
  const dates = useDates();
  const { organisations, starts, ends, used, shares } = engagement;
  return (
    <>
      <p>
        With{" "}
        {organisations.map((domain, i) => (
          <span key={domain}>
            {i > 0 && ", "}
            <Link href={asOf(organisationAt(domain), past)} className="font-mono text-[13px] text-verdigris underline">
              {domain}
            </Link>
          </span>
        ))}
        , from {dates.day(starts)} to <b className="font-semibold">{dates.day(ends)}</b> ({dates.distance(ends, now)}).{" "}
        {shares > 0 && `${used} of ${countWords(shares, "share")} ${used === 1 ? "was" : "were"} ever used.`}
      </p>
      <p className="text-ink-soft">
        {kept
          ? `${kept.responsible} is responsible. ${countWords(graceDays, "day")} after the end, a docket with everything shared for it will be ready to review.`
          : "It comes from a file or a store: change it there."}
      </p>
    </>
  );
}

function ShareLink({ id, item }: { id: string; item: string }) {
  const { past } = useStandpoint();
  return (
    <Link href={asOf(`/register?share=${encodeURIComponent(id)}`, past)} className="text-verdigris underline">
      {item}
    </Link>
  );
}

function Extensions({ page: { extensions } }: { page: EngagementPage }) {
  const dates = useDates();
  if (extensions.length === 0) return null;
  return (
    <section aria-label="Changes of its end date" className="mt-5">
      <h2 className="text-[15px] font-semibold">Changes of its end date</h2>
      <ul className="mt-1">
        {extensions.map(({ from, until, reason, by, at }) => (
          <li key={at} className="border-t border-line py-1">
            {dates.day(from)} → {dates.day(until)}: {reason}{" "}
            <span className="text-[12px] text-ink-faint">
              {by}, {dates.day(at)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

"use client";

import { useQuery } from "@tanstack/react-query";
import { shortlistOperations, type WhereToStart as Start } from "@/contract/shortlist";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { headline, percentWords } from "../shortlist/words";

/** Leads the Desk: which changes shut the most, and how much less is open than a month ago. */
export function WhereToStart() {
  const dates = useDates();
  const { data, error } = useQuery(asked(shortlistOperations.whereToStart));
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  return (
    <section
      aria-labelledby="where-to-start"
      aria-busy={!data}
      className="mb-4 min-h-[76px] shrink-0 border-l-4 border-verdigris bg-surface px-4 py-2.5"
    >
      <h2 id="where-to-start" className="text-[16px] font-semibold">
        {!data && "Where to start: finding the changes that shut the most…"}
        {data &&
          (data.bend ? headline(data.bend.changes, data.bend.left, data.mass) : "Nothing is open that could be shut")}
      </h2>
      {data && (
        <p className="text-ink-soft">
          {data.bend && usedWords(data.bend.lately, data.usedDays)}{" "}
          <Link href="/desk/shortlist" className="font-semibold text-verdigris underline">
            Review
          </Link>
        </p>
      )}
      {data && <p className="text-ink-soft">{fallWords(data, dates)}</p>}
    </section>
  );
}

function usedWords({ people, unnamed }: NonNullable<Start["bend"]>["lately"], days: number): string {
  const who = people === 0 ? "Nobody known" : countWords(people, "person", "people");
  const more =
    unnamed === 0 ? "" : ` ${countWords(unnamed, "share was", "shares were")} used by people no store names.`;
  return `${who} used any of it in ${days} days.${more}`;
}

/** How much is open, and how that has changed: `What is open weighs 6,215, 12 % less than on 24 Oct`. */
function fallWords({ mass, before }: Start, dates: Dates): string {
  const now = `What is open weighs ${mass.toLocaleString("en-GB")}`;
  if (!before) return `${now}.`;
  const told = before.afterwards ? ", as far as the stores know about that day" : "";
  const day = `${dates.day(`${before.day}T12:00:00Z`)}${told}`;
  if (mass === before.mass) return `${now}, as much as on ${day}.`;
  if (before.mass === 0) return `${now}; on ${day} nothing was open.`;
  const than = mass < before.mass ? "less" : "more";
  return `${now}, ${percentWords(Math.abs(before.mass - mass), before.mass)} ${than} than on ${day}.`;
}

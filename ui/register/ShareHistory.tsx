import { useQuery } from "@tanstack/react-query";
import { trailOperations } from "@/contract/trail";
import { printSubject } from "@/core/evidence/report";
import type { ShareEvent } from "@/core/register/history";
import { DAY, type Seconds, utcDay } from "@/core/time/instant";
import { eventWords, cautions, likeWords } from "@/core/trail/sentence";
import { verbTitle } from "@/core/trail/verbs";
import { asOf } from "../frame/viewer";
import { asked } from "../parts/ask";
import { useDates } from "../parts/useDates";
import { Link } from "../parts/Link";

const SHOWN = 12;
const REPORTED = 90 * DAY;

interface Props {
  id: string;
  history: ShareEvent[];
  /** The instant that is shown; `past` as it stands in the address bar, null for now. */
  now: Seconds;
  past: string | null;
}

/** What its record tells of a share, and what the trail tells of what happened with it, like events of a day as one. */
export function ShareHistory({ id, history, now, past }: Props) {
  const search = `share=${encodeURIComponent(id)}`;
  const { data } = useQuery({
    ...asked(trailOperations.eventGroups, { query: { search, count: SHOWN }, past }),
  });
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Changes</h3>
      <ul>
        {history.map(({ at, words }, place) => (
          <Line key={place} at={at} words={words} />
        ))}
      </ul>
      {data && data.groups.length > 0 && (
        <>
          <h3 className="mt-4 font-semibold">Events</h3>
          <ul>
            {data.groups.slice(0, SHOWN).map(({ event, count, people }) => (
              <Line
                key={event.seq}
                at={event.at}
                words={[
                  count > 1 ? likeWords(verbTitle(event.verb), count, people) : eventWords(event),
                  ...cautions(event),
                ].join(". ")}
              />
            ))}
          </ul>
          <Link href={asOf(`/trail?${search}`, past)} className="text-verdigris underline">
            See all on the trail
          </Link>
        </>
      )}
      <Link href={takenIn(id, now)} className="mt-1 block text-verdigris underline">
        Report: what was taken in the last 90 days
      </Link>
    </section>
  );
}

function takenIn(id: string, now: Seconds): string {
  const [from, to] = [now - REPORTED, now].map(utcDay);
  return `/ledger/reports/taken?${new URLSearchParams({ about: printSubject({ kind: "share", id }), from, to })}`;
}

function Line({ at, words }: { at: number; words: string }) {
  const dates = useDates();
  return (
    <li className="flex gap-2 border-t border-line py-1">
      <span className="min-w-0 grow wrap-anywhere">{words}</span>
      <span className="shrink-0 text-ink-faint">{dates.moment(at)}</span>
    </li>
  );
}

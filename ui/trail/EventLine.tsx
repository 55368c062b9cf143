"use client";

import { rfc3339 } from "@/core/time/instant";
import type { TrailEvent } from "@/core/trail/event";
import type { EventGroupLine } from "@/core/trail/page";
import type { TrailSearch } from "@/core/trail/search";
import { cautions, likeWords } from "@/core/trail/sentence";
import { verbTitle, verbWords } from "@/core/trail/verbs";
import { useDates } from "../parts/useDates";
import { useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";

interface Props {
  event: TrailEvent;
  /** Where like events are told as one, how many they are. */
  like?: Omit<EventGroupLine, "event">;
  zone: string;
  storeName: string;
  onSearch: (part: Partial<TrailSearch>) => void;
}

/** One event, or like ones of a day, in a sentence whose parts open what they speak of as it was then. */
export function EventLine({ event, like, zone, storeName, onSearch }: Props) {
  const { now } = useStandpoint();
  const dates = useDates(zone);
  const { at, who, item, share, whom, verb } = event;
  const then = (path: string) => (at < now ? `${path}&at=${rfc3339(at)}` : path);
  const isMany = like !== undefined && like.count > 1;
  return (
    <li className="grid lg:grid-cols-[150px_minmax(0,1fr)_minmax(0,260px)] gap-x-3 border-b border-line px-3.5 py-1.5">
      <time dateTime={rfc3339(at)} className="text-ink-soft tabular-nums">
        {dates.moment(at)}
        {isMany && like.first !== at && (
          <span className="block text-[12.5px] text-ink-faint">first at {dates.time(like.first)}</span>
        )}
      </time>
      <p className="min-w-0 wrap-anywhere">
        {isMany ? (
          <b className="font-semibold">{likeWords(verbTitle(verb), like.count, like.people)}: </b>
        ) : (
          <>
            {who ? <PersonLink address={who.people?.[0]} name={who.name} then={then} /> : "Somebody with the link"}{" "}
            {verbWords(verb)}{" "}
          </>
        )}
        {item && (
          <Link href={then(`/ways?item=${encodeURIComponent(item.key)}`)} className="font-semibold hover:underline">
            {item.name}
          </Link>
        )}
        {whom && (
          <>
            , <PersonLink address={whom.people?.[0]} name={whom.name} then={then} />
          </>
        )}
        <span className="block text-[12.5px] text-ink-faint">
          {[storeName, item?.detail, item?.label].filter(Boolean).join(" · ")}
          {cautions(event).map((words) => (
            <span key={words} className="ml-2 text-copper">
              {words}
            </span>
          ))}
        </span>
      </p>
      <p className="min-w-0 text-[12.5px] text-ink-soft">
        {share && (
          <>
            <Link href={then(`/register?share=${encodeURIComponent(share.key)}`)} className="text-verdigris underline">
              {share.name}
            </Link>{" "}
            <span className="wrap-anywhere">{share.detail}</span>
          </>
        )}
        {isMany && (
          <button
            type="button"
            onClick={() => onSearch({ share: share?.key ?? null, item: item?.key ?? null, verbs: [verb] })}
            className="block text-verdigris underline"
          >
            Show each event
          </button>
        )}
      </p>
    </li>
  );
}

function PersonLink({ address, name, then }: { address?: string; name: string; then: (path: string) => string }) {
  if (!address) return <>{name}</>;
  return (
    <Link href={then(`/ways?person=${encodeURIComponent(address)}`)} title={address} className="hover:underline">
      {name}
    </Link>
  );
}

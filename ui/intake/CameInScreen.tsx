"use client";

import { useInfiniteQuery } from "@tanstack/react-query";
import { parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { type ArrivalTold, intakeOperations } from "@/contract/intake";
import { MARK_WORDS } from "@/core/intake/marks";
import { asOf, useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { bytesWords, countWords } from "../parts/words";
import { IntakeTabs } from "./IntakeTabs";

/** Every file that came in by an intake link, the newest first, with what there is to say of it. */
export function CameInScreen() {
  const [{ link, marked }, setPlace] = useQueryStates({
    link: parseAsString,
    marked: parseAsStringLiteral(["yes"]),
  });
  const query = { ...(link !== null && { link }), ...(marked !== null && { marked }) };
  const { data, error, fetchNextPage, hasNextPage, isFetching } = useInfiniteQuery({
    queryKey: ["intake", "came-in", query],
    queryFn: ({ pageParam, signal }) =>
      ask(intakeOperations.cameIn, {
        query: { ...query, ...(pageParam !== null && { before: pageParam }) },
        signal,
      }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ more }) => more,
  });
  const arrivals = data?.pages.flatMap((page) => page.arrivals) ?? [];
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <h1 className="sr-only">What came in</h1>
      <IntakeTabs at="/register/intake/came-in" />
      <div className="mb-2 flex flex-wrap items-center gap-4">
        {data && <b className="font-semibold">{countWords(data.pages[0].total, "file")} came in</b>}
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={marked !== null}
            onChange={({ target }) => void setPlace({ marked: target.checked ? "yes" : null })}
          />
          Only those that stand out
        </label>
        {link !== null && (
          <Button onClick={() => void setPlace({ link: null })}>
            By all links, not only {arrivals[0]?.itemName ?? "one"}
          </Button>
        )}
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && arrivals.length === 0 && (
        <Notice>
          {marked === null
            ? "Nothing has come in yet, as far as the stores tell."
            : "Nothing stands out in the files that were checked."}
        </Notice>
      )}
      {arrivals.length > 0 && <ArrivalTable arrivals={arrivals} />}
      {hasNextPage && (
        <Button className="mt-3" disabled={isFetching} onClick={() => void fetchNextPage()}>
          Older ones
        </Button>
      )}
    </div>
  );
}

function ArrivalTable({ arrivals }: { arrivals: readonly ArrivalTold[] }) {
  return (
    <table className="w-full table-fixed border-collapse text-left">
      <thead>
        <tr className="border-b border-line-strong text-[12px] text-ink-faint">
          <th className="w-[34%] py-1 pr-3 font-semibold">File</th>
          <th className="w-[8%] py-1 pr-3 font-semibold">Size</th>
          <th className="w-[13%] py-1 pr-3 font-semibold">Came</th>
          <th className="w-[24%] py-1 pr-3 font-semibold">From</th>
          <th className="py-1 font-semibold">By the link on</th>
        </tr>
      </thead>
      <tbody>
        {arrivals.map((one) => (
          <Arrival key={one.seq} arrival={one} />
        ))}
      </tbody>
    </table>
  );
}

/** That it runs is said by the words for its two endings. */
function marksShown(marks: ArrivalTold["marks"]) {
  return marks.filter((mark) => mark !== "runs" || !marks.includes("double"));
}

function Arrival({ arrival }: { arrival: ArrivalTold }) {
  const dates = useDates();
  const { past } = useStandpoint();
  const { name, size, at, sender, address, from, linkId, itemName, storeName, marks, tellsBytes } = arrival;
  const trail = new URLSearchParams({
    ...(linkId !== null && { share: linkId }),
    ...{ verb: "sent-in", from: String(at), to: String(at + 1) },
  });
  return (
    <tr className="border-b border-line align-top">
      <td className="py-1.5 pr-3">
        <Link href={asOf(`/trail?${trail}`, past)} className="text-verdigris underline wrap-anywhere">
          {name ?? "a file whose name isn’t told"}
        </Link>
        {marksShown(marks).map((mark) => (
          <span key={mark} className="block text-[12.5px] font-semibold text-oxide">
            {MARK_WORDS[mark]}
          </span>
        ))}
        {!tellsBytes && (
          <span className="block text-[12px] text-ink-faint">{storeName} tells nothing of what is in it.</span>
        )}
      </td>
      <td className="py-1.5 pr-3 tabular-nums">{size === null ? "" : bytesWords(size)}</td>
      <td className="py-1.5 pr-3 tabular-nums">{dates.moment(at)}</td>
      <td className="py-1.5 pr-3 wrap-anywhere">
        {sender && <span className="block">{sender}</span>}
        <span className="block">{address ?? "address not known"}</span>
        {from && <span className="block font-mono text-[12px] text-ink-faint">{from}</span>}
      </td>
      <td className="py-1.5 wrap-anywhere">
        {itemName}
        <span className="block text-[12px] text-ink-faint">{storeName}</span>
      </td>
    </tr>
  );
}

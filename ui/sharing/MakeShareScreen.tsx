"use client";

import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { parseAsString, useQueryStates } from "nuqs";
import { useStandpoint } from "../frame/viewer";
import { Finder } from "../parts/Finder";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { MAKING } from "./door";
import { SentenceForm } from "./SentenceForm";

/** Makes a share of one item, from the start as it should be; or one in the place of another. */
export function MakeShareScreen() {
  const { viewer, now, past } = useStandpoint();
  const router = useRouter();
  const [{ item, replaces }, setPlace] = useQueryStates({ item: parseAsString, replaces: parseAsString });
  const beginning = useQuery({
    queryKey: ["sharing", "begin", item, replaces],
    queryFn: () => MAKING.begin(item!, replaces ?? undefined),
    enabled: item !== null,
    // What somebody has filled in stays.
    staleTime: Infinity,
  });
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <div className="mb-4 flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">{replaces ? "Replace a share" : "Make a share"}</h1>
        {item !== null && (
          <Link
            href={`/share${replaces ? `?replaces=${encodeURIComponent(replaces)}` : ""}`}
            className="text-verdigris underline"
          >
            Share something else{replaces && " in its place"}
          </Link>
        )}
        <Link href="/share/requests" className="text-verdigris underline">
          Requests
        </Link>
      </div>
      {(!viewer.mayChange || past !== null) && (
        <Notice>Only administrators can make shares, and only now. Go back to now to make one.</Notice>
      )}
      {viewer.mayChange && past === null && item === null && (
        <div className="max-w-md">
          <p className="mb-3 text-ink-soft">
            {replaces ? "What is to be shared in its place?" : "Which file or folder is it about?"}
          </p>
          <Finder
            label="A folder, space or file"
            placeholder="name of a folder or file"
            kinds={["item"]}
            value=""
            onPick={(found) => void (found && setPlace({ item: found.id }, { history: "push" }))}
          />
        </div>
      )}
      {beginning.error && <Notice tone="wrong">{beginning.error.message}</Notice>}
      {beginning.isFetching && <Loading />}
      {viewer.mayChange && past === null && beginning.data && (
        <SentenceForm
          key={`${item} ${replaces}`}
          door={MAKING}
          beginning={beginning.data}
          now={now}
          onSent={(id) => router.push(`/share/requests/${id}`)}
        />
      )}
    </div>
  );
}

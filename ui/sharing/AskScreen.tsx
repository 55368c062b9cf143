"use client";

import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { parseAsString, useQueryStates } from "nuqs";
import { useId, useState } from "react";
import { askingOperations } from "@/contract/sharing";
import type { Seconds } from "@/core/time/instant";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { ASKING } from "./door";
import { SentenceForm } from "./SentenceForm";

/** Asks for a share of something that one owns. */
export function AskScreen({ now }: { now: Seconds }) {
  const router = useRouter();
  const [{ item }, setPlace] = useQueryStates({ item: parseAsString });
  const beginning = useQuery({
    queryKey: ["my-sharing", "begin", item],
    queryFn: () => ASKING.begin(item!),
    enabled: item !== null,
    staleTime: Infinity,
  });
  return (
    <main className="mx-auto min-h-screen max-w-5xl bg-raised px-4 py-5 sm:px-8">
      <h1 className="mb-1 text-[22px] font-semibold">Ask for a share</h1>
      <p className="mb-4 max-w-prose text-ink-soft">
        Say who may do what with one of your files, and until when. An administrator decides, and you get a mail; some
        requests need nobody’s approval.
      </p>
      {item === null ? (
        <OwnItems onPick={(id) => void setPlace({ item: id }, { history: "push" })} />
      ) : (
        <p className="mb-3">
          <Link href="/my-shares/ask" className="text-verdigris underline">
            Choose something else
          </Link>
        </p>
      )}
      {beginning.error && <Notice tone="wrong">{beginning.error.message}</Notice>}
      {beginning.isFetching && <Loading />}
      {beginning.data && (
        <SentenceForm
          key={item}
          door={ASKING}
          beginning={beginning.data}
          now={now}
          onSent={() => router.push("/my-shares/requests")}
        />
      )}
    </main>
  );
}

function OwnItems({ onPick }: { onPick: (id: string) => void }) {
  const [text, setText] = useState("");
  const { data, error } = useQuery(asked(askingOperations.myItems, { query: { text } }));
  const id = useId();
  return (
    <div className="max-w-xl">
      <label htmlFor={id} className="mb-1 block font-semibold">
        Which of your files or folders?
      </label>
      <input
        id={id}
        value={text}
        placeholder="part of its name"
        onChange={({ target }) => setText(target.value)}
        className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5"
      />
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data?.length === 0 && (
        <p role="status" className="mt-2 text-ink-soft">
          {text === "" ? "No store says that you own anything." : "Nothing of yours is called that."}
        </p>
      )}
      <ul className="mt-2">
        {data?.map((one) => (
          <li key={one.id} className="border-t border-line">
            <button type="button" className="block w-full py-1.5 text-left" onClick={() => onPick(one.id)}>
              <span className="text-verdigris underline">{one.name}</span>
              <span className="block text-[12px] text-ink-faint">{one.place}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { addressOf } from "@/contract/address";
import { sharingOperations } from "@/contract/sharing";
import { type GivenWaiver, type ShareRequest, STATE_WORDS } from "@/core/sharing/request";
import { wishWords } from "@/core/sharing/wish";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { Verdict } from "./Verdict";

const SOON_MS = 1_000;

/** One request: what is wanted and why, what would come of it, and what has become of it. */
export function RequestScreen({ id }: { id: string }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const { data, error } = useQuery({
    ...asked(sharingOperations.shareRequest, { params: { id } }),
    // While it is being made its state moves by itself.
    refetchInterval: ({ state }) => (state.data?.state === "making" ? SOON_MS : false),
  });
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <div className="mb-3 flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">{data ? `Share ${data.itemName}` : "A request"}</h1>
        <Link href="/share/requests" className="text-verdigris underline">
          All requests
        </Link>
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          <p className="max-w-prose text-[15px]">{wishWords(data.wish, data.itemName)}</p>
          {data.why && <p className="mt-1 max-w-prose text-ink-soft">What it is for: {data.why}</p>}
          <p className="mt-1 text-ink-soft">
            Asked by {data.askedBy} on {dates.moment(data.askedAt)}.{" "}
            <b className="font-semibold">{STATE_WORDS[data.state]}</b>
            {data.decidedBy && data.decidedBy !== data.askedBy && ` (${data.decidedBy})`}
            {data.dueAt !== null && data.state === "due" && `: on ${dates.moment(data.dueAt)}`}.
          </p>
          {data.wish.replaces !== undefined && (
            <p className="mt-1">
              It takes the place of{" "}
              <Link
                href={`/register?share=${encodeURIComponent(data.wish.replaces)}`}
                className="text-verdigris underline"
              >
                another share
              </Link>
              , which is revoked once this one opens as it should.
            </p>
          )}
          {data.word && <Notice tone={data.state === "failed" ? "wrong" : "plain"}>{data.word}</Notice>}
          {data.state === "asked" && viewer.mayChange && <Decide request={data} />}
          <Made request={data} />
        </>
      )}
    </div>
  );
}

function Decide({ request: { id } }: { request: ShareRequest }) {
  const { now } = useStandpoint();
  const dates = useDates();
  const client = useQueryClient();
  const [waivers, setWaivers] = useState<GivenWaiver[]>([]);
  const [word, setWord] = useState("");
  const field = useId();
  const look = useQuery(asked(sharingOperations.lookAtRequest, { params: { id }, query: dates.settings }));
  const decide = useMutation({
    mutationFn: async (isApproved: boolean) => {
      const params = { id };
      if (isApproved)
        await ask(sharingOperations.approveRequest, { params, body: { digest: look.data!.digest, waivers } });
      else await ask(sharingOperations.refuseRequest, { params, body: { word } });
    },
    onSettled: () => client.invalidateQueries(),
  });
  const isOpen = look.data?.breaks.some(({ rule }) => !waivers.some((one) => one.rule === rule)) ?? true;
  return (
    <div className="mt-4 max-w-3xl">
      {look.error && <Notice tone="wrong">{look.error.message}</Notice>}
      {look.data && <Verdict outlook={look.data} now={now} waivers={waivers} onWaivers={setWaivers} />}
      {decide.error && <Notice tone="wrong">{decide.error.message}</Notice>}
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-3 border-t border-line pt-3">
        <Button
          look="act"
          disabled={isOpen || !look.data || look.data.cannot.length > 0 || decide.isPending}
          onClick={() => decide.mutate(true)}
        >
          Approve and make it
        </Button>
        <form
          className="flex grow items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            decide.mutate(false);
          }}
        >
          <div className="grow">
            <label htmlFor={field} className="mb-1 block font-semibold">
              Or refuse it, and say why
            </label>
            <input
              id={field}
              value={word}
              onChange={({ target }) => setWord(target.value)}
              className="h-[30px] w-full rounded-[3px] border border-control bg-raised px-2.5"
            />
          </div>
          <Button type="submit" disabled={word.trim().length < 3 || decide.isPending}>
            Refuse it
          </Button>
        </form>
      </div>
    </div>
  );
}

/** Where to go on once it is made: the receipt, the passphrase, a code to print. */
function Made({ request: { id, state, docketId, shares, wish } }: { request: ShareRequest }) {
  const { viewer } = useStandpoint();
  if (docketId === null) return null;
  const code = (format: "png" | "svg") => addressOf(sharingOperations.shareCode, { params: { id }, query: { format } });
  return (
    <section className="mt-4">
      <ul className="space-y-1">
        <li>
          <Link href={`/ledger/dockets/${docketId}`} className="text-verdigris underline">
            Its docket: the receipt, any passphrase to hand over, and its undo
          </Link>
        </li>
        {shares.map((share) => (
          <li key={share}>
            <Link href={`/register?share=${encodeURIComponent(share)}`} className="text-verdigris underline">
              The share in the register
            </Link>
          </li>
        ))}
        {state === "made" && viewer.mayChange && wish.to === "anyone" && (
          <li>
            A QR code to print:{" "}
            <a href={code("png")} download className="text-verdigris underline">
              PNG
            </a>
            ,{" "}
            <a href={code("svg")} download className="text-verdigris underline">
              SVG
            </a>
            . Whoever scans it gets the link.
          </li>
        )}
      </ul>
    </section>
  );
}

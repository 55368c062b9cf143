"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { type RoundView, roundsOperations } from "@/contract/rounds";
import { sampleSize } from "@/core/advice/sample";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { NumberSlot, OneSlot } from "./OneSlot";
import { useRoundAct } from "./useRound";

const CONFIDENCES = [
  ["900", "90 %"],
  ["950", "95 %"],
  ["990", "99 %"],
] as const;

/** Some of what was kept, drawn by chance, is decided again by somebody else. */
export function LooksPart({ round }: { round: RoundView }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  return (
    <section aria-labelledby="looks" className="mt-5">
      <h2 id="looks" className="text-[15px] font-semibold">
        Second look
      </h2>
      {round.looks.map((look) => (
        <p key={look.id} className="border-t border-line py-1">
          <Link href={`/rounds/${round.id}/looks/${look.id}`} className="text-verdigris underline">
            {countWords(look.size, "share")} of {look.of} kept
          </Link>
          , drawn on {dates.day(look.madeAt)}: {look.decided} looked at, {look.differ} decided otherwise.
        </p>
      ))}
      {viewer.mayChange && round.state !== "stopped" && <Draw round={round} />}
    </section>
  );
}

function Draw({ round }: { round: RoundView }) {
  const router = useRouter();
  const [percent, setPercent] = useState(5);
  const [confidence, setConfidence] = useState<(typeof CONFIDENCES)[number][0]>("950");
  const kept = round.counts.kept ?? 0;
  const draw = useRoundAct(() =>
    ask(roundsOperations.drawLook, {
      params: { id: String(round.id) },
      body: { percent, confidence: Number(confidence) },
    }),
  );
  if (kept === 0)
    return <p className="text-ink-faint">Once shares have been kept, you can review a sample of them here.</p>;
  const size = sampleSize(kept, percent, Number(confidence));
  return (
    <>
      <p className="mt-1 leading-7">
        If{" "}
        <NumberSlot
          label="Percentage kept wrongly"
          words={`${percent} %`}
          value={percent}
          most={100}
          onChange={setPercent}
        />{" "}
        of the {countWords(kept, "kept share")} were kept wrongly, looking again at{" "}
        <b className="font-semibold">{size}</b> would find at least one with{" "}
        <OneSlot
          label="Confidence"
          words={`${Number(confidence) / 10} %`}
          chosen={confidence}
          choices={CONFIDENCES}
          onChoose={setConfidence}
        />{" "}
        confidence.
      </p>
      <Button
        disabled={draw.isPending}
        onClick={() =>
          draw.mutate(undefined, { onSuccess: ({ id }) => router.push(`/rounds/${round.id}/looks/${id}`) })
        }
      >
        Draw a sample of {countWords(size, "share")}
      </Button>
      {draw.error && <Notice tone="wrong">{draw.error.message}</Notice>}
    </>
  );
}

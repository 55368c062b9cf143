import type { RoundView } from "@/contract/rounds";

/** By what it can be proved that nothing was left out. */
export function RecordPart({ round: { hash, lines, counts } }: { round: RoundView }) {
  const sum = Object.values(counts).reduce((all, count) => all + count, 0);
  return (
    <section aria-labelledby="record" className="mt-5">
      <h2 id="record" className="text-[15px] font-semibold">
        Complete
      </h2>
      <p>
        {lines.toLocaleString("en-GB")} shares matched when the round opened; {sum.toLocaleString("en-GB")} lines are
        listed here, each in exactly one state.
      </p>
      {hash && (
        <p className="mt-1 text-ink-faint">
          SHA-256 of their ids, as recorded in the ledger:{" "}
          <code className="font-mono text-[11.5px] break-all">{hash}</code>
        </p>
      )}
    </section>
  );
}

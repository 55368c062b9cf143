import { type Control, CONTROLS, EVIDENCE, type EvidenceKind } from "@/core/evidence/controls";
import { type Report, type ReportSection, tableOf } from "@/core/evidence/report";
import { rfc3339, seconds, type Seconds } from "@/core/time/instant";
import type { Asking } from "../../engine/client";
import { countsOfKinds } from "../../records/ledger/ledger";
import { dayOf, figure, spanOf } from "./days";

/** For one kind of evidence: how much there is in the span, and when it was last renewed before the span's end. */
interface Held {
  count: number;
  last: Seconds | null;
}

/** What is held here as evidence for published controls, over a span. */
export async function controlsReport(app: Asking, asked: { from: string; to: string }): Promise<Report> {
  const { from, to } = spanOf(app, asked);
  const held = await evidenceIn(app, from, to);
  return {
    title: `Evidence for controls, ${dayOf(from)} to ${dayOf(to)}`,
    words:
      "What the Tight Latch ledger holds that can be shown for the controls of published standards. It helps " +
      "whoever prepares an audit, but is no certificate: an auditor decides whether a control is met. Standards are cited by " +
      "their numbers; the descriptions are ours. Days are in UTC.",
    sections: CONTROLS.map(({ standard, controls }) => standardSection(standard, controls, held)),
  };
}

async function evidenceIn({ db }: Asking, from: Seconds, to: Seconds): Promise<Map<EvidenceKind, Held>> {
  const counts = await countsOfKinds(db, rfc3339(from), rfc3339(to));
  const kinds = Object.keys(EVIDENCE) as EvidenceKind[];
  return new Map(
    kinds.map((kind) => {
      const own = EVIDENCE[kind].kinds.flatMap((one) => counts.get(one) ?? []);
      const lasts = own.flatMap(({ last }) => seconds(last));
      return [
        kind,
        { count: own.reduce((sum, { count }) => sum + count, 0), last: lasts.length === 0 ? null : Math.max(...lasts) },
      ];
    }),
  );
}

function standardSection(
  standard: string,
  controls: readonly Control[],
  held: ReadonlyMap<EvidenceKind, Held>,
): ReportSection {
  const rows = controls.map(({ number, words, evidence }) => {
    const there = evidence.filter((kind) => held.get(kind)!.count > 0);
    const last = Math.max(...evidence.map((kind) => held.get(kind)!.last ?? -Infinity));
    const told = there.map((kind) => `${EVIDENCE[kind].title}: ${figure(held.get(kind)!.count)}`).join("; ");
    return [number, words, told || noneWords(evidence), last === -Infinity ? "never" : dayOf(last)];
  });
  return {
    title: standard,
    words: "",
    table: tableOf(["Number", "What it is about", "Evidence in this period", "Last renewed"], rows),
  };
}

function noneWords(evidence: readonly EvidenceKind[]): string {
  return evidence.length === 0
    ? "None: Tight Latch has no evidence for it."
    : `None in this period. It would be: ${evidence.map((kind) => EVIDENCE[kind].title.toLowerCase()).join(", ")}.`;
}

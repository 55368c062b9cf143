"use client";

import { parseAsInteger, parseAsString, useQueryStates } from "nuqs";
import type { Curve } from "@/core/advice/view";
import { useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { FrontierCurve } from "./FrontierCurve";
import { PointPane } from "./PointPane";
import { ScopeSlot } from "./ScopeSlot";
import { useCurve, useWeighing } from "./useShortlist";
import { WeighingPart } from "./WeighingPart";
import { headline } from "./words";

/** Which changes shut the most and disturb the least: the curve of what stays open, and what a point of it is made of. */
export function ShortlistScreen() {
  return useStandpoint().past === null ? <ShortlistNow /> : <OfNow />;
}

function ShortlistNow() {
  const [{ scope, changes }, setAsked] = useQueryStates({
    scope: parseAsString.withDefault("everything"),
    changes: parseAsInteger,
  });
  const { data: curve, error, isFetching } = useCurve(scope);
  const { weighing, set } = useWeighing();
  const at = curve && pointAt(curve, changes);
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,600px)_minmax(0,1fr)]">
      <section
        aria-labelledby="where-to-start"
        aria-busy={isFetching}
        className="min-h-0 overflow-y-auto border-r border-line-strong bg-surface px-6 py-4"
      >
        <nav aria-label="Where this is" className="text-ink-soft">
          <Link href="/desk" className="underline">
            Desk
          </Link>{" "}
          / Where to start
        </nav>
        <h1 id="where-to-start" aria-live="polite" className="text-[20px] font-semibold">
          {curve && at !== undefined
            ? headline(curve.points[at].changes, curve.points[at].left, curve.mass)
            : "What to shut first"}
        </h1>
        <p className="text-ink-soft">
          For{" "}
          <ScopeSlot
            title={curve?.title ?? scope}
            onChoose={(chosen) => void setAsked({ scope: chosen === "everything" ? null : chosen, changes: null })}
          />
          . This is exact: no other changes shut more for as little disturbance.
        </p>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!curve && !error && <Working />}
        {curve && curve.mass === 0 && (
          <Notice>Nothing with any weight is open to the outside here. Choose another scope or other weights.</Notice>
        )}
        {curve && at !== undefined && curve.mass > 0 && (
          <FrontierCurve curve={curve} at={at} onMove={(to) => void setAsked({ changes: curve.points[to].changes })} />
        )}
        {weighing && <WeighingPart key={JSON.stringify(weighing)} weighing={weighing} set={set} />}
      </section>
      {curve && at !== undefined && weighing && (
        <PointPane scope={scope} curve={curve} at={at} usedDays={weighing.usedDays} />
      )}
    </div>
  );
}

/** The point that the address names, or else where the curve bends. */
function pointAt({ points, bend }: Curve, changes: number | null): number {
  return changes === null ? bend : points.findLastIndex((point) => point.changes <= changes);
}

function Working() {
  return (
    <p role="status" aria-busy="true" className="mt-3 text-ink-faint">
      Working out the curve. With hundreds of thousands of shares this takes a few seconds. You can leave this page
      meanwhile.
    </p>
  );
}

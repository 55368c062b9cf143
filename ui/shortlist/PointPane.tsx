"use client";

import type { Curve, PointView } from "@/core/advice/view";
import { MOST_STAGED, type Touched } from "@/contract/shortlist";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { GroupOfChanges } from "./GroupOfChanges";
import { usePoint } from "./useShortlist";
import { actWords, percentWords } from "./words";

interface Props {
  scope: string;
  curve: Curve;
  at: number;
  usedDays: number;
}

/** What the changes of one point are, whom they touch, and what comes next. */
export function PointPane({ scope, curve, at, usedDays }: Props) {
  const { changes } = curve.points[at];
  const { point, touched } = usePoint(scope, changes);
  const error = point.error ?? touched.error;
  const shown = point.data;
  return (
    <section aria-labelledby="changes" className="min-h-0 overflow-y-auto bg-raised px-6 py-4">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 id="changes" className="grow text-[16px] font-semibold">
          {changes === 0
            ? "No change yet"
            : `What ${changes === 1 ? "this change is" : `these ${changes.toLocaleString("en-GB")} changes are`}`}
        </h2>
        {shown && shown.changes > 0 && <Stage scope={scope} point={shown} isShown={!point.isPlaceholderData} />}
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!shown && !error && <Loading />}
      {shown && (
        <div aria-busy={point.isPlaceholderData}>
          <Figures point={shown} touched={touched.data} usedDays={usedDays} />
          <ul className="mt-3">
            {shown.groups.map((group) => (
              <GroupOfChanges
                key={group.key}
                {...{ scope, group, usedDays, mass: curve.mass, changes: shown.changes }}
              />
            ))}
          </ul>
          {shown.groups.length > 1 && (
            <p className="mt-1 text-right text-[12.5px] text-ink-faint">
              Each percentage is what a group shuts once the groups above it are done.
            </p>
          )}
          <Next point={shown} mass={curve.mass} />
        </div>
      )}
    </section>
  );
}

function Stage({ scope, point, isShown }: { scope: string; point: PointView; isShown: boolean }) {
  const { viewer } = useStandpoint();
  const { stagePoint } = useTray();
  const { changes, digest } = point;
  if (!viewer.mayChange) return null;
  if (changes > MOST_STAGED)
    return (
      <p className="text-ink-soft">
        At most {MOST_STAGED.toLocaleString("en-GB")} changes fit in one docket: move the handle back.
      </p>
    );
  return (
    <>
      <Button
        look="act"
        disabled={!isShown || stagePoint.isPending}
        onClick={() => stagePoint.mutate({ scope, changes, digest })}
      >
        Add {countWords(changes, "change")} to the docket
      </Button>
      {stagePoint.isSuccess && stagePoint.variables.digest === digest && (
        <Notice>They are in the docket: check its preview at the bottom of the window, then apply it.</Notice>
      )}
      {stagePoint.error && <Notice tone="wrong">{stagePoint.error.message}</Notice>}
    </>
  );
}

function Figures({ point, touched, usedDays }: { point: PointView; touched: Touched | undefined; usedDays: number }) {
  const { files, running } = point;
  const figures: [number | string, string][] = [
    [files.shut, `of ${countWords(files.open, "open file")} closed to everybody outside`],
    [touched ? touched.lately.people : "…", latelyWords(touched, usedDays)],
    losingFigure(touched),
    [running, `${running === 1 ? "share" : "shares"} of running projects`],
  ];
  return (
    <dl className="grid grid-cols-2 gap-x-5 gap-y-2 border-b border-line pb-3 xl:grid-cols-4">
      {figures.map(([figure, words]) => (
        <div key={words} className="flex flex-col-reverse justify-end">
          <dt className="text-[12.5px] text-ink-soft">{words}</dt>
          <dd className="text-[22px] font-semibold tabular-nums">{figure.toLocaleString("en-GB")}</dd>
        </div>
      ))}
    </dl>
  );
}

function latelyWords(touched: Touched | undefined, usedDays: number): string {
  const words = `${touched?.lately.people === 1 ? "person" : "people"} used any of it in ${usedDays} days`;
  const unnamed = touched?.lately.unnamed ?? 0;
  return unnamed === 0 ? words : `${words}; ${countWords(unnamed, "share")} also by somebody unnamed`;
}

function losingFigure(touched: Touched | undefined): [number | string, string] {
  if (!touched) return ["…", "people outside lose access by name"];
  if (!touched.losing) return ["?", "people lose access: not counted for this many changes"];
  const { outsiders, organisations, insiders } = touched.losing;
  const inHouse = insiders === 0 ? "" : ` (and ${insiders.toLocaleString("en-GB")} in-house)`;
  const words = `${outsiders === 1 ? "person" : "people"} of ${countWords(organisations, "organisation")}${inHouse} lose some access by name`;
  return [outsiders, words];
}

/** What isn't worth it yet: the next step on the curve. */
function Next({ point, mass }: { point: PointView; mass: number }) {
  const { next } = point;
  if (!next)
    return (
      <p className="mt-4 text-ink-soft">
        Nothing more can be shut: what stays open weighs nothing, or no change closes it.
      </p>
    );
  const { changes, price, left, first } = next;
  return (
    <section aria-labelledby="next" className="mt-4">
      <h3 id="next" className="font-semibold">
        {point.changes === 0 ? "The first step" : "Not worth it yet"}
      </h3>
      <p className="text-ink-soft">
        The next {countWords(changes - point.changes, "change")} would shut {percentWords(point.left - left, mass)}{" "}
        more, at a price of {(price - point.price).toLocaleString("en-GB")}
        {changes - point.changes > 1 ? "; first: " : ": "}
        {actWords(first.act, first.itemName)}.
      </p>
    </section>
  );
}

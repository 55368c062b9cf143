"use client";

import clsx from "clsx";
import { type ReactNode, useMemo } from "react";
import type { NamedPath } from "@/core/access/ways";
import { type Change, subjectOf } from "@/core/changes/change";
import { type ChainCut, cutsAlong } from "./cutWords";
import { layOut, type PlacedLink, type PlacedStep, STEP_HEIGHT, STEP_WIDTH } from "./layout";

const KIND_WORDS: Record<PlacedStep["kind"], string> = {
  person: "Person",
  group: "Group",
  share: "Share",
  folder: "Inherited from",
  item: "Item",
};

/** As large as a target has to be (WCAG 2.2, 2.5.8). */
const CUTTER = 24;

interface Props {
  paths: NamedPath[];
  staged: ReadonlySet<string>;
  /** Stages a change, or takes it out again; null where nothing may be changed. */
  onCut: ((change: Change) => void) | null;
}

/**
 * The ways from a person to an item, drawn. A share can be revoked by its box, a link cut by the mark in
 * its middle; the list beside it says the same in words and has the same controls.
 */
export function PathPicture({ paths, staged, onCut }: Props) {
  const picture = useMemo(() => layOut(paths), [paths]);
  const cuts = useMemo(() => new Map(paths.flatMap(cutsAlong).map((one) => [subjectOf(one.change), one])), [paths]);
  const known = (change: Change | null) => (change ? cuts.get(subjectOf(change)) : undefined);
  const isStaged = (change: Change | null) => change !== null && staged.has(subjectOf(change));
  return (
    <div className="overflow-x-auto">
      <svg
        role="group"
        aria-label={`${paths.length} ways in, drawn from the person on the left to the item on the right. The list below says the same.`}
        width={picture.width}
        height={picture.height}
        className="block"
      >
        {picture.links.map(({ key, points, cut }) => (
          <polyline
            key={key}
            points={points.map(({ x, y }) => `${x},${y}`).join(" ")}
            fill="none"
            stroke="var(--line-strong)"
            strokeWidth="2"
            strokeDasharray={isStaged(cut) ? "4 4" : undefined}
          />
        ))}
        {picture.steps.map((step) => (
          <StepBox key={step.key} step={step} cut={known(step.end)} isCut={isStaged(step.end)} onCut={onCut} />
        ))}
        {onCut &&
          picture.links.map((link) => (
            <LinkCutter key={link.key} link={link} cut={known(link.cut)} isCut={isStaged(link.cut)} onCut={onCut} />
          ))}
      </svg>
    </div>
  );
}

interface StepProps {
  step: PlacedStep;
  cut: ChainCut | undefined;
  isCut: boolean;
  onCut: ((change: Change) => void) | null;
}

/** People and items stand in full boxes; a share has a copper edge, and one that is to go is struck through. */
function StepBox({ step, cut, isCut, onCut }: StepProps) {
  const left = step.x - STEP_WIDTH / 2;
  const top = step.y - STEP_HEIGHT / 2;
  const isEnd = step.kind === "person" || step.kind === "item";
  const words = (
    <>
      <span className="text-[11.5px] text-ink-faint">{isCut ? "To be revoked" : KIND_WORDS[step.kind]}</span>
      <span className={clsx("block truncate", isCut && "line-through")}>{step.words}</span>
    </>
  );
  return (
    <g transform={`translate(${left} ${top})`}>
      <rect
        width={STEP_WIDTH}
        height={STEP_HEIGHT}
        rx="3"
        fill={isEnd ? "var(--verdigris-soft)" : "var(--raised)"}
        stroke={step.kind === "share" ? "var(--copper)" : "var(--line-strong)"}
        strokeWidth={step.kind === "share" ? 2 : 1}
        strokeDasharray={isCut ? "4 4" : undefined}
      />
      <foreignObject width={STEP_WIDTH} height={STEP_HEIGHT}>
        {cut && onCut ? (
          <CutButton cut={cut} isCut={isCut} onCut={onCut}>
            <span className="flex h-full flex-col justify-center overflow-hidden px-2 text-left hover:bg-copper-soft">
              {words}
            </span>
          </CutButton>
        ) : (
          <div className="flex h-full flex-col justify-center px-2" title={step.words}>
            {words}
          </div>
        )}
      </foreignObject>
    </g>
  );
}

interface CutButtonProps {
  cut: ChainCut;
  isCut: boolean;
  onCut: (change: Change) => void;
  children: ReactNode;
}

/** Stages a cut, or takes it out again. */
function CutButton({ cut, isCut, onCut, children }: CutButtonProps) {
  return (
    <button
      type="button"
      aria-pressed={isCut}
      aria-label={cut.words}
      title={isCut ? `${cut.words}: staged. Press again to remove it.` : `${cut.words}.`}
      onClick={() => onCut(cut.change)}
      className="grid h-full w-full"
    >
      {children}
    </button>
  );
}

interface LinkProps {
  link: PlacedLink;
  cut: ChainCut | undefined;
  isCut: boolean;
  onCut: (change: Change) => void;
}

/** Where a link can be cut: a bar across it, which stands open once the cut is staged. */
function LinkCutter({ link, cut, isCut, onCut }: LinkProps) {
  if (!cut) return null;
  const { x, y } = link.middle;
  return (
    <foreignObject x={x - CUTTER / 2} y={y - CUTTER / 2} width={CUTTER} height={CUTTER}>
      <CutButton cut={cut} isCut={isCut} onCut={onCut}>
        <span
          className={clsx(
            "h-4 w-[9px] self-center justify-self-center rounded-[2px] border-2",
            isCut ? "border-oxide bg-oxide" : "border-copper bg-raised hover:bg-copper-soft",
          )}
        />
      </CutButton>
    </foreignObject>
  );
}

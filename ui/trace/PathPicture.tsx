"use client";

import clsx from "clsx";
import { useMemo } from "react";
import type { TracedPath } from "@/core/access/trace";
import { layOut, type PlacedStep, STEP_HEIGHT, STEP_WIDTH } from "./layout";

const KIND_WORDS: Record<PlacedStep["kind"], string> = {
  person: "Person",
  group: "Group",
  share: "Share",
  folder: "Inherited from",
  item: "Item",
};

/** The ways from a person to an item, drawn. The list beside it says the same in words, and holds the controls. */
export function PathPicture({ paths, staged }: { paths: TracedPath[]; staged: ReadonlySet<string> }) {
  const picture = useMemo(() => layOut(paths), [paths]);
  return (
    <div className="overflow-x-auto">
      <svg
        role="img"
        aria-label={`${paths.length} ways in, drawn from the person at the left to the item at the right. The list says the same.`}
        width={picture.width}
        height={picture.height}
        className="block"
      >
        {picture.edges.map(({ key, points }) => (
          <polyline
            key={key}
            points={points.map(({ x, y }) => `${x},${y}`).join(" ")}
            fill="none"
            stroke="var(--line-strong)"
            strokeWidth="2"
          />
        ))}
        {picture.steps.map((step) => (
          <StepBox key={step.key} step={step} isCut={step.kind === "share" && staged.has(step.id)} />
        ))}
      </svg>
    </div>
  );
}

/** People and items stand in full boxes; a share has a bolt, and one that is to go is struck through. */
function StepBox({ step, isCut }: { step: PlacedStep; isCut: boolean }) {
  const left = step.x - STEP_WIDTH / 2;
  const top = step.y - STEP_HEIGHT / 2;
  const isEnd = step.kind === "person" || step.kind === "item";
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
        <div className="flex h-full flex-col justify-center px-2" title={step.words}>
          <span className="text-[11.5px] text-ink-faint">{isCut ? "To be revoked" : KIND_WORDS[step.kind]}</span>
          <span className={clsx("truncate", isCut && "line-through")}>{step.words}</span>
        </div>
      </foreignObject>
    </g>
  );
}

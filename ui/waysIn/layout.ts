import { Graph, layout } from "@dagrejs/dagre";
import type { Step, NamedPath } from "@/core/access/ways";
import type { Change } from "@/core/changes/change";

export interface PlacedStep extends Step {
  key: string;
  x: number;
  y: number;
}

interface Point {
  x: number;
  y: number;
}

/** A link between two steps; `middle` is where it is cut. */
export interface PlacedLink {
  key: string;
  points: Point[];
  middle: Point;
  cut: Change | null;
}

export interface Picture {
  width: number;
  height: number;
  steps: PlacedStep[];
  links: PlacedLink[];
}

export const STEP_WIDTH = 140;
export const STEP_HEIGHT = 44;
/** Room between the steps for what cuts the link. */
const LINK_LENGTH = 36;

const keyOf = (step: Step) => `${step.kind}:${step.id}`;

/** Lays the chains of all paths out from left to right; what several paths share is drawn once. */
export function layOut(paths: readonly NamedPath[]): Picture {
  const graph = new Graph();
  graph.setGraph({ rankdir: "LR", ranksep: LINK_LENGTH, nodesep: 18, marginx: 4, marginy: 4 });
  graph.setDefaultEdgeLabel(() => ({}));
  const steps = new Map<string, Step>();
  for (const path of paths) {
    path.steps.forEach((step, index) => {
      const key = keyOf(step);
      steps.set(key, step);
      graph.setNode(key, { width: STEP_WIDTH, height: STEP_HEIGHT });
      if (index > 0) graph.setEdge(keyOf(path.steps[index - 1]), key, { cut: step.cut });
    });
  }
  layout(graph);
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    steps: [...steps].map(([key, step]) => {
      const { x, y } = graph.node(key);
      return { ...step, key, x, y };
    }),
    links: graph.edges().map(({ v, w }) => {
      const { points = [], cut } = graph.edge(v, w) as { points?: Point[]; cut: Change | null };
      return { key: `${v}>${w}`, points, middle: points[Math.floor(points.length / 2)], cut };
    }),
  };
}

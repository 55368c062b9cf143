import { Graph, layout } from "@dagrejs/dagre";
import type { Step, TracedPath } from "@/core/access/trace";

export interface PlacedStep extends Step {
  key: string;
  x: number;
  y: number;
}

export interface Picture {
  width: number;
  height: number;
  steps: PlacedStep[];
  edges: { key: string; points: { x: number; y: number }[] }[];
}

export const STEP_WIDTH = 140;
export const STEP_HEIGHT = 44;

const keyOf = (step: Step) => `${step.kind}:${step.id}`;

/** Lays the chains of all paths out from left to right; what several paths share is drawn once. */
export function layOut(paths: readonly TracedPath[]): Picture {
  const graph = new Graph();
  graph.setGraph({ rankdir: "LR", ranksep: 30, nodesep: 18, marginx: 4, marginy: 4 });
  graph.setDefaultEdgeLabel(() => ({}));
  const steps = new Map<string, Step>();
  for (const path of paths) {
    path.steps.forEach((step, index) => {
      const key = keyOf(step);
      steps.set(key, step);
      graph.setNode(key, { width: STEP_WIDTH, height: STEP_HEIGHT });
      if (index > 0) graph.setEdge(keyOf(path.steps[index - 1]), key);
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
    edges: graph.edges().map((edge) => ({ key: `${edge.v}>${edge.w}`, points: graph.edge(edge).points ?? [] })),
  };
}

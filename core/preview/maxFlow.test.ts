import fc from "fast-check";
import solver from "javascript-lp-solver";
import { FlowGraph } from "./maxFlow";

/** The network of T. H. Cormen et al., "Introduction to Algorithms", figure 26.6 in the third edition; its flow is 23. From memory of the book. */
test("a network from the handbook", () => {
  const edges: [string, string, number][] = [
    ["s", "v1", 16],
    ["s", "v2", 13],
    ["v1", "v3", 12],
    ["v2", "v1", 4],
    ["v2", "v4", 14],
    ["v3", "v2", 9],
    ["v3", "t", 20],
    ["v4", "v3", 7],
    ["v4", "t", 4],
  ];
  const graph = new FlowGraph<number>();
  const nodes = new Map(["s", "v1", "v2", "v3", "v4", "t"].map((name) => [name, graph.addNode()]));
  for (const [from, to, room] of edges) graph.addEdge(nodes.get(from)!, nodes.get(to)!, room, room);
  const cut = graph.minCut(nodes.get("s")!, nodes.get("t")!)!;
  expect(cut.sort((a, b) => a - b)).toEqual([4, 7, 12]);
});

test("where edges that can't be cut lead all the way, there is no cut", () => {
  const graph = new FlowGraph<string>();
  const [a, b, c] = [graph.addNode(), graph.addNode(), graph.addNode()];
  graph.addEdge(a, b, Infinity);
  graph.addEdge(b, c, Infinity);
  graph.addEdge(a, c, 3, "dear");
  expect(graph.minCut(a, c)).toBeNull();
});

test("the cut is as cheap as the cheapest of all cuts, and cuts", () => {
  const size = 6;
  const edge = fc.tuple(fc.nat(size - 1), fc.nat(size - 1), fc.integer({ min: 0, max: 9 }));
  fc.assert(
    fc.property(fc.array(edge, { maxLength: 14 }), (edges) => {
      const graph = new FlowGraph<number>();
      const nodes = Array.from({ length: size }, () => graph.addNode());
      edges.forEach(([from, to, room], i) => graph.addEdge(nodes[from], nodes[to], room, i));
      const cut = new Set(graph.minCut(nodes[0], nodes[size - 1]));
      // A cut parts the nodes in two; of all ways to part them the cheapest is the least that can be.
      let cheapest = Infinity;
      for (let side = 0; side < 2 ** (size - 2); side++) {
        const isNear = (node: number) => node === 0 || (node < size - 1 && ((side >> (node - 1)) & 1) === 1);
        const price = edges.reduce((sum, [from, to, room]) => sum + (isNear(from) && !isNear(to) ? room : 0), 0);
        cheapest = Math.min(cheapest, price);
      }
      expect([...cut].reduce((sum, i) => sum + edges[i][2], 0)).toBe(cheapest);
      const reached = new Set([0]);
      for (const node of reached)
        edges.forEach(([from, to, room], i) => from === node && room > 0 && !cut.has(i) && reached.add(to));
      expect(reached.has(size - 1)).toBe(false);
    }),
    { numRuns: 500 },
  );
});

test("what is cut is as much as a linear programme sends through", () => {
  // The greatest flow as a linear programme, by javascript-lp-solver of the registry.
  const size = 7;
  const edge = fc.tuple(fc.nat(size - 2), fc.integer({ min: 1, max: size - 1 }), fc.integer({ min: 1, max: 50 }));
  fc.assert(
    fc.property(fc.array(edge, { minLength: 1, maxLength: 24 }), (drawn) => {
      const edges = drawn.filter(([from, to]) => from !== to);
      const graph = new FlowGraph<number>();
      const nodes = Array.from({ length: size }, () => graph.addNode());
      for (const [from, to, room] of edges) graph.addEdge(nodes[from], nodes[to], room, room);
      const cut = graph.minCut(nodes[0], nodes[size - 1])!.reduce((sum, room) => sum + room, 0);
      const variables: Record<string, Record<string, number>> = {};
      const constraints: Record<string, { max?: number; equal?: number }> = {};
      for (let node = 1; node < size - 1; node++) constraints[`at ${node}`] = { equal: 0 };
      for (const [at, [from, to, room]] of edges.entries()) {
        constraints[`room ${at}`] = { max: room };
        variables[`flow ${at}`] = {
          [`room ${at}`]: 1,
          [`at ${from}`]: -1,
          [`at ${to}`]: 1,
          sent: from === 0 ? 1 : to === 0 ? -1 : 0,
        };
      }
      const { result } = solver.Solve({ optimize: "sent", opType: "max", constraints, variables }) as {
        result: number;
      };
      expect(edges.length === 0 ? 0 : result).toBeCloseTo(cut, 6);
    }),
    { numRuns: 300 },
  );
});

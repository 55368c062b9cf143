import fc from "fast-check";
import { DirectedGraph } from "graphology";
import { stronglyConnectedComponents } from "graphology-components";
import { bfsFromNode } from "graphology-traversal";
import { closuresOf, components } from "./closures";

const GROUPS = 7;
const PEOPLE = 6;
/** Which groups and people each of some groups holds: dense enough that most of them lie on a circle. */
const memberships = fc
  .record({
    subgroups: fc.array(fc.uniqueArray(fc.nat(GROUPS - 1), { maxLength: 3 }), { minLength: GROUPS, maxLength: GROUPS }),
    people: fc.array(fc.uniqueArray(fc.nat(PEOPLE - 1), { maxLength: 2 }), { minLength: GROUPS, maxLength: GROUPS }),
  })
  .map(({ subgroups, people }) => ({ subgroups, people }));

function graphOf(subgroups: number[][]): DirectedGraph {
  const graph = new DirectedGraph({ allowSelfLoops: true });
  subgroups.forEach((_, group) => graph.addNode(group));
  subgroups.forEach((within, group) => within.forEach((below) => graph.addEdge(group, below)));
  return graph;
}

const sorted = (lists: (number | string)[][]) => lists.map((list) => list.map(Number).sort().join()).sort();

test("components are graphology's, and those that are pointed at come first", () => {
  fc.assert(
    fc.property(memberships, ({ subgroups }) => {
      const found = components(subgroups);
      expect(sorted(found)).toEqual(sorted(stronglyConnectedComponents(graphOf(subgroups))));
      const place = new Map(found.flatMap((component, i) => component.map((group) => [group, i])));
      for (const [group, within] of subgroups.entries())
        for (const below of within) expect(place.get(below)).toBeLessThanOrEqual(place.get(group)!);
    }),
    { numRuns: 500 },
  );
});

test("closures hold the people of every group that graphology's traversal comes to", () => {
  fc.assert(
    fc.property(memberships, ({ subgroups, people }) => {
      const graph = graphOf(subgroups);
      const closures = closuresOf({ subgroups, people });
      for (let group = 0; group < GROUPS; group++) {
        const reached = new Set<number>();
        bfsFromNode(graph, group, (node) => people[Number(node)].forEach((person) => reached.add(person)));
        expect([...closures[group]].sort()).toEqual([...reached].sort());
      }
    }),
    { numRuns: 500 },
  );
});

test("groups nested deeper than calls can be are no trouble", () => {
  const depth = 50_000;
  const subgroups = Array.from({ length: depth }, (_, group) => (group + 1 < depth ? [group + 1] : [0]));
  const people = subgroups.map((_, group) => (group === depth - 1 ? [4] : []));
  expect([...closuresOf({ subgroups, people })[0]]).toEqual([4]);
});

/** Which groups and which people each group holds itself, by index. */
export interface Membership {
  subgroups: readonly (readonly number[])[];
  people: readonly (readonly number[])[];
}

/** The people of each group with all the groups within it, each once: a list a group, shared by groups on one cycle. */
export type Closures = Int32Array[];

/**
 * Closures by strongly connected components (R. Tarjan, "Depth-first search and linear graph algorithms",
 * SIAM J. Comput. 1, 1972): groups on a cycle have one closure, and a component is come to only after all
 * those that it holds, so each closure is put together once.
 */
export function closuresOf({ subgroups, people }: Membership): Closures {
  const closures: Closures = new Array(subgroups.length);
  /** By person: one more than the first group of the component that they were last found in. */
  const foundFor = new Int32Array(countIn(people));
  for (const component of components(subgroups)) {
    const found: number[] = [];
    const isIn = component[0] + 1;
    const add = (person: number) => {
      if (foundFor[person] === isIn) return;
      foundFor[person] = isIn;
      found.push(person);
    };
    for (const group of component) {
      for (const person of people[group]) add(person);
      for (const below of subgroups[group]) {
        const held = closures[below];
        // One on the same cycle has no closure yet.
        if (held !== undefined) for (let i = 0; i < held.length; i++) add(held[i]);
      }
    }
    const closure = Int32Array.from(found);
    for (const group of component) closures[group] = closure;
  }
  return closures;
}

/** One more than the highest index. */
function countIn(people: Membership["people"]): number {
  let count = 0;
  for (const direct of people) for (const person of direct) if (person >= count) count = person + 1;
  return count;
}

/** The strongly connected components, those that are pointed at before those that point at them. */
export function components(edges: readonly (readonly number[])[]): number[][] {
  const found: number[][] = [];
  const order = new Int32Array(edges.length).fill(-1);
  const lowest = new Int32Array(edges.length);
  const isOpen = new Uint8Array(edges.length);
  const open: number[] = [];
  let entered = 0;
  const enter = (node: number) => {
    order[node] = lowest[node] = entered++;
    isOpen[node] = 1;
    open.push(node);
    return { node, next: 0 };
  };
  for (let start = 0; start < edges.length; start++) {
    if (order[start] >= 0) continue;
    // A stack of our own: groups may be nested deeper than calls can be.
    const calls = [enter(start)];
    while (calls.length > 0) {
      const call = calls[calls.length - 1];
      const { node } = call;
      if (call.next < edges[node].length) {
        const below = edges[node][call.next++];
        if (order[below] < 0) calls.push(enter(below));
        else if (isOpen[below]) lowest[node] = Math.min(lowest[node], order[below]);
        continue;
      }
      calls.pop();
      if (calls.length > 0) {
        const { node: above } = calls[calls.length - 1];
        lowest[above] = Math.min(lowest[above], lowest[node]);
      }
      if (lowest[node] === order[node]) found.push(closedComponent(open, isOpen, node));
    }
  }
  return found;
}

function closedComponent(open: number[], isOpen: Uint8Array, root: number): number[] {
  const component: number[] = [];
  let node: number;
  do {
    node = open.pop()!;
    isOpen[node] = 0;
    component.push(node);
  } while (node !== root);
  return component;
}

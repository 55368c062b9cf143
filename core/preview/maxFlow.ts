/** A directed graph whose edges carry so much at most; one that can be cut says by what. */
export class FlowGraph<C> {
  private readonly edges: { to: number; room: number; cut: C | null }[] = [];
  private readonly out: number[][] = [];

  addNode(): number {
    return this.out.push([]) - 1;
  }

  /** @param room how much the edge carries; Infinity where it can't be cut */
  addEdge(from: number, to: number, room: number, cut: C | null = null) {
    // An edge and its way back lie beside each other: the one is found from the other.
    this.out[from].push(this.edges.push({ to, room, cut }) - 1);
    this.out[to].push(this.edges.push({ to: from, room: 0, cut: null }) - 1);
  }

  /**
   * The cheapest set of edges without which nothing leads from one node to another: by max-flow and
   * min-cut (Ford and Fulkerson 1956), the flow found by shortest augmenting paths, level by level
   * (Dinic 1970). Room must be whole numbers or Infinity, below 2^53 in all.
   * @returns null where edges that can't be cut lead all the way
   */
  minCut(source: number, sink: number): C[] | null {
    for (;;) {
      const level = this.levels(source);
      if (level[sink] < 0) return this.cutBehind(level);
      const next = this.out.map(() => 0);
      for (let pushed = this.push(source, sink, Infinity, level, next); pushed > 0;) {
        if (pushed === Infinity) return null;
        pushed = this.push(source, sink, Infinity, level, next);
      }
    }
  }

  /** How many edges with room left lead to each node; -1 where none do. */
  private levels(source: number): number[] {
    const level = this.out.map(() => -1);
    level[source] = 0;
    const queue = [source];
    for (const node of queue)
      for (const edge of this.out[node]) {
        const { to, room } = this.edges[edge];
        if (room === 0 || level[to] >= 0) continue;
        level[to] = level[node] + 1;
        queue.push(to);
      }
    return level;
  }

  /** Sends as much as there is room for on one way to the sink, and says how much that was. */
  private push(node: number, sink: number, most: number, level: number[], next: number[]): number {
    if (node === sink) return most;
    for (; next[node] < this.out[node].length; next[node]++) {
      const index = this.out[node][next[node]];
      const { to, room } = this.edges[index];
      if (room === 0 || level[to] !== level[node] + 1) continue;
      const pushed = this.push(to, sink, Math.min(most, room), level, next);
      if (pushed === 0) continue;
      if (pushed < Infinity) {
        this.edges[index].room -= pushed;
        this.edges[index ^ 1].room += pushed;
      }
      return pushed;
    }
    return 0;
  }

  /** The edges that lead from what is still reached to what no longer is. */
  private cutBehind(level: number[]): C[] {
    const cuts: C[] = [];
    for (const [node, edges] of this.out.entries())
      for (const index of edges) {
        const { to, cut } = this.edges[index];
        if (cut !== null && level[node] >= 0 && level[to] < 0) cuts.push(cut);
      }
    return cuts;
  }
}

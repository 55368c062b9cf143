/** A directed graph whose edges carry so much at most; one that can be cut says by what. */
export class FlowGraph<C> {
  private nodes = 0;
  private readonly from: number[] = [];
  private readonly to: number[] = [];
  private readonly room: number[] = [];
  /** The edges that can be cut, and by what. */
  private readonly cuttable: { edge: number; cut: C }[] = [];
  private network: Network | undefined;

  addNode(): number {
    return this.nodes++;
  }

  /**
   * @param room how much the edge carries; Infinity where it can't be cut
   * @returns the number by which it is known
   */
  addEdge(from: number, to: number, room: number, cut: C | null = null): number {
    this.network = undefined;
    this.from.push(from);
    this.to.push(to);
    const edge = this.room.push(room) - 1;
    if (cut !== null) this.cuttable.push({ edge, cut });
    return edge;
  }

  /** Lets an edge carry more. What flows already goes on flowing: cuts for rising room are found one after the other. */
  raise(edge: number, by: number) {
    this.room[edge] += by;
    this.network?.raise(edge, by);
  }

  /**
   * The cheapest set of edges without which nothing leads from one node to another, and of the cheapest the one nearest
   * to where it begins: by max-flow and min-cut (Ford and Fulkerson 1956), the flow found by shortest augmenting paths,
   * level by level (Dinic 1970). Room must be whole numbers or Infinity, below 2^53 in all.
   * @returns null where edges that can't be cut lead all the way
   */
  minCut(source: number, sink: number): C[] | null {
    const network = (this.network ??= new Network(this.nodes, this.from, this.to, this.room));
    if (!network.fill(source, sink)) return null;
    const found: C[] = [];
    for (const { edge, cut } of this.cuttable)
      if (network.isReached(this.from[edge]) && !network.isReached(this.to[edge])) found.push(cut);
    return found;
  }
}

const UNREACHED = -1;

/** The same as columns of figures, node by node: each edge beside the others that leave its node, and its way back. */
class Network {
  /** By node: where its edges begin; behind the last, where they all end. */
  private readonly begins: Int32Array;
  private readonly target: Int32Array;
  private readonly left: Float64Array;
  /** Where the way back of an edge stands. */
  private readonly back: Int32Array;
  /** By the number of an edge: where it stands. */
  private readonly place: Int32Array;
  private readonly level: Int32Array;
  private readonly next: Int32Array;
  private readonly queue: Int32Array;

  constructor(nodes: number, from: readonly number[], to: readonly number[], room: readonly number[]) {
    this.begins = new Int32Array(nodes + 1);
    for (let edge = 0; edge < from.length; edge++) {
      this.begins[from[edge] + 1]++;
      this.begins[to[edge] + 1]++;
    }
    for (let node = 0; node < nodes; node++) this.begins[node + 1] += this.begins[node];
    const free = this.begins.slice();
    this.target = new Int32Array(2 * from.length);
    this.left = new Float64Array(2 * from.length);
    this.back = new Int32Array(2 * from.length);
    this.place = new Int32Array(from.length);
    for (let edge = 0; edge < from.length; edge++) {
      const [there, here] = [free[from[edge]]++, free[to[edge]]++];
      this.place[edge] = there;
      this.target[there] = to[edge];
      this.target[here] = from[edge];
      this.left[there] = room[edge];
      this.back[there] = here;
      this.back[here] = there;
    }
    this.level = new Int32Array(nodes);
    this.next = new Int32Array(nodes);
    this.queue = new Int32Array(nodes);
  }

  raise(edge: number, by: number) {
    this.left[this.place[edge]] += by;
  }

  /** Whether something still leads to a node from where the flow begins, once no more flows. */
  isReached(node: number): boolean {
    return this.level[node] !== UNREACHED;
  }

  /** Sends all that can flow. @returns whether that has an end */
  fill(source: number, sink: number): boolean {
    while (this.reaches(source, sink)) {
      this.next.set(this.begins.subarray(0, this.next.length));
      if (!this.block(source, sink)) return false;
    }
    return true;
  }

  /** Says for each node how many edges with room left lead to it. @returns whether any lead to the sink */
  private reaches(source: number, sink: number): boolean {
    const { begins, target, left, level, queue } = this;
    level.fill(UNREACHED);
    level[source] = 0;
    queue[0] = source;
    for (let at = 0, known = 1; at < known; at++) {
      const node = queue[at];
      for (let edge = begins[node]; edge < begins[node + 1]; edge++) {
        const to = target[edge];
        if (left[edge] === 0 || level[to] !== UNREACHED) continue;
        level[to] = level[node] + 1;
        queue[known++] = to;
      }
    }
    return level[sink] !== UNREACHED;
  }

  /** Sends on ways of rising levels until each has an edge that is full. @returns whether what was sent has an end */
  private block(source: number, sink: number): boolean {
    const { begins, target, left, back, level, next } = this;
    const way: number[] = [];
    let node = source;
    for (;;) {
      if (node === sink) {
        const most = way.reduce((least, edge) => Math.min(least, left[edge]), Infinity);
        if (most === Infinity) return false;
        for (const edge of way) {
          left[edge] -= most;
          left[back[edge]] += most;
        }
        // What is full is left behind: the search goes on before it.
        way.length = way.findIndex((edge) => left[edge] === 0);
        node = way.length === 0 ? source : target[way[way.length - 1]];
        continue;
      }
      while (next[node] < begins[node + 1] && !(left[next[node]] > 0 && level[target[next[node]]] === level[node] + 1))
        next[node]++;
      if (next[node] < begins[node + 1]) {
        way.push(next[node]);
        node = target[next[node]];
      } else if (way.length === 0) return true;
      else {
        const edge = way.pop()!;
        node = target[back[edge]];
        next[node]++;
      }
    }
  }
}

import { type Items, LIVE, NO_LABEL } from "./items";
import { LABELS } from "./records";

/** The label of what has none, and nothing above it has one. */
const INTERNAL = LABELS.indexOf("internal");

/**
 * The items, in depth-first order of the forest in which an item that doesn't inherit is a root of its
 * own. So `[p, end[p])` is just what a share on p reaches, were all of it live. A parent always stands
 * before its children. Items that hang below something unknown, or on a cycle, have no position.
 */
export class Tree {
  private labelCounts: Int32Array[] | undefined;
  private folderCounts: Int32Array | undefined;
  private liveCounts: Int32Array | undefined;

  constructor(
    private readonly items: Items,
    /** How many items have a position. */
    readonly length: number,
    /** Slot of the item at each position. */
    readonly slotAt: Int32Array,
    /** Position of each slot, or -1. */
    readonly positionOf: Int32Array,
    /** Position of the real parent, inherited from or not; -1 for a top item. */
    readonly parent: Int32Array,
    /** Behind the last position that a share on this one reaches. */
    readonly end: Int32Array,
    /** 1 where the item and all its ancestors are live. */
    readonly live: Uint8Array,
    /** Effective label as an index into LABELS: the item's own, else its nearest ancestor's, else internal. */
    readonly label: Uint8Array,
  ) {}

  idAt(position: number): string {
    return this.items.idOf(this.slotAt[position]);
  }

  nameAt(position: number): string {
    return this.items.names.get(this.slotAt[position]);
  }

  kindAt(position: number) {
    return this.items.kindOf(this.slotAt[position]);
  }

  storeIdAt(position: number): string {
    return this.items.storeOf(this.slotAt[position]);
  }

  inheritsAt(position: number): boolean {
    return this.items.inherits[this.slotAt[position]] === 1 && this.parent[position] >= 0;
  }

  /** The position of an item, or undefined where it isn't known or hangs nowhere. */
  position(id: string): number | undefined {
    const slot = this.items.find(id);
    if (slot === undefined || slot >= this.positionOf.length || this.positionOf[slot] < 0) return undefined;
    return this.positionOf[slot];
  }

  /** How many live items with a label stand before each position; each one longer than the tree. */
  get labelBefore(): Int32Array[] {
    return (this.labelCounts ??= LABELS.map((_, index) => this.countsBefore((p) => this.label[p] === index)));
  }

  /** How many live folders stand before each position. */
  get foldersBefore(): Int32Array {
    return (this.folderCounts ??= this.countsBefore((p) => this.kindAt(p) !== "file"));
  }

  /** How many live items stand before each position. */
  get liveBefore(): Int32Array {
    return (this.liveCounts ??= this.countsBefore(() => true));
  }

  private countsBefore(counts: (position: number) => boolean): Int32Array {
    const before = new Int32Array(this.length + 1);
    for (let position = 0; position < this.length; position++)
      before[position + 1] = before[position] + (this.live[position] === 1 && counts(position) ? 1 : 0);
    return before;
  }
}

/**
 * Puts the items in order, depth first. Cut items wait in line until the tree that they hang in is done;
 * so parents still come first. What hangs below something unknown, or on a cycle, is never come to.
 */
export function buildTree(items: Items): Tree {
  // Everything that the loop reads again and again lies in a local name: at a million items it is what counts.
  const { count, parent: parentSlot, inherits, state, ownLabel } = items;
  const { starts, children } = childLists(items);
  const slotAt = new Int32Array(count);
  const positionOf = new Int32Array(count).fill(-1);
  const parent = new Int32Array(count);
  const end = new Int32Array(count);
  const live = new Uint8Array(count);
  const label = new Uint8Array(count);
  // Roots wait in line at its beginning; the stack grows from its end. A slot is never in both.
  const agenda = new Int32Array(count);
  let waits = 0;
  for (let slot = 0; slot < count; slot++) if (parentSlot[slot] < 0 && items.isKnown(slot)) agenda[waits++] = slot;
  let length = 0;
  for (let root = 0; root < waits; root++) {
    let top = count;
    // The last root may lie where the stack begins: it is taken before anything is pushed.
    for (let slot = agenda[root]; ; slot = agenda[top++]) {
      const position = length++;
      const above = parentSlot[slot] < 0 ? -1 : positionOf[parentSlot[slot]];
      const isLive = state[slot] === LIVE ? 1 : 0;
      const own = ownLabel[slot];
      positionOf[slot] = position;
      slotAt[position] = slot;
      parent[position] = above;
      live[position] = above < 0 ? isLive : isLive & live[above];
      label[position] = own !== NO_LABEL ? own : above < 0 ? INTERNAL : label[above];
      for (let i = starts[slot + 1] - 1; i >= starts[slot]; i--) {
        const child = children[i];
        if (inherits[child] === 1) agenda[--top] = child;
        else agenda[waits++] = child;
      }
      if (top === count) break;
    }
  }
  for (let position = length - 1; position >= 0; position--) {
    if (end[position] === 0) end[position] = position + 1;
    const above = parent[position];
    // The last of an item's children stands behind the others, and is met first here.
    if (above >= 0 && end[above] === 0 && inherits[slotAt[position]] === 1) end[above] = end[position];
  }
  return new Tree(items, length, slotAt, positionOf, parent, end, live, label);
}

/** The children of each slot, list after list: those of slot s stand from `starts[s]` to `starts[s + 1]`. */
function childLists({ count, parent }: Items): { starts: Int32Array; children: Int32Array } {
  const starts = new Int32Array(count + 2);
  for (let slot = 0; slot < count; slot++) if (parent[slot] >= 0) starts[parent[slot] + 2]++;
  for (let slot = 2; slot < starts.length; slot++) starts[slot] += starts[slot - 1];
  const children = new Int32Array(starts[count + 1]);
  // Each list's beginning moves on while it is filled, and ends where the next list begins.
  for (let slot = 0; slot < count; slot++) if (parent[slot] >= 0) children[starts[parent[slot] + 1]++] = slot;
  return { starts, children };
}

/** Index into LABELS of the most sensitive live item in a range, or -1 if nothing in it is live. */
export function worstLabel(tree: Tree, from: number, to: number): number {
  for (let label = LABELS.length - 1; label >= 0; label--)
    if (tree.labelBefore[label][to] > tree.labelBefore[label][from]) return label;
  return -1;
}

/** How many different labels the live items in a range have. */
export function labelsIn(tree: Tree, from: number, to: number): number {
  return tree.labelBefore.filter((before) => before[to] > before[from]).length;
}

/** Names of all ancestors, the top one first. */
export function placeOf(tree: Tree, position: number): string[] {
  const names: string[] = [];
  for (let above = tree.parent[position]; above >= 0; above = tree.parent[above]) names.unshift(tree.nameAt(above));
  return names;
}

/** Whether a position is an item or lies anywhere below one of a set, whatever inherits. */
export function isAtOrBelow(tree: Tree, position: number, tops: ReadonlySet<number>): boolean {
  for (let at = position; at >= 0; at = tree.parent[at]) if (tops.has(at)) return true;
  return false;
}

/** The position and those above it from which shares are inherited, nearest first. */
export function inheritedFrom(tree: Tree, position: number): number[] {
  const chain = [position];
  for (let at = position; tree.inheritsAt(at); at = tree.parent[at]) chain.push(tree.parent[at]);
  return chain;
}

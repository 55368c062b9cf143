import { type Items, LIVE, UNKNOWN } from "./items";
import { Labelling, type LabelOrigin, type LabelRule } from "./labels";
import { KINDS, LABELS } from "./records";

const FILE = KINDS.indexOf("file");

/** What is counted at each position: all items, then folders, then each of LABELS. */
const LIVE_ITEMS = 0;
const FOLDERS = 1;
const BY_LABEL = 2;
const COUNTS = BY_LABEL + LABELS.length;

/**
 * How many live items, live folders, and live items with each label stand before each position, those one after the other,
 * so that what is asked of a range lies in two places: in sixteen bits since the stretch of the position began, and in full
 * before each stretch.
 */
interface Before {
  inStretch: Uint16Array;
  stretches: Int32Array;
}
/** A stretch has as many positions as sixteen bits can count, as a power of two. */
const STRETCH_BITS = 16;
const STRETCH = 2 ** STRETCH_BITS;

/**
 * The items, in depth-first order of the forest in which an item that doesn't inherit is a root of its
 * own. So `[p, end[p])` is just what a share on p reaches, were all of it live. A parent always stands
 * before its children. Items that hang below something unknown, or on a cycle, have no position.
 */
export class Tree {
  // Worked out when first asked for, since not every answer needs it.
  private labels: Uint8Array | undefined;
  private counts: Before | undefined;
  private folderHolders: Uint8Array | undefined;

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
    private readonly labelRules: readonly LabelRule[] = [],
  ) {}

  /** Effective labels as indexes into LABELS: by our rules and by what stores say. */
  get label(): Uint8Array {
    return (this.labels ??= this.labelsBy(this.labelRules));
  }

  /** Effective labels under other rules. */
  labelsBy(rules: readonly LabelRule[]): Uint8Array {
    return new Labelling(rules, this.items).labelsOf(this);
  }

  /** Where the label of the item at a position comes from. */
  labelOrigin(position: number): LabelOrigin {
    return new Labelling(this.labelRules, this.items).originOf(this, position);
  }

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

  /** What is counted before each position. */
  get before(): Before {
    return (this.counts ??= this.countAll());
  }

  private countAll(): Before {
    const { label, live, length, slotAt } = this;
    const { kind } = this.items;
    const inStretch = new Uint16Array(COUNTS * (length + 1));
    const stretches = new Int32Array(COUNTS * ((length >>> STRETCH_BITS) + 1));
    const counts = new Int32Array(COUNTS);
    for (let position = 0, at = 0; position <= length; position++, at += COUNTS) {
      const stretch = COUNTS * (position >>> STRETCH_BITS);
      if (position % STRETCH === 0) stretches.set(counts, stretch);
      for (let one = 0; one < COUNTS; one++) inStretch[at + one] = counts[one] - stretches[stretch + one];
      if (position === length || live[position] === 0) continue;
      counts[LIVE_ITEMS]++;
      if (kind[slotAt[position]] !== FILE) counts[FOLDERS]++;
      counts[BY_LABEL + label[position]]++;
    }
    return { inStretch, stretches };
  }

  /** 1 where a live folder lies directly below, whether it inherits or not. */
  get holdsFolder(): Uint8Array {
    return (this.folderHolders ??= this.holdersOfFolders());
  }

  private holdersOfFolders(): Uint8Array {
    const holds = new Uint8Array(this.length);
    for (let position = 0; position < this.length; position++)
      if (this.parent[position] >= 0 && this.live[position] === 1 && this.items.kind[this.slotAt[position]] !== FILE)
        holds[this.parent[position]] = 1;
    return holds;
  }

  /** The same order for a copy of the items. What is counted in it is counted once for both. */
  withItems(items: Items): Tree {
    void this.before;
    const { length, slotAt, positionOf, parent, end, live } = this;
    const tree = new Tree(items, length, slotAt, positionOf, parent, end, live, this.labelRules);
    const { labels, counts, folderHolders } = this;
    return Object.assign(tree, { labels, counts, folderHolders });
  }
}

/**
 * Puts the items in order. How long the range of each item is, is summed up from below; then, from above,
 * each takes the next free piece of its parent's range, and an item that doesn't inherit a range of its own.
 * What hangs below something unknown, or on a cycle, gets no position.
 */
export function buildTree(items: Items, labelRules: readonly LabelRule[] = []): Tree {
  // What the loops read again and again is in local names: at a million items that matters.
  const { count, parent: parentSlot, inherits, state } = items;
  const order = parentsFirst(items);
  const ordered = order?.length ?? count;
  const size = new Int32Array(count).fill(1);
  for (let i = ordered - 1; i >= 0; i--) {
    const slot = order === null ? i : order[i];
    if (parentSlot[slot] >= 0 && inherits[slot] === 1) size[parentSlot[slot]] += size[slot];
  }
  /** By slot: where the range of its next child begins. */
  const free = new Int32Array(count);
  const slotAt = new Int32Array(count);
  const positionOf = new Int32Array(count).fill(-1);
  const parent = new Int32Array(count);
  const end = new Int32Array(count);
  const live = new Uint8Array(count);
  let length = 0;
  for (let i = 0; i < ordered; i++) {
    const slot = order === null ? i : order[i];
    const holder = parentSlot[slot];
    const above = holder < 0 ? -1 : positionOf[holder];
    if (holder < 0 ? state[slot] === UNKNOWN : above < 0) continue;
    let position = length;
    if (holder >= 0 && inherits[slot] === 1) {
      position = free[holder];
      free[holder] += size[slot];
    } else length += size[slot];
    const isLive = state[slot] === LIVE ? 1 : 0;
    free[slot] = position + 1;
    positionOf[slot] = position;
    slotAt[position] = slot;
    parent[position] = above;
    end[position] = position + size[slot];
    live[position] = above < 0 ? isLive : isLive & live[above];
  }
  return new Tree(items, length, slotAt.subarray(0, length), positionOf, parent, end, live, labelRules);
}

/** The slots that aren't on or below a cycle, parents before their children; null where all slots are in that order already. */
function parentsFirst({ count, parent }: Items): Int32Array | null {
  let sorted = 0;
  while (sorted < count && parent[sorted] < sorted) sorted++;
  if (sorted === count) return null;
  const firstChild = new Int32Array(count).fill(-1);
  const nextChild = new Int32Array(count);
  for (let slot = count - 1; slot >= 0; slot--) {
    if (parent[slot] < 0) continue;
    nextChild[slot] = firstChild[parent[slot]];
    firstChild[parent[slot]] = slot;
  }
  const order = new Int32Array(count);
  let length = 0;
  for (let slot = 0; slot < count; slot++) if (parent[slot] < 0) order[length++] = slot;
  for (let i = 0; i < length; i++)
    for (let child = firstChild[order[i]]; child >= 0; child = nextChild[child]) order[length++] = child;
  return order.subarray(0, length);
}

/** Index into LABELS of the most sensitive live item in a range, or -1 if nothing in it is live. */
export function worstLabel(tree: Tree, from: number, to: number): number {
  for (let label = LABELS.length - 1; label >= 0; label--) if (hasLabel(tree, label, from, to)) return label;
  return -1;
}

/** Whether any live item in a range has a label. @param label index into LABELS */
export function hasLabel(tree: Tree, label: number, from: number, to: number): boolean {
  return countWithLabel(tree, label, from, to) > 0;
}

/** How many live items in a range have a label. @param label index into LABELS */
export function countWithLabel(tree: Tree, label: number, from: number, to: number): number {
  return countBetween(tree, BY_LABEL + label, from, to);
}

function countBetween({ before: { inStretch, stretches } }: Tree, what: number, from: number, to: number): number {
  const upTo = (position: number) =>
    stretches[COUNTS * (position >>> STRETCH_BITS) + what] + inStretch[COUNTS * position + what];
  return upTo(to) - upTo(from);
}

/** How many live items there are from one position up to before another. */
export function liveBetween(tree: Tree, from: number, to: number): number {
  return countBetween(tree, LIVE_ITEMS, from, to);
}

/** The same of folders. */
export function foldersBetween(tree: Tree, from: number, to: number): number {
  return countBetween(tree, FOLDERS, from, to);
}

/** The same of files. */
export function filesBetween(tree: Tree, from: number, to: number): number {
  return liveBetween(tree, from, to) - foldersBetween(tree, from, to);
}

/** How many live folders a share on a position reaches, that on the position itself not among them. */
export function foldersBelow(tree: Tree, position: number): number {
  return foldersBetween(tree, position + 1, tree.end[position]);
}

/** How many live files a share on a position reaches. */
export function filesReached(tree: Tree, position: number): number {
  return filesBetween(tree, position, tree.end[position]);
}

/** How many different labels the live items in a range have. */
export function labelsIn(tree: Tree, from: number, to: number): number {
  return LABELS.filter((_, label) => hasLabel(tree, label, from, to)).length;
}

/** Names of all ancestors, the top one first. */
export function placeOf(tree: Tree, position: number): string[] {
  const names: string[] = [];
  for (let above = tree.parent[position]; above >= 0; above = tree.parent[above]) names.push(tree.nameAt(above));
  return names.reverse();
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

/** A position and all below it, in order, whether they inherit or not. A parent always stands before its children. */
export function withAllBelow({ parent, length }: Tree, top: number): number[] {
  const isIn = new Uint8Array(length);
  const found: number[] = [];
  for (let position = top; position < length; position++) {
    if (position !== top && (parent[position] < 0 || isIn[parent[position]] === 0)) continue;
    isIn[position] = 1;
    found.push(position);
  }
  return found;
}

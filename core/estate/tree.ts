import { type ItemRecord, LABELS } from "./records";

/**
 * The items, in depth-first order of the forest in which an item that doesn't inherit is a root of its
 * own. So `[p, end[p])` is just what a share on p reaches, were all of it live. A parent always stands
 * before its children.
 */
export interface Tree {
  ids: string[];
  items: ItemRecord[];
  positionById: Map<string, number>;
  /** Position of the real parent, inherited from or not; -1 for a top item. */
  parent: Int32Array;
  /** Behind the last position that a share on this one reaches. */
  end: Int32Array;
  /** 1 where the item and all its ancestors are live. */
  live: Uint8Array;
  /** Effective label as an index into LABELS: the item's own, else its nearest ancestor's, else internal. */
  label: Uint8Array;
  /** Person index of the owner, or -1. */
  owner: Int32Array;
  /** How many live items with a label stand before a position; each one longer than the tree. */
  labelBefore: Int32Array[];
  /** How many live folders stand before a position. */
  foldersBefore: Int32Array;
}

export function buildTree(records: ItemRecord[], ownerIndex: (id: string) => number, dangling: string[]): Tree {
  const positionById = new Map<string, number>();
  for (let index = 0; index < records.length; index++) positionById.set(records[index].id, index);
  const { order, end, parent } = inheritanceOrder(records, parentIndexes(records, positionById, dangling));
  const length = order.length;
  const items: ItemRecord[] = new Array(length);
  const ids: string[] = new Array(length);
  const live = new Uint8Array(length);
  const label = new Uint8Array(length);
  const owner = new Int32Array(length);
  const internal = LABELS.indexOf("internal");
  if (length < records.length) positionById.clear();
  for (let position = 0; position < length; position++) {
    const item = records[order[position]];
    const above = parent[position];
    items[position] = item;
    ids[position] = item.id;
    positionById.set(item.id, position);
    live[position] = item.state === "live" && (above < 0 || live[above]) ? 1 : 0;
    label[position] = item.label ? LABELS.indexOf(item.label) : above < 0 ? internal : label[above];
    owner[position] = item.ownerId ? ownerIndex(item.ownerId) : -1;
  }
  return {
    ids,
    items,
    positionById,
    parent,
    end,
    live,
    label,
    owner,
    labelBefore: LABELS.map((_, index) => countsBefore(length, (p) => live[p] === 1 && label[p] === index)),
    foldersBefore: countsBefore(length, (p) => live[p] === 1 && items[p].kind !== "file"),
  };
}

const TOP = -1;
const ORPHAN = -2;

/** For each record the index of its parent's, TOP for none, ORPHAN where the parent isn't here. */
function parentIndexes(records: ItemRecord[], indexById: Map<string, number>, dangling: string[]): Int32Array {
  const parents = new Int32Array(records.length);
  for (let index = 0; index < records.length; index++) {
    const { id, parentId } = records[index];
    parents[index] = parentId === null ? TOP : (indexById.get(parentId) ?? ORPHAN);
    if (parents[index] === ORPHAN) dangling.push(id);
  }
  return parents;
}

/**
 * Puts the records in order, depth first. Cut items wait in line until the tree that they hang in is
 * done; so parents still come first. What hangs below an orphan, or on a cycle, is never come to.
 */
function inheritanceOrder(records: ItemRecord[], parents: Int32Array) {
  const { first, next } = childLists(parents);
  const order = new Int32Array(records.length);
  const end = new Int32Array(records.length);
  const parent = new Int32Array(records.length);
  const positionOf = new Int32Array(records.length);
  const waiting: number[] = [];
  for (let index = 0; index < records.length; index++) if (parents[index] === TOP) waiting.push(index);
  let length = 0;
  // An entry of the stack is a record to enter; its complement, one to leave.
  const stack: number[] = [];
  for (let root = 0; root < waiting.length; root++) {
    stack.push(waiting[root]);
    while (stack.length > 0) {
      const entry = stack.pop()!;
      if (entry < 0) {
        end[positionOf[~entry]] = length;
        continue;
      }
      positionOf[entry] = length;
      parent[length] = parents[entry] === TOP ? -1 : positionOf[parents[entry]];
      order[length++] = entry;
      stack.push(~entry);
      for (let child = first[entry]; child >= 0; child = next[child])
        if (records[child].inherits) stack.push(child);
        else waiting.push(child);
    }
  }
  return { order: order.subarray(0, length), end: end.subarray(0, length), parent: parent.subarray(0, length) };
}

/** The children of each record as a chain: the first, and from each the next; -1 ends it. */
function childLists(parents: Int32Array): { first: Int32Array; next: Int32Array } {
  const first = new Int32Array(parents.length).fill(-1);
  const next = new Int32Array(parents.length).fill(-1);
  for (let index = 0; index < parents.length; index++) {
    const above = parents[index];
    if (above < 0) continue;
    next[index] = first[above];
    first[above] = index;
  }
  return { first, next };
}

function countsBefore(length: number, counts: (position: number) => boolean): Int32Array {
  const before = new Int32Array(length + 1);
  for (let position = 0; position < length; position++)
    before[position + 1] = before[position] + (counts(position) ? 1 : 0);
  return before;
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
  for (let above = tree.parent[position]; above >= 0; above = tree.parent[above]) names.unshift(tree.items[above].name);
  return names;
}

/** Whether a position is an item or lies anywhere below one of a set, whatever inherits. */
export function isAtOrBelow(tree: Tree, position: number, tops: ReadonlySet<number>): boolean {
  for (let at = position; at >= 0; at = tree.parent[at]) if (tops.has(at)) return true;
  return false;
}

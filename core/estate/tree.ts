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
  const { order, end } = inheritanceOrder(records, dangling);
  const items = order.map((index) => records[index]);
  const positionById = new Map(items.map((item, position) => [item.id, position]));
  const parent = Int32Array.from(items, (item) => (item.parentId ? positionById.get(item.parentId)! : -1));
  const live = new Uint8Array(items.length);
  const label = new Uint8Array(items.length);
  items.forEach((item, position) => {
    const above = parent[position];
    live[position] = item.state === "live" && (above < 0 || live[above]) ? 1 : 0;
    label[position] = item.label ? LABELS.indexOf(item.label) : above < 0 ? LABELS.indexOf("internal") : label[above];
  });
  return {
    ids: items.map((item) => item.id),
    items,
    positionById,
    parent,
    end,
    live,
    label,
    owner: Int32Array.from(items, (item) => (item.ownerId ? ownerIndex(item.ownerId) : -1)),
    labelBefore: LABELS.map((_, index) => countsBefore(items.length, (p) => live[p] === 1 && label[p] === index)),
    foldersBefore: countsBefore(items.length, (p) => live[p] === 1 && items[p].kind !== "file"),
  };
}

/** Cut items wait in line until the tree that they hang in is done; so parents still come first. */
function inheritanceOrder(records: ItemRecord[], dangling: string[]): { order: number[]; end: Int32Array } {
  const { roots, inheriting, cut } = children(records, dangling);
  const order: number[] = [];
  const end = new Int32Array(records.length);
  const waiting = [...roots];
  for (let next = 0; next < waiting.length; next++) {
    const stack: { index: number; leave: boolean }[] = [{ index: waiting[next], leave: false }];
    const positionOf = new Map<number, number>();
    for (let top = stack.pop(); top; top = stack.pop()) {
      if (top.leave) {
        end[positionOf.get(top.index)!] = order.length;
        continue;
      }
      positionOf.set(top.index, order.length);
      order.push(top.index);
      stack.push({ index: top.index, leave: true });
      for (const child of cut[top.index] ?? []) waiting.push(child);
      const below = inheriting[top.index] ?? [];
      for (let i = below.length - 1; i >= 0; i--) stack.push({ index: below[i], leave: false });
    }
  }
  return { order, end };
}

function children(records: ItemRecord[], dangling: string[]) {
  const indexById = new Map(records.map((record, index) => [record.id, index]));
  const roots: number[] = [];
  const inheriting: (number[] | undefined)[] = new Array(records.length);
  const cut: (number[] | undefined)[] = new Array(records.length);
  records.forEach((record, index) => {
    if (record.parentId === null) return roots.push(index);
    const parent = indexById.get(record.parentId);
    if (parent === undefined) return dangling.push(record.id);
    const list = record.inherits ? inheriting : cut;
    return (list[parent] ??= []).push(index);
  });
  return { roots, inheriting, cut };
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

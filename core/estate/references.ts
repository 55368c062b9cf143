import type { Placed, Problem } from "./estateFile";
import type { EstateRecord, ItemRecord } from "./records";
import { recordKey } from "./records";

/** What an estate holds already when a file is added to it. */
export interface Known {
  has(space: IdSpace, id: string): boolean;
  /** What the rules of the tree need to know of an item: its store, its kind and its parent. */
  item(id: string): TreeItem | undefined;
}

export type IdSpace = "store" | "principal" | "person" | "group" | "item";
export type TreeItem = Pick<ItemRecord, "id" | "storeId" | "kind" | "parentId">;

export const NOTHING_KNOWN: Known = { has: () => false, item: () => undefined };

/** Ids are unique across people and groups, and across grants and links. */
const UNIQUE_WITHIN: Partial<Record<EstateRecord["type"], string>> = {
  store: "store",
  person: "person or group",
  group: "person or group",
  item: "item",
  grant: "share",
  link: "share",
  engagement: "engagement",
  event: "event",
};

const RESERVED = ["owner:", "mailto:"];

/**
 * Checks what no record can show alone: ids used twice or reserved, references to nothing, the shape
 * of the tree. A record that refers to a bad one is bad too, so this goes on until nothing more falls.
 */
export function checkReferences(placed: Placed[], known: Known): { good: Placed[]; problems: Problem[] } {
  const problems: Problem[] = [];
  let good = withoutDoubles(placed, problems);
  for (;;) {
    const index = indexOf(good);
    const cyclic = parentCycles(index.items);
    const next = good.filter(({ line, record }) => {
      const message = brokenReference(record, index, known) ?? brokenTree(record, index, known, cyclic);
      if (message) problems.push({ line, message });
      return message === undefined;
    });
    if (next.length === good.length) return { good, problems };
    good = next;
  }
}

function withoutDoubles(placed: Placed[], problems: Problem[]): Placed[] {
  const seen = new Map<string, number>();
  return placed.filter(({ line, record }) => {
    const space = UNIQUE_WITHIN[record.type];
    if (!space) return true;
    const id = recordKey(record);
    const reserved = RESERVED.find((beginning) => id.startsWith(beginning));
    if (reserved) {
      problems.push({ line, message: `id ${id} begins with ${reserved}, which is reserved` });
      return false;
    }
    const first = seen.get(space + "\u0000" + id);
    if (first !== undefined) {
      problems.push({ line, message: `duplicate id: ${space} ${id} stands on line ${first} already` });
      return false;
    }
    seen.set(space + "\u0000" + id, line);
    return true;
  });
}

interface Index {
  store: Set<string>;
  person: Set<string>;
  group: Set<string>;
  items: Map<string, ItemRecord>;
}

function indexOf(placed: Placed[]): Index {
  const index: Index = { store: new Set(), person: new Set(), group: new Set(), items: new Map() };
  for (const { record } of placed) {
    if (record.type === "item") index.items.set(record.id, record);
    else if (record.type === "store" || record.type === "person" || record.type === "group")
      index[record.type].add(record.id);
  }
  return index;
}

type Reference = [field: string, space: IdSpace, id: string | null | undefined];

function referencesOf(record: EstateRecord): Reference[] {
  switch (record.type) {
    case "person":
      return [["managerId", "person", record.managerId]];
    case "group":
      return [["storeId", "store", record.storeId]];
    case "member":
      return [
        ["groupId", "group", record.groupId],
        ["memberId", "principal", record.memberId],
      ];
    case "item":
      return [
        ["storeId", "store", record.storeId],
        ["parentId", "item", record.parentId],
        ["ownerId", "person", record.ownerId],
      ];
    case "grant":
      return [
        ["itemId", "item", record.itemId],
        ["toId", "principal", record.toId],
        ["grantedBy", "person", record.grantedBy],
      ];
    case "link":
      return [
        ["itemId", "item", record.itemId],
        ["createdBy", "person", record.createdBy],
      ];
    case "engagement":
      return record.itemIds.map((id) => ["itemIds", "item", id]);
    default:
      // Events speak of things as they were then; those need not exist any more.
      return [];
  }
}

function brokenReference(record: EstateRecord, index: Index, known: Known): string | undefined {
  for (const [field, space, id] of referencesOf(record)) {
    if (id == null || isThere(space, id, index) || known.has(space, id)) continue;
    return `a reference to nothing: ${field} ${id} is no ${space === "principal" ? "person or group" : space} here`;
  }
  return undefined;
}

function isThere(space: IdSpace, id: string, index: Index): boolean {
  if (space === "principal") return index.person.has(id) || index.group.has(id);
  return space === "item" ? index.items.has(id) : index[space].has(id);
}

function brokenTree(record: EstateRecord, index: Index, known: Known, cyclic: Set<string>): string | undefined {
  if (record.type !== "item" || record.parentId === null) return undefined;
  if (cyclic.has(record.id)) return `a parent cycle: ${record.id} lies below itself`;
  const parent: TreeItem | undefined = index.items.get(record.parentId) ?? known.item(record.parentId);
  if (parent && parent.storeId !== record.storeId)
    return `parent ${parent.id} is in store ${parent.storeId}, its child in store ${record.storeId}`;
  if (parent?.kind === "file") return `parent ${parent.id} is a file; a file has no children`;
  return undefined;
}

/** Items that lie on a cycle of parents. Those that merely hang below one are reported once the cycle is gone. */
function parentCycles(items: Map<string, ItemRecord>): Set<string> {
  const cyclic = new Set<string>();
  const settled = new Set<string>();
  for (const start of items.keys()) {
    const trail: string[] = [];
    const onTrail = new Set<string>();
    let at: string | null | undefined = start;
    while (at && !settled.has(at) && !onTrail.has(at)) {
      trail.push(at);
      onTrail.add(at);
      at = items.get(at)?.parentId;
    }
    if (at && onTrail.has(at)) for (const id of trail.slice(trail.indexOf(at))) cyclic.add(id);
    for (const id of trail) settled.add(id);
  }
  return cyclic;
}

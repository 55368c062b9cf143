import { normaliseDomain } from "./address";
import type { Placed, Problem } from "./placed";
import { type NameSpace, SPACE_OF } from "./naming";
import type { EstateRecord, ItemRecord, RecordType } from "./records";
import { recordKey } from "./records";

/** What is known already when a file is added to it: the estate is checked as it would be afterwards. */
export interface Known {
  has(space: IdSpace, id: string): boolean;
  /** The type of the record that the file's own source has for an id. */
  typeOf(space: NameSpace, id: string): RecordType | undefined;
  /** Items of the file's own source: one of them, and those directly below one. */
  item(id: string): TreeItem | undefined;
  itemsBelow(id: string): Iterable<TreeItem>;
  /** Why the file can't speak for a store; null where it can. */
  whyNot(storeId: string): string | null;
  /** In which store an item of another source is. */
  storeOfOther(itemId: string): string | undefined;
}

export type IdSpace = "store" | "principal" | "person" | "group" | "item";
export type TreeItem = Pick<ItemRecord, "id" | "storeId" | "kind" | "parentId">;

export const NOTHING_KNOWN: Known = {
  has: () => false,
  typeOf: () => undefined,
  item: () => undefined,
  itemsBelow: () => [],
  whyNot: () => null,
  storeOfOther: () => undefined,
};

const RESERVED = ["owner:", "mailto:"];

/**
 * Checks what no record can show alone: ids used twice or reserved, references to nothing, the shape of the tree, and
 * all together with what is known. A record that refers to a bad one is bad too, so this is repeated until nothing
 * more is refused.
 */
export function checkReferences(placed: Placed[], known: Known): { good: Placed[]; problems: Problem[] } {
  const problems: Problem[] = [];
  let good = withoutDoubles(placed, problems).filter(({ line, record }) => {
    const message = clash(record, known);
    if (message) problems.push({ line, message });
    return message === undefined;
  });
  for (;;) {
    const index = new Index(good, known);
    const next = good.filter(({ line, record }) => {
      const message = brokenReference(record, index) ?? foreign(record, index) ?? brokenTree(record, index);
      if (message) problems.push({ line, message });
      return message === undefined;
    });
    if (next.length === good.length) return { good, problems };
    good = next;
  }
}

const WORDS: Record<NameSpace, string> = {
  store: "store",
  principal: "person or group",
  item: "item",
  share: "share",
  engagement: "engagement",
};

/** What may occur once in a file: in words, with its key. */
function onceOnly(record: EstateRecord): [space: string, key: string] | null {
  if (record.type === "party") return ["party", normaliseDomain(record.domain)];
  if (record.type === "event") return ["event", record.id];
  const space = SPACE_OF[record.type];
  return space && [WORDS[space], recordKey(record)];
}

function withoutDoubles(placed: Placed[], problems: Problem[]): Placed[] {
  /** By space: the line of each id. Ids as they are: put together with their space, a million of them take much room. */
  const seen = new Map<string, Map<string, number>>();
  return placed.filter(({ line, record }) => {
    const once = onceOnly(record);
    if (!once) return true;
    const [space, id] = once;
    const reserved = record.type === "party" ? undefined : RESERVED.find((beginning) => id.startsWith(beginning));
    if (reserved) {
      problems.push({ line, message: `id ${id} begins with ${reserved}, which is reserved` });
      return false;
    }
    let lines = seen.get(space);
    if (lines === undefined) seen.set(space, (lines = new Map()));
    const first = lines.get(id);
    if (first !== undefined) {
      const what = record.type === "party" ? "a second party for one domain" : "duplicate id";
      problems.push({ line, message: `${what}: ${space} ${id} is already on line ${first}` });
      return false;
    }
    lines.set(id, line);
    return true;
  });
}

/** A link can't become a grant, nor a person a group. */
function clash(record: EstateRecord, known: Known): string | undefined {
  const space = SPACE_OF[record.type];
  const before = space && known.typeOf(space, recordKey(record));
  if (!before || before === record.type) return undefined;
  return `id ${recordKey(record)} is known as a ${before}, and can't become a ${record.type}`;
}

/** The good records of a file, over what is known. */
class Index {
  private readonly ids: Record<"store" | "person" | "group", Set<string>> = {
    store: new Set(),
    person: new Set(),
    group: new Set(),
  };
  private readonly items = new Map<string, Placed & { record: ItemRecord }>();
  private cyclic: Set<string> | undefined;

  constructor(
    placed: readonly Placed[],
    readonly known: Known,
  ) {
    for (const one of placed) {
      const { record } = one;
      if (record.type === "item") this.items.set(record.id, one as Placed & { record: ItemRecord });
      else if (record.type === "store" || record.type === "person" || record.type === "group")
        this.ids[record.type].add(record.id);
    }
  }

  has(space: IdSpace, id: string): boolean {
    if (space === "item") return this.items.has(id) || this.known.has(space, id);
    if (space === "principal") return this.ids.person.has(id) || this.ids.group.has(id) || this.known.has(space, id);
    return this.ids[space].has(id) || this.known.has(space, id);
  }

  tells(storeId: string): boolean {
    return this.ids.store.has(storeId);
  }

  item(id: string): TreeItem | undefined {
    return this.items.get(id)?.record ?? this.known.item(id);
  }

  /** Items known before that would lie directly below one afterwards. */
  knownBelow(id: string): TreeItem[] {
    return [...this.known.itemsBelow(id)].filter((one) => !this.items.has(one.id));
  }

  isOnCycle(id: string): boolean {
    return (this.cyclic ??= this.blamed()).has(id);
  }

  /**
   * Items of the file by whose parents a cycle comes about. Of those that are on one, only the ones that the file has
   * moved; and of these, where others could stay if one did, the last.
   */
  private blamed(): Set<string> {
    const blamed = new Set<string>();
    for (const cycle of this.cycles()) {
      const told = cycle.filter((id) => this.items.has(id));
      const moved = told.filter((id) => this.known.item(id)?.parentId !== this.items.get(id)!.record.parentId);
      const areNew = moved.every((id) => this.known.item(id) === undefined);
      const byLine = [...moved].sort((a, b) => this.items.get(a)!.line - this.items.get(b)!.line);
      for (const id of areNew ? moved : byLine.slice(-1)) blamed.add(id);
    }
    return blamed;
  }

  private *cycles(): Generator<string[]> {
    const settled = new Set<string>();
    for (const start of this.items.keys()) {
      const trail: string[] = [];
      const onTrail = new Set<string>();
      let at: string | null | undefined = start;
      while (at && !settled.has(at) && !onTrail.has(at)) {
        trail.push(at);
        onTrail.add(at);
        at = this.item(at)?.parentId;
      }
      if (at && onTrail.has(at)) yield trail.slice(trail.indexOf(at));
      for (const id of trail) settled.add(id);
    }
  }
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

function brokenReference(record: EstateRecord, index: Index): string | undefined {
  for (const [field, space, id] of referencesOf(record)) {
    if (id == null || index.has(space, id)) continue;
    return `a reference to nothing: ${field} ${id} is no ${space === "principal" ? "person or group" : space} here`;
  }
  return undefined;
}

/** A file may not speak for a store of another source: neither for its items nor for its shares. */
function foreign(record: EstateRecord, index: Index): string | undefined {
  const storeId = storeOf(record, index);
  return storeId == null || (record.type !== "store" && index.tells(storeId))
    ? undefined
    : (index.known.whyNot(storeId) ?? undefined);
}

function storeOf(record: EstateRecord, { known }: Index): string | null | undefined {
  switch (record.type) {
    case "store":
      return record.id;
    case "group":
    case "item":
      return record.storeId;
    case "grant":
    case "link":
      return known.storeOfOther(record.itemId);
    default:
      return null;
  }
}

function brokenTree(record: EstateRecord, index: Index): string | undefined {
  if (record.type !== "item") return undefined;
  if (index.isOnCycle(record.id)) return `a parent cycle: ${record.id} lies below itself`;
  const parent = record.parentId === null ? undefined : index.item(record.parentId);
  if (parent && parent.storeId !== record.storeId)
    return `parent ${parent.id} is in store ${parent.storeId}, its child in store ${record.storeId}`;
  if (parent?.kind === "file") return `parent ${parent.id} is a file; a file has no children`;
  return brokenAbove(record, index.knownBelow(record.id));
}

/** Known items below an item stay below it. */
function brokenAbove({ id, kind, storeId }: ItemRecord, below: readonly TreeItem[]): string | undefined {
  if (below.length === 0) return undefined;
  const others = below.length === 1 ? "" : ` and ${below.length - 1} more`;
  if (kind === "file") return `${below[0].id}${others} lies below ${id}; a file has no children`;
  const elsewhere = below.find((one) => one.storeId !== storeId);
  return (
    elsewhere && `${elsewhere.id} lies below ${id} in store ${elsewhere.storeId}; ${id} can't be in store ${storeId}`
  );
}

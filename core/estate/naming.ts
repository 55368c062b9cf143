import type { EstateRecord, RecordType } from "./records";

/** Where ids must be unique: across people and groups, across grants and links, and each of the others by itself. */
export type NameSpace = "store" | "principal" | "item" | "share" | "engagement";

/** The space of a type's ids; null where its records have none, or one that only their source knows. */
export const SPACE_OF: Record<RecordType, NameSpace | null> = {
  store: "store",
  person: "principal",
  group: "principal",
  item: "item",
  grant: "share",
  link: "share",
  engagement: "engagement",
  estate: null,
  member: null,
  party: null,
  event: null,
};

/** Replaces an id. */
export type Naming = (space: NameSpace, id: string) => string;

/** A record with all its ids replaced, its own included. */
export function withIds<R extends EstateRecord>(record: R, named: Naming): R;
export function withIds(record: EstateRecord, named: Naming): EstateRecord {
  const or = (space: NameSpace, id: string | null | undefined) => (id == null ? id : named(space, id));
  switch (record.type) {
    case "estate":
    case "party":
      return record;
    case "store":
      return { ...record, id: named("store", record.id) };
    case "person":
      return {
        ...record,
        id: named("principal", record.id),
        ...(record.managerId != null && { managerId: named("principal", record.managerId) }),
      };
    case "group":
      return {
        ...record,
        id: named("principal", record.id),
        ...(record.storeId != null && { storeId: named("store", record.storeId) }),
      };
    case "member":
      return {
        ...record,
        groupId: named("principal", record.groupId),
        memberId: named("principal", record.memberId),
      };
    case "item":
      return {
        ...record,
        id: named("item", record.id),
        storeId: named("store", record.storeId),
        parentId: or("item", record.parentId) ?? null,
        ownerId: or("principal", record.ownerId) ?? null,
      };
    case "grant":
      return {
        ...record,
        id: named("share", record.id),
        itemId: named("item", record.itemId),
        toId: named("principal", record.toId),
        grantedBy: named("principal", record.grantedBy),
      };
    case "link":
      return {
        ...record,
        id: named("share", record.id),
        itemId: named("item", record.itemId),
        createdBy: named("principal", record.createdBy),
      };
    case "engagement":
      return {
        ...record,
        id: named("engagement", record.id),
        itemIds: record.itemIds.map((id) => named("item", id)),
      };
    case "event":
      return {
        ...record,
        actorId: or("principal", record.actorId) ?? null,
        ...(record.itemId != null && { itemId: named("item", record.itemId) }),
        ...(record.shareId != null && { shareId: named("share", record.shareId) }),
        // A target is an address, or the id of a person or a group.
        ...(record.target != null && !record.target.includes("@") && { target: named("principal", record.target) }),
      };
  }
}

/** Every id that stands in a record, by its space. */
export function eachId(record: EstateRecord, visit: (space: NameSpace, id: string) => void) {
  withIds(record, (space, id) => {
    visit(space, id);
    return id;
  });
}

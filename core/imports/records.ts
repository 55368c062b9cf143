import type { Capabilities, GroupRecord, ItemRecord, PersonRecord, ShareRecord, StoreRecord } from "../estate/records";
import { isMailAddress } from "../estate/mailAddress";
import { rfc3339 } from "../time/instant";
import type { Field } from "./field";
import { kindOf, type Report, type ReportItem, type ReportShare, shareId } from "./report";

type ReportRecord = StoreRecord | PersonRecord | GroupRecord | ItemRecord | ShareRecord;

/** What is known already of a thing by the report's own id for it. */
export type KnownRecord = (type: "item" | "share", id: string) => ItemRecord | ShareRecord | undefined;

/** Which store a report is of, and what it is called here. */
export interface ReportOf {
  store: string;
  name: string;
  /** Fields that the report has columns for. */
  told: ReadonlySet<Field>;
  /** RFC 3339: what has no date of its own is known from then on. */
  at: string;
}

/** What a store can do that somebody changes by hand: whatever it has, they know; a report tells last uses or doesn’t. */
function byHand(told: ReadonlySet<Field>): Capabilities {
  return {
    ...{ openLinks: true, houseLinks: true, namedLinks: true, intakeLinks: true, linkPassword: true },
    ...{ linkExpiry: ["open", "house", "named"], grantExpiry: ["view", "comment", "edit", "manage"] },
    minExpiryLeadHours: 0,
    downloadBlock: { on: ["file", "folder", "space"], roles: ["view", "comment"] },
    changeReach: false,
    ...{ maxUses: false, startTime: false, lastUse: told.has("lastUsed"), perRecipientUse: false },
  };
}

/**
 * The estate's records of a report, each after those that it refers to, and else in the order of their keys. Where it isn’t told who made a
 * share, its item’s owner is taken. What has no date keeps the one under which it is known.
 */
export function* recordsOf(report: Report, of: ReportOf, known: KnownRecord): Generator<ReportRecord> {
  yield { type: "store", id: of.store, name: of.name, capabilities: byHand(of.told) };
  yield* people(report);
  for (const group of groupsIn(report)) yield groupRecord(of.store, group);
  const done = new Set<ReportItem>();
  for (const item of inOrder(report.items.values(), ({ id }) => id)) yield* itemRecords(item, of, known, done);
  for (const share of inOrder(report.shares.values(), ({ item }) => item.id)) yield shareRecord(share, of, known);
}

/**
 * What is written, or looked up, in the order of its keys touches each page of an index but once: of half a million
 * records in the order of a report, nearly every one touches another.
 */
function inOrder<T>(all: Iterable<T>, keyOf: (one: T) => string): T[] {
  return [...all].sort((a, b) => {
    const [one, other] = [keyOf(a), keyOf(b)];
    return one < other ? -1 : one > other ? 1 : 0;
  });
}

function* people(report: Report): Generator<PersonRecord> {
  const addresses = new Set<string>();
  for (const { owner } of report.items.values()) if (owner !== null) addresses.add(owner);
  for (const { audience, madeBy } of report.shares.values()) {
    if ("person" in audience) addresses.add(audience.person);
    if (madeBy !== null) addresses.add(madeBy);
  }
  for (const email of inOrder(addresses, (address) => address))
    yield { type: "person", id: email, email, name: email, status: "active" };
}

export function groupsIn(report: Report): Set<string> {
  const groups = new Set<string>();
  for (const { audience } of report.shares.values()) if ("group" in audience) groups.add(audience.group);
  return groups;
}

/** A report tells no members: those of the directory’s group of that name or address count. */
function groupRecord(storeId: string, name: string): GroupRecord {
  const email = isMailAddress(name) && name.includes("@") ? name : undefined;
  return { type: "group", id: groupId(name), name, storeId, ...(email && { email }), sameAs: email ?? `group:${name}` };
}

function groupId(name: string): string {
  return `reported:${name}`;
}

function* itemRecords(
  item: ReportItem,
  of: ReportOf,
  known: KnownRecord,
  done: Set<ReportItem>,
): Generator<ItemRecord> {
  if (done.has(item)) return;
  done.add(item);
  if (item.parent) yield* itemRecords(item.parent, of, known, done);
  const before = known("item", item.id) as ItemRecord | undefined;
  const createdAt = before?.createdAt ?? of.at;
  yield {
    ...{ type: "item", id: item.id, storeId: of.store, parentId: item.parent?.id ?? null, kind: kindOf(item) },
    ...{ name: item.name, ownerId: item.owner, label: item.label, inherits: item.inherits, state: "live" },
    ...{ createdAt, modifiedAt: before?.modifiedAt ?? createdAt },
  };
}

function shareRecord(share: ReportShare, of: ReportOf, known: KnownRecord): ShareRecord {
  const { audience, item } = share;
  const id = shareId(share);
  const at = (instant: number | null) => (instant === null ? null : rfc3339(instant));
  const maker = share.madeBy ?? item.owner ?? UNKNOWN;
  const madeAt = at(share.madeOn) ?? madeAtOf(known("share", id) as ShareRecord | undefined) ?? of.at;
  const same = { id, itemId: item.id, download: share.download, expiresAt: at(share.ends) };
  if ("person" in audience || "group" in audience)
    return {
      ...{ type: "grant", ...same, toId: "person" in audience ? audience.person : groupId(audience.group) },
      // What collects files is a link, as the reader has seen to.
      role: share.role as Exclude<typeof share.role, "deposit">,
      ...{ grantedBy: maker, grantedAt: madeAt, lastUsedAt: at(share.lastUsed) },
    };
  return {
    ...{ type: "link", ...same, reach: "reach" in audience ? audience.reach : "named" },
    role: share.role as Exclude<typeof share.role, "manage">,
    ...{ password: share.password, opensAt: null, maxUses: null, uses: 0, listed: false },
    recipients: "people" in audience ? audience.people.map((email) => ({ email })) : [],
    ...{ createdBy: maker, createdAt: madeAt, lastUsedAt: at(share.lastUsed) },
    ...(share.url !== null && { address: share.url }),
  };
}

/** Nobody is known by it. */
const UNKNOWN = "not told";

function madeAtOf(share: ShareRecord | undefined): string | undefined {
  return share?.type === "link" ? share.createdAt : share?.grantedAt;
}

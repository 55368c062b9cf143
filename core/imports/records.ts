import type {
  Capabilities,
  GroupRecord,
  ItemRecord,
  LinkRecord,
  PersonRecord,
  ShareRecord,
  StoreRecord,
} from "../estate/records";
import { isMailAddress } from "../estate/mailAddress";
import { rfc3339 } from "../time/instant";
import type { Field } from "./field";
import { kindOf, type Report, shareId } from "./report";
import { ReportItem } from "./reportItems";
import { ReportShare } from "./reportShares";

type ReportRecord = StoreRecord | PersonRecord | GroupRecord | ItemRecord | ShareRecord;

/** Looks up what is already known, by the report's own id. */
export type KnownRecord = (type: "item" | "share", id: string) => ItemRecord | ShareRecord | undefined;

/** Which store a report is of, and what it is called here. */
export interface ReportOf {
  store: string;
  name: string;
  /** Fields that the report has columns for. */
  told: ReadonlySet<Field>;
  /** RFC 3339: the date of things that have none of their own. */
  at: string;
}

/** The capabilities of a store that is changed by hand: anything it has can be done; last uses depend on the report. */
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
 * The estate's records of a report, each after those that it refers to, and else in the order of their keys: what is
 * written or looked up in that order touches each page of an index but once. Where it isn't told who made a share, its
 * item's owner is taken. What has no date keeps the one under which it is known.
 */
export function* recordsOf(report: Report, of: ReportOf, known: KnownRecord): Generator<ReportRecord> {
  yield { type: "store", id: of.store, name: of.name, capabilities: byHand(of.told) };
  yield* people(report);
  for (const group of groupsIn(report)) yield groupRecord(of.store, group);
  const order = report.items.inOrder();
  yield* items(report, order, of, known);
  for (const share of sharesByItem(report, order)) yield shareRecord(share, of, known);
}

function* items({ items }: Report, order: Uint32Array, of: ReportOf, known: KnownRecord): Generator<ItemRecord> {
  const isDone = new Uint8Array(items.size);
  for (const number of order) {
    const above: number[] = [];
    for (let at = number; at >= 0 && isDone[at] === 0; at = items.parent[at]) above.push(at);
    for (const one of above.reverse()) {
      isDone[one] = 1;
      yield itemRecord(new ReportItem(items, one), of, known);
    }
  }
}

/** @param order of the items */
function* sharesByItem({ items, shares }: Report, order: Uint32Array): Generator<ReportShare> {
  const rank = new Uint32Array(items.size);
  for (const [at, item] of order.entries()) rank[item] = at;
  const numbers = Uint32Array.from({ length: shares.size }, (_, number) => number);
  numbers.sort((a, b) => rank[shares.item[a]] - rank[shares.item[b]] || a - b);
  for (const number of numbers) yield new ReportShare(shares, number);
}

function* people(report: Report): Generator<PersonRecord> {
  const addresses = new Set<string>();
  for (const { owner } of report.items.values()) if (owner !== null) addresses.add(owner);
  for (const { audience, madeBy } of report.shares.values()) {
    if ("person" in audience) addresses.add(audience.person);
    if (madeBy !== null) addresses.add(madeBy);
  }
  for (const email of [...addresses].sort()) yield { type: "person", id: email, email, name: email, status: "active" };
}

export function groupsIn(report: Report): Set<string> {
  const groups = new Set<string>();
  for (const { audience } of report.shares.values()) if ("group" in audience) groups.add(audience.group);
  return groups;
}

/** Reports don't list members: those of the directory’s group with that name or address count. */
function groupRecord(storeId: string, name: string): GroupRecord {
  const email = isMailAddress(name) && name.includes("@") ? name : undefined;
  return { type: "group", id: groupId(name), name, storeId, ...(email && { email }), sameAs: email ?? `group:${name}` };
}

function groupId(name: string): string {
  return `reported:${name}`;
}

// The records are plain literals: put together from parts they would take several times as long to make.

function itemRecord(item: ReportItem, of: ReportOf, known: KnownRecord): ItemRecord {
  const before = known("item", item.id) as ItemRecord | undefined;
  const createdAt = before?.createdAt ?? of.at;
  return {
    type: "item",
    id: item.id,
    storeId: of.store,
    parentId: item.parent?.id ?? null,
    kind: kindOf(item),
    name: item.name,
    ownerId: item.owner,
    label: item.label,
    inherits: item.inherits,
    state: "live",
    createdAt,
    modifiedAt: before?.modifiedAt ?? createdAt,
  };
}

function shareRecord(share: ReportShare, of: ReportOf, known: KnownRecord): ShareRecord {
  const { audience, item } = share;
  const id = shareId(share);
  const maker = share.madeBy ?? item.owner ?? UNKNOWN;
  const madeAt = textOf(share.madeOn) ?? madeAtOf(known("share", id) as ShareRecord | undefined) ?? of.at;
  if ("person" in audience || "group" in audience)
    return {
      type: "grant",
      id,
      itemId: item.id,
      download: share.download,
      expiresAt: textOf(share.ends),
      toId: "person" in audience ? audience.person : groupId(audience.group),
      // Only links collect files: the reader has checked it.
      role: share.role as Exclude<typeof share.role, "deposit">,
      grantedBy: maker,
      grantedAt: madeAt,
      lastUsedAt: textOf(share.lastUsed),
    };
  const link: LinkRecord = {
    type: "link",
    id,
    itemId: item.id,
    download: share.download,
    expiresAt: textOf(share.ends),
    reach: "reach" in audience ? audience.reach : "named",
    role: share.role as Exclude<typeof share.role, "manage">,
    password: share.password,
    opensAt: null,
    maxUses: null,
    uses: 0,
    listed: false,
    recipients: "people" in audience ? audience.people.map((email) => ({ email })) : [],
    createdBy: maker,
    createdAt: madeAt,
    lastUsedAt: textOf(share.lastUsed),
  };
  if (share.url !== null) link.address = share.url;
  return link;
}

function textOf(instant: number | null): string | null {
  return instant === null ? null : rfc3339(instant);
}

/** An id that nobody has. */
const UNKNOWN = "not told";

function madeAtOf(share: ShareRecord | undefined): string | undefined {
  return share?.type === "link" ? share.createdAt : share?.grantedAt;
}

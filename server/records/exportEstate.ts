import { sql } from "kysely";
import { type Belief, byBelief, believed, type Sourced } from "@/core/estate/believed";
import { normaliseAddress } from "@/core/estate/address";
import { withIds } from "@/core/estate/naming";
import {
  type EstateRecord,
  type EventRecord,
  type ItemRecord,
  type PersonRecord,
  recordKey,
  type RecordOf,
} from "@/core/estate/records";
import type { Db } from "../platform/db/open";
import { eventsInPieces, type ToldEvent } from "./events/events";
import { beliefIn } from "./belief";
import { recordsOfType } from "./facts";
import { namedAsKnown } from "./names";
import { Placing } from "./placing";

/** What is exported; by default the whole estate as it is now, with all events. */
export interface ExportScope {
  /** An instant in the past. */
  at?: string;
  /** Ids of the items and shares that go into it; no events then. Items above an item of it are of it too. */
  only?: { items: ReadonlySet<string>; shares: ReadonlySet<string> };
}

/** How many records of each type had to be left out of a file, since what they refer to isn't known. */
export type LeftOut = Map<EstateRecord["type"], number>;

/** No home domains are set yet: without them an estate file is meaningless. */
export class NoHomeDomains extends Error {
  constructor() {
    super("no home domains are set; set them under Estate, or with latch set-home");
  }
}

/**
 * The records of an estate file, references pointing backwards where they can; it passes `validate`, and importing it
 * into an empty database and exporting that gives the same file, but for `asOf`. Of people whom several sources tell it
 * has what is believed of them. A person whom records speak of and nobody has told is given as suspended, of the domain
 * `unknown.invalid`: so who made a share is not lost.
 * @param leftOut receives what had to be left out
 * @throws {NoHomeDomains}
 */
export async function* exportEstate(
  db: Db,
  scope: ExportScope = {},
  leftOut: LeftOut = new Map(),
): AsyncGenerator<EstateRecord> {
  const { at, only } = scope;
  const all = <T extends EstateRecord["type"]>(type: T) => recordsOfType(db, type, at);
  const leave = (type: EstateRecord["type"]) => leftOut.set(type, (leftOut.get(type) ?? 0) + 1);
  const belief = await beliefIn(db);
  const [head] = await gathered(all("estate"));
  if (!head) throw new NoHomeDomains();
  yield { ...head, asOf: at ?? db.clock.text() };

  const stores = new Set<string>();
  for await (const { source: _, isRead: __, ...store } of all("store")) {
    stores.add(store.id);
    yield store;
  }
  const { people, names } = await merged(all("person"), belief);
  const groups = new Set<string>();
  for await (const { id } of all("group")) groups.add(id);
  const known = new Set([...people.map(({ id }) => id), ...groups]);
  const isKnown = (id: string) => known.has(names.get(id) ?? id);
  const { placed, owners } = await placedItems(all("item"), stores, only?.items, isKnown);
  const named = <R extends EstateRecord>(record: R) =>
    withIds(record, (space, id) => (space === "principal" ? (names.get(id) ?? id) : id));
  const strangers = await unknownPeople(db, scope, { placed, owners }, people, isKnown);
  for (const { id } of strangers) known.add(id);
  yield* [...people, ...strangers].map(named).sort(byKey);

  for await (const group of all("group"))
    yield group.storeId && !stores.has(group.storeId) ? { ...group, storeId: null } : group;
  const members = new Map<string, RecordOf<"member">>();
  for await (const told of all("member")) {
    const member = named(told);
    if (groups.has(member.groupId) && known.has(member.memberId)) members.set(recordKey(member), member);
    else leave("member");
  }
  yield* [...members.values()].sort(byKey);

  for await (const item of all("item"))
    if (placed.has(item.id)) yield named(item);
    else if (!only) leave("item");
  for (const type of ["grant", "link"] as const)
    for await (const share of all(type)) {
      if (only && !only.shares.has(share.id)) continue;
      if (placed.has(share.itemId)) yield named(share);
      else leave(type);
    }
  yield* await believedParties(all("party"), belief);
  for await (const engagement of all("engagement")) {
    const itemIds = engagement.itemIds.filter((id) => placed.has(id));
    if (itemIds.length > 0 || !only) yield { ...engagement, itemIds };
  }
  if (!only && at === undefined) yield* events(db);
}

async function gathered<R>(records: AsyncIterable<R>): Promise<R[]> {
  const all: R[] = [];
  for await (const record of records) all.push(record);
  return all;
}

function byKey(a: EstateRecord, b: EstateRecord): number {
  return recordKey(a) < recordKey(b) ? -1 : 1;
}

/** People, once each if several sources report them; and by the ids that others used for them, the one that stays. */
async function merged(told: AsyncIterable<Sourced<PersonRecord>>, belief: Belief) {
  const byAddress = new Map<string, Sourced<PersonRecord>[]>();
  for await (const person of told) {
    const address = normaliseAddress(person.email);
    byAddress.set(address, [...(byAddress.get(address) ?? []), person]);
  }
  const people: PersonRecord[] = [];
  const names = new Map<string, string>();
  for (const [address, records] of byAddress) {
    const { first, from, name, status } = believed(records, belief);
    names.set(`mailto:${address}`, first.id);
    if (records.every(({ source }) => source === first.source)) {
      for (const { source: _, ...record } of records) people.push(record);
      continue;
    }
    for (const { id } of records) names.set(id, first.id);
    const { source: _, ...record } = first;
    const rest = {
      ...{ department: from.department?.department, managerId: from.managerId?.managerId },
      ...{ leftAt: from.leftAt?.leftAt, suspendedAt: from.status?.suspendedAt },
    };
    const given = Object.fromEntries(Object.entries(rest).filter(([, value]) => value != null));
    people.push({ ...record, name, status, ...given });
  }
  // A manager known only by an address can't be part of a file.
  const isNobody = (id: string) => id.startsWith("mailto:") && !names.has(id);
  return {
    people: people.map((one) => (one.managerId && isNobody(one.managerId) ? { ...one, managerId: null } : one)),
    names,
  };
}

/** Items that have a place, and which of their owners aren't known. */
interface Placed {
  placed: Placing;
  owners: ReadonlySet<string>;
}

async function placedItems(
  told: AsyncIterable<ItemRecord>,
  stores: ReadonlySet<string>,
  only: ReadonlySet<string> | undefined,
  isKnown: (id: string) => boolean,
): Promise<Placed> {
  const placed = new Placing(stores);
  const strangers = new Map<string, string>();
  for await (const item of told) {
    if (only && !only.has(item.id)) continue;
    placed.put(item);
    if (item.ownerId !== null && !isKnown(item.ownerId)) strangers.set(item.id, item.ownerId);
  }
  const owners = new Set([...strangers].filter(([id]) => placed.has(id)).map(([, owner]) => owner));
  return { placed, owners };
}

/** Ids in exported records that no record explains: each as a person of whom nothing is known. */
async function unknownPeople(
  db: Db,
  { at, only }: ExportScope,
  { placed, owners }: Placed,
  people: readonly PersonRecord[],
  isKnown: (id: string) => boolean,
): Promise<PersonRecord[]> {
  const unknown = new Set(owners);
  const look = (...ids: (string | null | undefined)[]) => {
    for (const id of ids) if (id != null && !isKnown(id)) unknown.add(id);
  };
  for (const { managerId } of people) look(managerId);
  const isIn = (id: string, itemId: string) => placed.has(itemId) && (!only || only.shares.has(id));
  for await (const { id, itemId, toId, grantedBy } of recordsOfType(db, "grant", at))
    if (isIn(id, itemId)) look(toId, grantedBy);
  for await (const { id, itemId, createdBy } of recordsOfType(db, "link", at)) if (isIn(id, itemId)) look(createdBy);
  return [...unknown].map((id) => ({
    type: "person",
    id,
    email: `${encodeURIComponent(id).toLowerCase()}@unknown.invalid`,
    name: id,
    status: "suspended",
  }));
}

/** Of several stances on one domain the one that is believed. */
async function believedParties(
  told: AsyncIterable<Sourced<RecordOf<"party">>>,
  belief: Belief,
): Promise<RecordOf<"party">[]> {
  const parties = new Map<string, RecordOf<"party">>();
  for (const { source: _, ...party } of (await gathered(told)).sort(byBelief(belief)))
    if (!parties.has(recordKey(party))) parties.set(recordKey(party), party);
  return [...parties.values()].sort(byKey);
}

/** What has happened, in the order in which it was reported. */
async function* events(db: Db): AsyncGenerator<EstateRecord> {
  const outgoing = await OutgoingEvents.of(db);
  for await (const piece of eventsInPieces(db)) yield* await outgoing.named(piece);
}

/** Events to be exported: what they refer to has its ids here, and no two share an id. */
export class OutgoingEvents {
  private readonly taken = new Set<string>();

  private constructor(
    private readonly db: Db,
    /** Ids under which several sources have reported something. */
    private readonly twice: ReadonlySet<string>,
  ) {}

  static async of(db: Db): Promise<OutgoingEvents> {
    const rows = await db
      .selectFrom("event")
      .select("key")
      .groupBy("key")
      .having(sql<boolean>`count(distinct source) > 1`)
      .execute();
    return new OutgoingEvents(db, new Set(rows.map(({ key }) => key)));
  }

  /** @param told in the order in which they go out */
  async named(told: readonly ToldEvent[]): Promise<EventRecord[]> {
    const named = new Map<ToldEvent, EventRecord>();
    for (const source of new Set(told.map((one) => one.source))) {
      const own = told.filter((one) => one.source === source);
      const events = own.map(({ event }) => event);
      for (const [i, event] of (await namedAsKnown(this.db, source, events)).entries()) named.set(own[i], event);
    }
    return told.map((one) => ({ ...named.get(one)!, id: this.idOf(one) }));
  }

  private idOf({ source, event: { id } }: ToldEvent): string {
    if (!this.twice.has(id)) return id;
    const own = this.taken.has(id) ? `${source}:${id}` : id;
    this.taken.add(own);
    return own;
  }
}

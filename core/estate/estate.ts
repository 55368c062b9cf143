import { NEVER, seconds, type Seconds } from "../time/instant";
import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain, organisationOf } from "./address";
import { buildGroups, type Groups } from "./groups";
import type * as records from "./records";
import { buildTree, type Tree } from "./tree";

/** A person, once for each address, however many records speak of them. */
export interface Person {
  index: number;
  /** The first record's id, or `mailto:ADDRESS` for a recipient whom no record speaks of. */
  id: string;
  address: string;
  name: string;
  insider: boolean;
  /** Of an outsider; the home domain's own registrable domain for an insider. */
  organisation: string;
  status: records.PersonRecord["status"];
  department: string | null;
}

/** Whom a share lets in. Only active people are in an audience. */
export type Audience =
  | { kind: "open" }
  | { kind: "house" }
  /** A deposit link lets nobody read. */
  | { kind: "nobody" }
  | { kind: "people"; people: Int32Array };

/** A link or a grant, with what every computation asks of it already worked out. */
export interface Share {
  id: string;
  record: records.ShareRecord;
  /** Position of its item in the tree. */
  position: number;
  role: records.Role | "deposit";
  /** Whether it lets a file be downloaded, whatever its record promises. */
  download: boolean;
  opens: Seconds;
  expires: Seconds;
  revoked: Seconds;
  spent: boolean;
  lastUsed: Seconds | null;
  made: Seconds;
  /** Index of the person who made it, or -1 where we don't know them. */
  maker: number;
  audience: Audience;
  /** Those of its audience who are from outside. */
  outsiders: Int32Array;
  /** Index of the group that it is granted to, or -1. */
  group: number;
}

export interface Engagement {
  record: records.EngagementRecord;
  positions: Set<number>;
  organisations: Set<string>;
  ends: Seconds;
}

/**
 * The estate at one time: every record resolved to positions and indexes. Items are in an order in
 * which all that a share reaches is one range, so that no cut of inheritance is ever tested again.
 */
export interface Estate {
  asOf: Seconds;
  homeDomains: string[];
  stores: Map<string, records.StoreRecord>;
  people: Person[];
  /** Every id and every address to the person's index. */
  personById: Map<string, number>;
  personByAddress: Map<string, number>;
  groups: Groups;
  tree: Tree;
  /** Sorted by position, then id. */
  shares: Share[];
  shareById: Map<string, Share>;
  /** Where the shares on a position begin in `shares`; one longer than the tree. */
  sharesFrom: Int32Array;
  stances: Map<string, records.Stance>;
  engagements: Engagement[];
  /** Ids of records left out because they speak of something that isn't here. */
  dangling: string[];
}

/**
 * Builds the estate from its records, in any order. A record that speaks of something that isn't
 * there is left out and named in `dangling`; the file's reader refuses such files before this.
 */
export function buildEstate(source: Iterable<records.EstateRecord>): Estate {
  const sorted = sortByType(source);
  const homeDomains = (sorted.estate[0]?.homeDomains ?? []).map(normaliseDomain);
  const dangling: string[] = [];
  const people = buildPeople(sorted.person, sorted.link, homeDomains);
  const groups = buildGroups(sorted.group, sorted.member, people.byId, people.people);
  const tree = buildTree(sorted.item, (id) => people.byId.get(id) ?? -1, dangling);
  const stores = new Map(sorted.store.map((store) => [store.id, store]));
  const context = { people, groups, tree, stores, dangling };
  const shares = [
    ...sorted.grant.map((grant) => buildGrant(grant, context)),
    ...sorted.link.map((link) => buildLink(link, context)),
  ]
    .filter((share) => share !== undefined)
    .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));
  return {
    asOf: sorted.estate[0] ? seconds(sorted.estate[0].asOf) : 0,
    homeDomains,
    stores,
    people: people.people,
    personById: people.byId,
    personByAddress: people.byAddress,
    groups,
    tree,
    shares,
    shareById: new Map(shares.map((share) => [share.id, share])),
    sharesFrom: startsByPosition(shares, tree.ids.length),
    stances: new Map(sorted.party.map((party) => [normaliseDomain(party.domain), party.stance])),
    engagements: sorted.engagement.map((record) => buildEngagement(record, tree)),
    dangling,
  };
}

type ByType = { [T in records.RecordType]: records.RecordOf<T>[] };

function sortByType(source: Iterable<records.EstateRecord>): ByType {
  const sorted: ByType = {
    estate: [],
    store: [],
    person: [],
    group: [],
    member: [],
    item: [],
    grant: [],
    link: [],
    party: [],
    engagement: [],
    event: [],
  };
  for (const record of source) (sorted[record.type] as records.EstateRecord[]).push(record);
  return sorted;
}

interface People {
  people: Person[];
  byId: Map<string, number>;
  byAddress: Map<string, number>;
}

function buildPeople(recorded: records.PersonRecord[], links: records.LinkRecord[], home: string[]): People {
  const people: Person[] = [];
  const byId = new Map<string, number>();
  const byAddress = new Map<string, number>();
  const add = (id: string, address: string, name: string, status: Person["status"], department: string | null) => {
    const domain = domainOf(address);
    const index = people.length;
    const insider = isHomeDomain(domain, home);
    people.push({ index, id, address, name, insider, organisation: organisationOf(domain), status, department });
    byAddress.set(address, index);
    return index;
  };
  for (const record of recorded) {
    const address = normaliseAddress(record.email);
    let index = byAddress.get(address);
    if (index === undefined) index = add(record.id, address, record.name, record.status, record.department ?? null);
    else if (record.status === "active") people[index].status = "active";
    byId.set(record.id, index);
  }
  for (const link of links)
    for (const recipient of link.recipients) {
      const address = normaliseAddress(recipient.email);
      const index = byAddress.get(address) ?? add(`mailto:${address}`, address, address, "active", null);
      byId.set(`mailto:${address}`, index);
    }
  return { people, byId, byAddress };
}

interface ShareContext {
  people: People;
  groups: Groups;
  tree: Tree;
  stores: Map<string, records.StoreRecord>;
  dangling: string[];
}

function buildGrant(record: records.GrantRecord, context: ShareContext): Share | undefined {
  const group = context.groups.byId.get(record.toId) ?? -1;
  const person = context.people.byId.get(record.toId);
  if (group === -1 && person === undefined) {
    context.dangling.push(record.id);
    return undefined;
  }
  const people = group === -1 ? onlyActive([person!], context.people.people) : context.groups.closure(group);
  return buildShare(record, record.grantedBy, record.grantedAt, { kind: "people", people }, group, context);
}

function buildLink(record: records.LinkRecord, context: ShareContext): Share | undefined {
  return buildShare(record, record.createdBy, record.createdAt, linkAudience(record, context.people), -1, context);
}

function linkAudience(link: records.LinkRecord, people: People): Audience {
  if (link.role === "deposit") return { kind: "nobody" };
  if (link.reach !== "named") return { kind: link.reach };
  const indexes = link.recipients.map((one) => people.byAddress.get(normaliseAddress(one.email))!);
  return { kind: "people", people: onlyActive(indexes, people.people) };
}

function onlyActive(indexes: number[], people: Person[]): Int32Array {
  return Int32Array.from(new Set(indexes.filter((index) => people[index].status === "active"))).sort();
}

function buildShare(
  record: records.ShareRecord,
  makerId: string,
  madeAt: string,
  audience: Audience,
  group: number,
  context: ShareContext,
): Share | undefined {
  const position = context.tree.positionById.get(record.itemId);
  const store = position === undefined ? undefined : context.stores.get(context.tree.items[position].storeId);
  if (position === undefined || !store) {
    context.dangling.push(record.id);
    return undefined;
  }
  const at = (text: string | null | undefined, otherwise: Seconds) => (text ? seconds(text) : otherwise);
  return {
    id: record.id,
    record,
    position,
    role: record.role,
    download: downloadPossible(record, context.tree.items[position].kind, store.capabilities),
    opens: record.type === "link" ? at(record.opensAt, 0) : 0,
    expires: at(record.expiresAt, NEVER),
    revoked: at(record.revokedAt, NEVER),
    spent: record.type === "link" && record.maxUses !== null && record.uses >= record.maxUses,
    lastUsed: record.lastUsedAt ? seconds(record.lastUsedAt) : null,
    made: seconds(madeAt),
    maker: context.people.byId.get(makerId) ?? -1,
    audience,
    outsiders: audience.kind === "people" ? outsidersAmong(audience.people, context.people.people) : NOBODY,
    group,
  };
}

const NOBODY = new Int32Array(0);

function outsidersAmong(indexes: Int32Array, people: Person[]): Int32Array {
  return indexes.some((index) => !people[index].insider) ? indexes.filter((index) => !people[index].insider) : NOBODY;
}

/**
 * Whether a share lets a file be downloaded: always with edit or manage; else unless a block is set
 * and the store honours it for this role on this kind of item.
 */
export function downloadPossible(
  share: { role: records.ShareRecord["role"]; download: boolean },
  kind: records.Kind,
  capabilities: records.Capabilities,
): boolean {
  const { role, download } = share;
  if (role === "edit" || role === "manage" || download) return true;
  const { roles, on } = capabilities.downloadBlock;
  return !((roles as string[]).includes(role) && on.includes(kind));
}

function startsByPosition(shares: Share[], positions: number): Int32Array {
  const starts = new Int32Array(positions + 1);
  for (const share of shares) starts[share.position + 1]++;
  for (let position = 0; position < positions; position++) starts[position + 1] += starts[position];
  return starts;
}

function buildEngagement(record: records.EngagementRecord, tree: Tree): Engagement {
  const positions = record.itemIds.map((id) => tree.positionById.get(id)).filter((one) => one !== undefined);
  return {
    record,
    positions: new Set(positions),
    organisations: new Set(record.organisations.map(normaliseDomain)),
    ends: seconds(record.endsAt),
  };
}

/** The store that keeps the item at a position. */
export function storeAt(estate: Estate, position: number): records.StoreRecord {
  return estate.stores.get(estate.tree.items[position].storeId)!;
}

/** The shares that sit on one position. */
export function sharesOn(estate: Estate, position: number): Share[] {
  return estate.shares.slice(estate.sharesFrom[position], estate.sharesFrom[position + 1]);
}

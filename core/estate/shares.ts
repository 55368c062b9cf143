import { ALWAYS, type Instants, NEVER, seconds, type Seconds } from "../time/instant";
import type { Sourced } from "./believed";
import { Columns } from "./columns";
import { Ids } from "./ids";
import type { Principals } from "./principals";
import {
  type Capabilities,
  type Kind,
  type LinkRecord,
  REACHES,
  type Reach,
  type Role,
  ROLES,
  type ShareRecord,
} from "./records";

/** Whom a share lets in. A deposit link lets nobody read. */
export const AUDIENCES = ["people", "open", "house", "nobody"] as const;
export type AudienceKind = (typeof AUDIENCES)[number];
export const PEOPLE = 0;
export const OPEN = 1;
export const HOUSE = 2;

export const SHARE_ROLES = [...ROLES, "deposit"] as const;

/** Stands in place of an item's slot. */
const NOWHERE = -1;
const GRANT = 255;
const PASSWORD = 1;
const DOWNLOAD = 2;
const LISTED = 4;
const SPENT = 8;
const COMMON_PASSWORD = 16;
const NO_WORDS = 32;

/**
 * All grants and links as columns, each in the slot that it got when it was first heard of. What the
 * records say stands here as it came; where a share sits and whom it lets in is worked out by the estate.
 */
export class Shares extends Columns<ShareColumn> {
  /** Their numbers are the slots. */
  ids = new Ids();
  /** Slot of the item that it sits on. */
  readonly item: Readonly<Int32Array> = new Int32Array(0);
  /** Index into REACHES for a link, 255 for a grant. */
  readonly reach: Readonly<Uint8Array> = new Uint8Array(0);
  /** Index into SHARE_ROLES. */
  readonly role: Readonly<Uint8Array> = new Uint8Array(0);
  readonly flags: Readonly<Uint8Array> = new Uint8Array(0);
  /** 0 where its store doesn't tell. */
  readonly passwordLength: Readonly<Uint16Array> = new Uint16Array(0);
  /** The same number where the store says that passwords are the same; 0 where it doesn't tell. */
  readonly passwordMark: Readonly<Uint32Array> = new Uint32Array(0);
  /** ALWAYS where it has no start. */
  readonly opens: Readonly<Instants> = new Float64Array(0);
  readonly expires: Readonly<Instants> = new Float64Array(0);
  readonly revoked: Readonly<Instants> = new Float64Array(0);
  /** ALWAYS where it was never used, or nobody knows. */
  readonly lastUsed: Readonly<Instants> = new Float64Array(0);
  readonly made: Readonly<Instants> = new Float64Array(0);
  /** Since when it has been as it is; ALWAYS where it was so before we looked, or nobody tells. */
  readonly since: Readonly<Instants> = new Float64Array(0);
  /** Principal handles: of whoever made it, and of whom a grant is to; -1 for none. */
  readonly maker: Readonly<Int32Array> = new Int32Array(0);
  readonly to: Readonly<Int32Array> = new Int32Array(0);
  /** Where the recipients of a named link stand in `recipients`. */
  readonly recipientsFrom: Readonly<Int32Array> = new Int32Array(0);
  readonly recipientsTo: Readonly<Int32Array> = new Int32Array(0);
  /** Person indexes, list after list. */
  readonly recipients: Readonly<Int32Array> = new Int32Array(0);
  /** How much of `recipients` is used. */
  recipientsLength = 0;

  // Worked out by the estate.
  /** Position of its item, or -1 where it is left out. */
  readonly position: Readonly<Int32Array> = new Int32Array(0);
  /** Index into AUDIENCES. */
  readonly audience: Readonly<Uint8Array> = new Uint8Array(0);
  readonly membersFrom: Readonly<Int32Array> = new Int32Array(0);
  readonly insidersFrom: Readonly<Int32Array> = new Int32Array(0);
  readonly membersTo: Readonly<Int32Array> = new Int32Array(0);
  /** When it ends by its store, or by our own standing order where that comes before. */
  readonly ends: Readonly<Instants> = new Float64Array(0);
  private orders = new Map<number, Seconds>();
  private confirmations = new Map<number, Seconds>();
  /** Whether it lets a file be downloaded, whatever its record promises. */
  readonly download: Readonly<Uint8Array> = new Uint8Array(0);
  /** The next share on the same item, or -1; and whether it stands in such a chain. */
  readonly nextOnItem: Readonly<Int32Array> = new Int32Array(0);
  readonly isChained: Readonly<Uint8Array> = new Uint8Array(0);

  get count(): number {
    return this.ids.count;
  }

  find(id: string): number | undefined {
    return this.ids.find(id);
  }

  /** @returns its slot, and whether it is new or on another item than before */
  put(record: Sourced<ShareRecord>, item: number, principals: Principals): { slot: number; hasMoved: boolean } {
    const known = this.ids.find(record.id);
    const slot = known ?? this.newSlot(record.id);
    const isLink = record.type === "link";
    const hasMoved = known === undefined || this.item[slot] !== item;
    const at = (text: string | null | undefined, otherwise: Seconds) => (text ? seconds(text) : otherwise);
    const set = (name: ShareColumn, value: number) => this.write(name, slot, value);
    set("item", item);
    set("reach", isLink ? REACHES.indexOf(record.reach) : GRANT);
    set("role", SHARE_ROLES.indexOf(record.role));
    set(
      "flags",
      (isLink && record.password ? PASSWORD : 0) |
        (record.download ? DOWNLOAD : 0) |
        (isLink && record.listed ? LISTED : 0) |
        (isLink && record.maxUses !== null && record.uses >= record.maxUses ? SPENT : 0) |
        (isLink && record.passwordCommon ? COMMON_PASSWORD : 0) |
        (isLink && record.message !== undefined && !record.message?.trim() ? NO_WORDS : 0),
    );
    set("passwordLength", isLink && record.password ? (record.passwordLength ?? 0) : 0);
    set("passwordMark", isLink && record.password ? numberOf(record.passwordMark) : 0);
    set("opens", isLink ? at(record.opensAt, ALWAYS) : ALWAYS);
    set("expires", at(record.expiresAt, NEVER));
    this.endAt(slot);
    set("revoked", at(record.revokedAt, NEVER));
    set("lastUsed", at(record.lastUsedAt, ALWAYS));
    set("made", seconds(isLink ? record.createdAt : record.grantedAt));
    set("since", at(record.heldSince, ALWAYS));
    set("maker", principals.handle(isLink ? record.createdBy : record.grantedBy));
    set("to", isLink ? -1 : principals.handle(record.toId));
    if (isLink) this.keepRecipients(slot, peopleAmong(record.recipients, principals));
    set("audience", audienceKind(record));
    return { slot, hasMoved };
  }

  /** Takes out a share that wasn't there yet. @returns its slot; undefined where there is no record of it at all */
  forget(id: string): number | undefined {
    const slot = this.ids.find(id);
    if (slot === undefined) return undefined;
    this.write("item", slot, NOWHERE);
    this.write("recipientsTo", slot, this.recipientsFrom[slot]);
    return slot;
  }

  private endAt(slot: number) {
    this.write("ends", slot, Math.min(this.expires[slot], this.orders.get(slot) ?? NEVER));
  }

  /**
   * Says which shares we end ourselves, and when.
   * @returns slots of the shares of which that is news
   */
  takeOrders(ends: ReadonlyMap<string, Seconds>): number[] {
    const changed = this.takeInstants(this.orders, ends);
    for (const slot of changed) this.endAt(slot);
    return changed;
  }

  /** Takes a share as revoked at an instant, if it is known. */
  revokeAt(id: string, at: Seconds) {
    const slot = this.find(id);
    if (slot !== undefined) this.write("revoked", slot, Math.min(this.revoked[slot], at));
  }

  /** Says that we end one share ourselves, and when. */
  takeOrder(id: string, on: Seconds) {
    const slot = this.find(id)!;
    this.orders.set(slot, on);
    this.endAt(slot);
  }

  /**
   * Says until when somebody has confirmed that shares may stay.
   * @returns slots of the shares of which that is news
   */
  takeConfirmations(until: ReadonlyMap<string, Seconds>): number[] {
    return this.takeInstants(this.confirmations, until);
  }

  /** Replaces instants told of shares. @returns slots of those that have changed */
  private takeInstants(told: Map<number, Seconds>, instants: ReadonlyMap<string, Seconds>): number[] {
    const before = new Map(told);
    told.clear();
    for (const [id, at] of instants) {
      const slot = this.find(id);
      if (slot !== undefined) told.set(slot, at);
    }
    const known = new Set([...before.keys(), ...told.keys()]);
    return [...known].filter((slot) => before.get(slot) !== told.get(slot));
  }

  /** Sets a last use from another source than the record. */
  tellUse(slot: number, at: Seconds) {
    this.write("lastUsed", slot, at);
  }

  orderOn(slot: number): Seconds | null {
    return this.orders.get(slot) ?? null;
  }

  confirmedUntil(slot: number): Seconds | null {
    return this.confirmations.get(slot) ?? null;
  }

  private keepRecipients(slot: number, people: number[]) {
    // A list that still fits stays where it is; a longer one goes to the end.
    if (people.length > this.recipientsTo[slot] - this.recipientsFrom[slot]) {
      this.write("recipientsFrom", slot, this.recipientsLength);
      this.recipientsLength += people.length;
      this.lengthen("recipients", this.recipientsLength);
    }
    const from = this.recipientsFrom[slot];
    this.write("recipientsTo", slot, from + people.length);
    for (const [i, person] of people.entries()) this.write("recipients", from + i, person);
  }

  private newSlot(id: string): number {
    const slot = this.ids.add(id);
    this.lengthenAll(OF_SHARES, slot + 1);
    this.write("position", slot, -1);
    this.write("nextOnItem", slot, -1);
    return slot;
  }

  isLink(slot: number): boolean {
    return this.reach[slot] !== GRANT;
  }

  idOf(slot: number): string {
    return this.ids.get(slot);
  }

  reachOf(slot: number): Reach {
    return REACHES[this.reach[slot]];
  }

  hasPassword(slot: number): boolean {
    return (this.flags[slot] & PASSWORD) !== 0;
  }

  /** Whether its store says that its visitors read the store's own text. */
  hasNoWords(slot: number): boolean {
    return (this.flags[slot] & NO_WORDS) !== 0;
  }

  hasCommonPassword(slot: number): boolean {
    return (this.flags[slot] & COMMON_PASSWORD) !== 0;
  }

  promisesDownload(slot: number): boolean {
    return (this.flags[slot] & DOWNLOAD) !== 0;
  }

  isListed(slot: number): boolean {
    return (this.flags[slot] & LISTED) !== 0;
  }

  isSpent(slot: number): boolean {
    return (this.flags[slot] & SPENT) !== 0;
  }

  /** Whether it would let people in at t if its item is live. Ends are half-open: at that very instant it no longer does. */
  isOnAt(slot: number, t: Seconds): boolean {
    return (
      this.expires[slot] > t && this.revoked[slot] > t && this.opens[slot] <= t && (this.flags[slot] & SPENT) === 0
    );
  }

  /** Forgets which shares are on the same item. */
  unchain() {
    this.owned("isChained").fill(0);
  }

  /** A copy; later changes to either don't affect the other. */
  copy(): Shares {
    const copy = new Shares();
    copy.ids = this.ids.copy();
    this.lend(copy, [...OF_SHARES, "recipients"]);
    copy.recipientsLength = this.recipientsLength;
    copy.orders = new Map(this.orders);
    copy.confirmations = new Map(this.confirmations);
    return copy;
  }

  /** What the records said, to be kept and given to `restore` later. */
  columns() {
    const told = Object.fromEntries(TOLD.map((name) => [name, this[name]])) as Pick<Shares, (typeof TOLD)[number]>;
    const { recipients, recipientsLength } = this;
    const { orders, confirmations } = this;
    return { ids: this.ids.pack(), columns: { recipients, recipientsLength, orders, confirmations, ...told } };
  }

  static restore({ ids, columns }: ReturnType<Shares["columns"]>): Shares {
    const { orders, confirmations, ...told } = columns;
    const shares = Object.assign(new Shares(), told);
    shares.orders = orders;
    shares.confirmations = confirmations;
    shares.ids = Ids.of(ids);
    for (const name of WORKED_OUT) shares.lengthen(name, shares.item.length);
    shares.owned("ends").set(shares.expires);
    for (const slot of orders.keys()) shares.endAt(slot);
    return shares;
  }
}

const TOLD = [
  "item",
  "reach",
  "role",
  "flags",
  "passwordLength",
  "passwordMark",
  "opens",
  "expires",
  "revoked",
  "lastUsed",
  "made",
  "since",
  "maker",
  "to",
  "recipientsFrom",
  "recipientsTo",
  "audience",
] as const;
const WORKED_OUT = [
  "ends",
  "position",
  "membersFrom",
  "insidersFrom",
  "membersTo",
  "download",
  "nextOnItem",
  "isChained",
] as const;

const OF_SHARES = [...TOLD, ...WORKED_OUT] as const;
type ShareColumn = (typeof OF_SHARES)[number] | "recipients";

/** A mark is hexadecimal; its first eight digits are enough. */
function numberOf(mark: string | null | undefined): number {
  return mark ? parseInt(mark.slice(0, 8), 16) : 0;
}

/** Each person once, however often an address stands among the recipients. */
function peopleAmong(recipients: LinkRecord["recipients"], principals: Principals): number[] {
  return [...new Set(recipients.map(({ email }) => principals.personAt(email)))];
}

function audienceKind(record: ShareRecord): number {
  if (record.role === "deposit") return AUDIENCES.indexOf("nobody");
  return record.type === "grant" || record.reach === "named" ? PEOPLE : AUDIENCES.indexOf(record.reach);
}

/**
 * Whether a share lets a file be downloaded: always with edit or manage; else unless a block is set
 * and the store honours it for this role on this kind of item.
 */
export function downloadPossible(
  share: { role: Role | "deposit"; download: boolean },
  kind: Kind,
  capabilities: Capabilities,
): boolean {
  const { role, download } = share;
  if (role === "edit" || role === "manage" || download) return true;
  const { roles, on } = capabilities.downloadBlock;
  return !((roles as string[]).includes(role) && on.includes(kind));
}

import { ALWAYS, type Seconds } from "../time/instant";
import type { Items } from "./items";
import type { Principals } from "./principals";
import type { Reach, Role } from "./records";
import { AUDIENCES, type AudienceKind, SHARE_ROLES, type Shares } from "./shares";

/** The parts of an estate that a share is read from. */
interface Columns {
  readonly shares: Shares;
  readonly items: Items;
  readonly principals: Principals;
  readonly asAt: Seconds;
}

/** One grant or link, read from the columns: a handle on a slot, made where it is needed and not kept. */
export class Share {
  constructor(
    private readonly estate: Columns,
    readonly slot: number,
  ) {}

  private get columns() {
    return this.estate.shares;
  }
  get id(): string {
    return this.columns.idOf(this.slot);
  }
  get isLink(): boolean {
    return this.columns.isLink(this.slot);
  }
  /** Of a link. */
  get reach(): Reach {
    return this.columns.reachOf(this.slot);
  }
  get itemId(): string {
    return this.estate.items.idOf(this.columns.item[this.slot]);
  }
  /** Position of its item in the tree. */
  get position(): number {
    return this.columns.position[this.slot];
  }
  get role(): Role | "deposit" {
    return SHARE_ROLES[this.columns.role[this.slot]];
  }
  get hasPassword(): boolean {
    return this.columns.hasPassword(this.slot);
  }
  /** Whether its record says that files can be downloaded; `download` tells whether they can. */
  get promisesDownload(): boolean {
    return this.columns.promisesDownload(this.slot);
  }
  get download(): boolean {
    return this.columns.download[this.slot] === 1;
  }
  /** How long its password is; 0 where its store doesn't tell. */
  get passwordLength(): number {
    return this.columns.passwordLength[this.slot];
  }
  /** Whether its store says that the password is one that many people choose. */
  get hasCommonPassword(): boolean {
    return this.columns.hasCommonPassword(this.slot);
  }
  /** Whether its store says that its visitors read the store's own text. */
  get hasNoWords(): boolean {
    return this.columns.hasNoWords(this.slot);
  }
  /** The same number for links with the same password; 0 where its store doesn't tell. */
  get passwordMark(): number {
    return this.columns.passwordMark[this.slot];
  }
  get isListed(): boolean {
    return this.columns.isListed(this.slot);
  }
  get opens(): Seconds {
    return this.columns.opens[this.slot];
  }
  get expires(): Seconds {
    return this.columns.expires[this.slot];
  }
  /** When it ends by its store, or by our own standing order where that comes before. */
  get ends(): Seconds {
    return this.columns.ends[this.slot];
  }
  /** When we end it ourselves by a standing order, be that before or after its own end; null where there is none. */
  get order(): Seconds | null {
    return this.columns.orderOn(this.slot);
  }
  /** Until when somebody has confirmed that it may stay; null where nobody has. */
  get confirmed(): Seconds | null {
    return this.columns.confirmedUntil(this.slot);
  }
  get revoked(): Seconds {
    return this.columns.revoked[this.slot];
  }
  get spent(): boolean {
    return this.columns.isSpent(this.slot);
  }
  get lastUsed(): Seconds | null {
    const at = this.columns.lastUsed[this.slot];
    return at === ALWAYS ? null : at;
  }
  /** False where all that is known is a use after the instant asked about. */
  get isUseKnown(): boolean {
    return this.columns.lastUsed[this.slot] <= this.estate.asAt;
  }
  get made(): Seconds {
    return this.columns.made[this.slot];
  }
  /** Index of the person who made it, or -1 where we don't know them. */
  get maker(): number {
    return this.estate.principals.personOf[this.columns.maker[this.slot]];
  }
  /** Index of the group that it is granted to, or -1. */
  get group(): number {
    const to = this.columns.to[this.slot];
    return to < 0 ? -1 : this.estate.principals.groupOf[to];
  }
  get audience(): AudienceKind {
    return AUDIENCES[this.columns.audience[this.slot]];
  }
  /** Active people whom it lets in by name; outsiders first. */
  get people(): Int32Array {
    const { membersFrom, membersTo } = this.columns;
    return this.estate.principals.pool.subarray(membersFrom[this.slot], membersTo[this.slot]);
  }
  /** Those of its people who are from outside. */
  get outsiders(): Int32Array {
    const { membersFrom, insidersFrom } = this.columns;
    return this.estate.principals.pool.subarray(membersFrom[this.slot], insidersFrom[this.slot]);
  }
}

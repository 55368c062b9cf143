import { grown } from "../estate/grow";
import { Ids } from "../estate/ids";
import { SHARE_ROLES } from "../estate/shares";
import type { Seconds } from "../time/instant";
import { ReportItem, type ReportItems } from "./reportItems";
import type { AudienceTold, ShareTold } from "./row";

const [PASSWORD, DOWNLOAD, INHERITED] = [1, 2, 4];
/** In the columns of numbers of texts. */
const NONE = -1;
/** In the columns of instants. */
const NEVER_TOLD = NaN;

/**
 * The shares of a report as columns, by numbers in the order of their rows: as objects they would take several times the
 * room.
 */
export class ReportShares {
  readonly audiences = new Ids();
  readonly people = new Ids();
  /** The report's ids and addresses of shares. */
  readonly texts = new Ids();
  size = 0;
  item = new Int32Array(0);
  audience = new Int32Array(0);
  madeBy = new Int32Array(0);
  id = new Int32Array(0);
  url = new Int32Array(0);
  row = new Uint32Array(0);
  copy = new Uint32Array(0);
  role = new Uint8Array(0);
  flags = new Uint8Array(0);
  ends = new Float64Array(0);
  lastUsed = new Float64Array(0);
  madeOn = new Float64Array(0);

  constructor(readonly items: ReportItems) {}

  *values(): Generator<ReportShare> {
    for (let number = 0; number < this.size; number++) yield new ReportShare(this, number);
  }

  /** @param copy which of several on the item that are for the same people it is, from 1 on */
  add(told: ShareTold, { item, row, copy }: { item: ReportItem; row: number; copy: number }): ReportShare {
    const number = this.size++;
    this.grow(this.size);
    const textNumber = (text: string | null) => (text === null ? NONE : this.texts.numberOf(text));
    this.item[number] = item.number;
    this.row[number] = row;
    this.copy[number] = copy;
    this.id[number] = textNumber(told.id);
    this.url[number] = textNumber(told.url);
    this.madeOn[number] = told.madeOn ?? NEVER_TOLD;
    this.flags[number] = told.inherited ? INHERITED : 0;
    const { audience, role, password, download, ends, lastUsed, madeBy } = told;
    return Object.assign(new ReportShare(this, number), {
      ...{ audience, role, password, download, ends, lastUsed, madeBy },
    });
  }

  private grow(length: number) {
    for (const name of ["item", "audience", "madeBy", "id", "url"] as const) this[name] = grown(this[name], length);
    for (const name of ["row", "copy"] as const) this[name] = grown(this[name], length);
    for (const name of ["role", "flags"] as const) this[name] = grown(this[name], length);
    for (const name of ["ends", "lastUsed", "madeOn"] as const) this[name] = grown(this[name], length);
  }
}

/** A share of a report, read from the columns: made where it is needed and not kept. */
export class ReportShare implements ShareTold {
  constructor(
    private readonly shares: ReportShares,
    readonly number: number,
  ) {}

  get item(): ReportItem {
    return new ReportItem(this.shares.items, this.shares.item[this.number]);
  }
  get row(): number {
    return this.shares.row[this.number];
  }
  /** Which of several on the item that are for the same people it is, from 1 on. */
  get copy(): number {
    return this.shares.copy[this.number];
  }
  get id(): string | null {
    return this.textOf(this.shares.id);
  }
  get url(): string | null {
    return this.textOf(this.shares.url);
  }
  get madeOn(): Seconds | null {
    return this.instantOf("madeOn");
  }
  get inherited(): boolean {
    return this.has(INHERITED);
  }
  get audience(): AudienceTold {
    return audienceFrom(this.shares.audiences.get(this.shares.audience[this.number]));
  }
  set audience(audience: AudienceTold) {
    this.shares.audience[this.number] = this.shares.audiences.numberOf(audienceText(audience));
  }
  get role(): ShareTold["role"] {
    return SHARE_ROLES[this.shares.role[this.number]];
  }
  set role(role: ShareTold["role"]) {
    this.shares.role[this.number] = SHARE_ROLES.indexOf(role);
  }
  get password(): boolean {
    return this.has(PASSWORD);
  }
  set password(has: boolean) {
    this.flag(PASSWORD, has);
  }
  get download(): boolean {
    return this.has(DOWNLOAD);
  }
  set download(has: boolean) {
    this.flag(DOWNLOAD, has);
  }
  get ends(): Seconds | null {
    return this.instantOf("ends");
  }
  set ends(at: Seconds | null) {
    this.shares.ends[this.number] = at ?? NEVER_TOLD;
  }
  get lastUsed(): Seconds | null {
    return this.instantOf("lastUsed");
  }
  set lastUsed(at: Seconds | null) {
    this.shares.lastUsed[this.number] = at ?? NEVER_TOLD;
  }
  get madeBy(): string | null {
    const maker = this.shares.madeBy[this.number];
    return maker === NONE ? null : this.shares.people.get(maker);
  }
  set madeBy(maker: string | null) {
    this.shares.madeBy[this.number] = maker === null ? NONE : this.shares.people.numberOf(maker);
  }

  private textOf(column: Int32Array): string | null {
    const number = column[this.number];
    return number === NONE ? null : this.shares.texts.get(number);
  }

  private instantOf(name: "ends" | "lastUsed" | "madeOn"): Seconds | null {
    const at = this.shares[name][this.number];
    return Number.isNaN(at) ? null : at;
  }

  private has(flag: number): boolean {
    return (this.shares.flags[this.number] & flag) !== 0;
  }

  private flag(flag: number, has: boolean) {
    const others = this.shares.flags[this.number] & ~flag;
    this.shares.flags[this.number] = has ? others | flag : others;
  }
}

/** An audience as one text, which many shares have in common. Addresses contain no line breaks. */
function audienceText(audience: AudienceTold): string {
  if ("person" in audience) return `person ${audience.person}`;
  if ("group" in audience) return `group ${audience.group}`;
  if ("reach" in audience) return `reach ${audience.reach}`;
  return `people ${audience.people.join("\n")}`;
}

function audienceFrom(text: string): AudienceTold {
  const told = text.slice(text.indexOf(" ") + 1);
  switch (text.slice(0, text.indexOf(" "))) {
    case "person":
      return { person: told };
    case "group":
      return { group: told };
    case "reach":
      return { reach: told as "open" | "house" };
    default:
      return { people: told.split("\n") };
  }
}

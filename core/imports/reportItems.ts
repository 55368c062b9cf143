import { grown } from "../estate/grow";
import { Ids } from "../estate/ids";
import { type Kind, KINDS, type Label, LABELS } from "../estate/records";

/** What the first row about an item says. */
export interface ItemSaid {
  id: string;
  /** Its own name and those above it, joined; null where the report tells no place. */
  path: string | null;
  name: string;
  kind: Kind | null;
  label: Label | null;
  owner: string | null;
  inherits: boolean;
  /** The row's number in the file; 0 where only a place in a path tells of the item. */
  row: number;
}

const NONE = -1;
/** In the column of paths: the path is the id too. */
const AS_ID = -2;
/** In columns of a byte. */
const NOT_TOLD = 255;

/**
 * The items of a report as columns, by numbers in the order in which they were first told of. A report has very many: as
 * objects they would take several times the room.
 */
export class ReportItems {
  /** Their numbers are the items'. */
  readonly ids = new Ids();
  readonly owners = new Ids();
  /** Paths that aren't ids, and the first item at each. */
  private readonly paths = new Ids();
  private firstAt = new Int32Array(0);
  /** Names that differ from the last part of the item's path. */
  private readonly names = new Map<number, string>();
  private path = new Int32Array(0);
  owner = new Int32Array(0);
  /** The number of the item above; -1 for a top one, or where it isn't known yet. */
  parent = new Int32Array(0);
  row = new Uint32Array(0);
  kind = new Uint8Array(0);
  label = new Uint8Array(0);
  inherits = new Uint8Array(0);
  hasChildren = new Uint8Array(0);

  get size(): number {
    return this.ids.count;
  }

  *values(): Generator<ReportItem> {
    for (let number = 0; number < this.size; number++) yield new ReportItem(this, number);
  }

  find(id: string): ReportItem | undefined {
    const number = this.ids.find(id);
    return number === undefined ? undefined : new ReportItem(this, number);
  }

  /** The first item that is at a path. */
  findAt(path: string): ReportItem | undefined {
    const [known, named] = [this.paths.find(path), this.ids.find(path)];
    const first = known === undefined ? Infinity : this.firstAt[known];
    const number = named !== undefined && this.path[named] === AS_ID ? Math.min(first, named) : first;
    return number === Infinity ? undefined : new ReportItem(this, number);
  }

  /** @param said of an item whose id no other has */
  add(said: ItemSaid): ReportItem {
    const number = this.ids.add(said.id);
    this.grow(number + 1);
    this.path[number] = this.pathNumber(said, number);
    if (said.path === null || said.name !== lastOf(said.path)) this.names.set(number, said.name);
    this.parent[number] = NONE;
    this.row[number] = said.row;
    this.inherits[number] = said.inherits ? 1 : 0;
    const { kind, label, owner } = said;
    return Object.assign(new ReportItem(this, number), { kind, label, owner });
  }

  private pathNumber({ path, id }: ItemSaid, item: number): number {
    if (path === null) return NONE;
    if (path === id) return AS_ID;
    const known = this.paths.find(path);
    if (known !== undefined) return known;
    const number = this.paths.add(path);
    this.firstAt = grown(this.firstAt, number + 1);
    this.firstAt[number] = item;
    return number;
  }

  private grow(length: number) {
    for (const name of ["path", "owner", "parent"] as const) this[name] = grown(this[name], length);
    for (const name of ["kind", "label", "inherits", "hasChildren"] as const) this[name] = grown(this[name], length);
    this.row = grown(this.row, length);
  }

  pathOf(number: number): string | null {
    const path = this.path[number];
    if (path === AS_ID) return this.ids.get(number);
    return path === NONE ? null : this.paths.get(path);
  }

  nameOf(number: number): string {
    return this.names.get(number) ?? lastOf(this.pathOf(number)!);
  }

  /** The numbers of all items, in the order of their ids. */
  inOrder(): Uint32Array {
    const { ids } = this;
    return Uint32Array.from({ length: this.size }, (_, number) => number).sort((a, b) =>
      ids.get(a) < ids.get(b) ? -1 : 1,
    );
  }
}

function lastOf(path: string): string {
  return path.slice(path.lastIndexOf("/") + 1);
}

/** An item of a report, read from the columns: made where it is needed and not kept. */
export class ReportItem {
  constructor(
    private readonly items: ReportItems,
    /** Tells it from all others of the report. */
    readonly number: number,
  ) {}

  get id(): string {
    return this.items.ids.get(this.number);
  }
  get path(): string | null {
    return this.items.pathOf(this.number);
  }
  get name(): string {
    return this.items.nameOf(this.number);
  }
  /** The first row that tells of it; 0 where only its place in a path does. */
  get row(): number {
    return this.items.row[this.number];
  }
  get inherits(): boolean {
    return this.items.inherits[this.number] === 1;
  }
  get parent(): ReportItem | null {
    const parent = this.items.parent[this.number];
    return parent === NONE ? null : new ReportItem(this.items, parent);
  }
  set parent(parent: ReportItem) {
    this.items.parent[this.number] = parent.number;
  }
  get hasChildren(): boolean {
    return this.items.hasChildren[this.number] === 1;
  }
  set hasChildren(has: boolean) {
    this.items.hasChildren[this.number] = has ? 1 : 0;
  }
  get kind(): Kind | null {
    return KINDS[this.items.kind[this.number]] ?? null;
  }
  set kind(kind: Kind | null) {
    this.items.kind[this.number] = kind === null ? NOT_TOLD : KINDS.indexOf(kind);
  }
  get label(): Label | null {
    return LABELS[this.items.label[this.number]] ?? null;
  }
  set label(label: Label | null) {
    this.items.label[this.number] = label === null ? NOT_TOLD : LABELS.indexOf(label);
  }
  get owner(): string | null {
    const owner = this.items.owner[this.number];
    return owner === NONE ? null : this.items.owners.get(owner);
  }
  set owner(owner: string | null) {
    this.items.owner[this.number] = owner === null ? NONE : this.items.owners.numberOf(owner);
  }
}

import { ALWAYS, type Instants, seconds } from "../time/instant";
import type { Sourced } from "./believed";
import { Columns } from "./columns";
import { Ids } from "./ids";
import { type ItemRecord, type Kind, KINDS, LABELS } from "./records";
import { Texts } from "./texts";

const TOP = -1;
const STATES = ["live", "binned", "gone"] as const;
export const LIVE = 0;
/** The state of a slot that something refers to, but that no record has told of. */
export const UNKNOWN = 3;
export const NO_LABEL = 255;

/** What a record changed: at most its name; where it stands and whose it is; or what it is and where it is kept. */
export type ItemChange = "name" | "place" | "nature";

/**
 * All items as columns, each in the slot that it got when it was first heard of. A slot never changes;
 * where an item stands in the order of inheritance is told by the tree.
 */
export class Items extends Columns<(typeof COLUMNS)[number]> {
  /** Their numbers are the slots. */
  ids = new Ids();
  names = new Texts();
  private storeIds = new Ids();
  /** Slots whose names have changed since this was last emptied. */
  renamed: number[] = [];
  /** Slot of the parent; -1 for a top item. */
  readonly parent: Readonly<Int32Array> = new Int32Array(0);
  /** Principal handle of the owner, or -1. */
  readonly owner: Readonly<Int32Array> = new Int32Array(0);
  readonly store: Readonly<Uint16Array> = new Uint16Array(0);
  readonly kind: Readonly<Uint8Array> = new Uint8Array(0);
  /** The item's own label as an index into LABELS, or 255. */
  readonly ownLabel: Readonly<Uint8Array> = new Uint8Array(0);
  readonly state: Readonly<Uint8Array> = new Uint8Array(0);
  readonly inherits: Readonly<Uint8Array> = new Uint8Array(0);
  /** Since when it has been as it is; ALWAYS where it was so before we looked, or nobody tells. */
  readonly since: Readonly<Instants> = new Float64Array(0);

  get count(): number {
    return this.ids.count;
  }

  /** The slot of an id, or undefined where nothing speaks of it. */
  find(id: string): number | undefined {
    return this.ids.find(id);
  }

  /** The slot of an id; a new one where nothing has spoken of it yet. */
  slotOf(id: string): number {
    let slot = this.ids.find(id);
    if (slot === undefined) {
      slot = this.ids.add(id);
      this.names.add("");
      this.lengthenAll(COLUMNS, slot + 1);
      this.write("parent", slot, TOP);
      this.write("owner", slot, -1);
      this.write("state", slot, UNKNOWN);
      this.write("since", slot, ALWAYS);
    }
    return slot;
  }

  /** @param owner principal handle of the owner, or -1 */
  put(record: Sourced<ItemRecord>, owner: number): ItemChange {
    const slot = this.slotOf(record.id);
    this.write("since", slot, record.heldSince ? seconds(record.heldSince) : ALWAYS);
    const parent = record.parentId === null ? TOP : this.slotOf(record.parentId);
    if (this.names.get(slot) !== record.name) {
      this.names.set(slot, record.name);
      this.renamed.push(slot);
    }
    let change: ItemChange = "name";
    const set = (name: (typeof COLUMNS)[number], value: number, what: ItemChange) => {
      if (this[name][slot] === value) return;
      this.write(name, slot, value);
      if (change !== "nature") change = what;
    };
    set("parent", parent, "place");
    set("owner", owner, "place");
    set("store", this.storeIds.numberOf(record.storeId), "nature");
    set("kind", KINDS.indexOf(record.kind), "nature");
    set("ownLabel", record.label === null ? NO_LABEL : LABELS.indexOf(record.label), "place");
    set("state", STATES.indexOf(record.state), "place");
    set("inherits", record.inherits ? 1 : 0, "place");
    return change;
  }

  /** Of an item that wasn't yet there only its slot is left. */
  forget(id: string) {
    const slot = this.ids.find(id);
    if (slot === undefined) return;
    this.write("parent", slot, TOP);
    this.write("owner", slot, -1);
    this.write("state", slot, UNKNOWN);
  }

  isKnown(slot: number): boolean {
    return this.state[slot] !== UNKNOWN;
  }

  idOf(slot: number): string {
    return this.ids.get(slot);
  }

  kindOf(slot: number): Kind {
    return KINDS[this.kind[slot]];
  }

  storeOf(slot: number): string {
    return this.storeIds.get(this.store[slot]);
  }

  /** How many stores items have named, and the id of one of them. */
  get storeCount(): number {
    return this.storeIds.count;
  }

  storeIdOf(number: number): string {
    return this.storeIds.get(number);
  }

  /** What is told to either from then on the other doesn't know. */
  copy(): Items {
    const copy = new Items();
    copy.ids = this.ids.copy();
    copy.names = this.names.copy();
    copy.storeIds = this.storeIds.copy();
    this.lend(copy, COLUMNS);
    return copy;
  }

  /** Lets all texts take less room. */
  pack() {
    return { ids: this.ids.pack(), names: this.names.pack(), storeIds: this.storeIds.pack() };
  }

  /** All columns, to be kept and given to `restore` another time. */
  columns() {
    const { parent, owner, store, kind, ownLabel, state, inherits, since } = this;
    const texts = this.pack();
    return { texts, columns: { parent, owner, store, kind, ownLabel, state, inherits, since } };
  }

  static restore({ texts, columns }: ReturnType<Items["columns"]>): Items {
    const items = Object.assign(new Items(), columns);
    items.ids = Ids.of(texts.ids);
    items.names = new Texts(texts.names);
    items.storeIds = Ids.of(texts.storeIds);
    return items;
  }
}

const COLUMNS = ["parent", "owner", "store", "kind", "ownLabel", "state", "inherits", "since"] as const;

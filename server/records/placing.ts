import { Ids } from "@/core/estate/ids";
import { grown } from "@/core/estate/grow";
import type { ItemRecord } from "@/core/estate/records";

const TOP = -1;

/** What is known of an item. One on a cycle meets itself on the way up as still open. */
const [UNKNOWN, TOLD, OPEN, PLACED, UNPLACED] = [0, 1, 2, 3, 4];

/** Which items have a place: all that are above them are known, of one store, and no files. A million take 70 MB. */
export class Placing {
  private readonly ids = new Ids();
  private readonly stores = new Ids();
  private parent = new Int32Array(0);
  private store = new Uint16Array(0);
  private isFile = new Uint8Array(0);
  private state = new Uint8Array(0);

  /** @param known ids of the stores that are known */
  constructor(private readonly known: ReadonlySet<string>) {}

  /** Takes in an item; all of them before the first is asked about. */
  put({ id, parentId, storeId, kind }: Pick<ItemRecord, "id" | "parentId" | "storeId" | "kind">) {
    const item = this.numberOf(id);
    this.parent[item] = parentId === null ? TOP : this.numberOf(parentId);
    this.store[item] = this.stores.numberOf(storeId);
    this.isFile[item] = kind === "file" ? 1 : 0;
    this.state[item] = TOLD;
  }

  has(id: string): boolean {
    const item = this.ids.find(id);
    return item !== undefined && this.isPlaced(item);
  }

  private numberOf(id: string): number {
    const item = this.ids.numberOf(id);
    this.parent = grown(this.parent, item + 1);
    this.store = grown(this.store, item + 1);
    this.isFile = grown(this.isFile, item + 1);
    this.state = grown(this.state, item + 1);
    return item;
  }

  private isPlaced(item: number): boolean {
    const way: number[] = [];
    let at = item;
    for (; at !== TOP && this.state[at] === TOLD && this.fits(at); at = this.parent[at]) {
      this.state[at] = OPEN;
      way.push(at);
    }
    const isPlaced = at === TOP || this.state[at] === PLACED;
    if (at !== TOP && this.state[at] === TOLD) way.push(at);
    for (const one of way) this.state[one] = isPlaced ? PLACED : UNPLACED;
    return isPlaced;
  }

  /** Whether an item can lie where it is said to, as far as that is known from the two. */
  private fits(item: number): boolean {
    const parent = this.parent[item];
    if (!this.known.has(this.stores.get(this.store[item]))) return false;
    return (
      parent === TOP ||
      (this.state[parent] !== UNKNOWN && this.store[parent] === this.store[item] && this.isFile[parent] === 0)
    );
  }
}

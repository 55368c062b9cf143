import { grown } from "../estate/grow";
import { textHash } from "../estate/ids";

/** Finds shares by keys without keeping those: only hashes are kept, and a share's key can be worked out again. */
export class SharesByKey {
  /** One more than the number of the share that stands here; 0 where none does. */
  private table = new Int32Array(16);
  /** By share. */
  private hashes = new Int32Array(0);
  private count = 0;

  constructor(private readonly keyOf: (share: number) => string) {}

  find(key: string): number | undefined {
    const hash = textHash(key);
    const mask = this.table.length - 1;
    for (let at = hash & mask; this.table[at] !== 0; at = (at + 1) & mask) {
      const share = this.table[at] - 1;
      if (this.hashes[share] === hash && this.keyOf(share) === key) return share;
    }
    return undefined;
  }

  /** @param share the next number @param key no other share has it */
  add(share: number, key: string) {
    this.count = share + 1;
    this.hashes = grown(this.hashes, this.count);
    this.hashes[share] = textHash(key);
    if (this.table.length >= 2 * this.count) return this.enter(share);
    this.table = new Int32Array(4 * this.table.length);
    for (let one = 0; one < this.count; one++) this.enter(one);
  }

  private enter(share: number) {
    const mask = this.table.length - 1;
    let at = this.hashes[share] & mask;
    while (this.table[at] !== 0) at = (at + 1) & mask;
    this.table[at] = share + 1;
  }
}

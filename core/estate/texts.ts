/** Texts that follow one another as a single one, and where in it each of them ends. */
export interface Block {
  text: string;
  ends: Uint32Array;
}

/** All blocks hold as many texts, except for the last one. */
export type PackedTexts = readonly Block[];

/** How many texts a block holds, as a power of two. Whoever keeps a text that was cut out keeps its whole block. */
const BLOCK_BITS = 16;
const BLOCK = 2 ** BLOCK_BITS;

/**
 * A list of texts that takes little room and no time to read back: those that were packed lie in blocks and are cut out
 * when they are asked for; what has come since, at most as many as a block holds, lies beside them.
 */
export class Texts {
  private packed: number;
  private later: string[] = [];
  private changed = new Map<number, string>();

  constructor(private blocks: PackedTexts = []) {
    this.packed = blocks.reduce((count, { ends }) => count + ends.length, 0);
  }

  get count(): number {
    return this.packed + this.later.length;
  }

  get(index: number): string {
    if (index >= this.packed) return this.later[index - this.packed];
    const changed = this.changed.size > 0 ? this.changed.get(index) : undefined;
    if (changed !== undefined) return changed;
    const { text, ends } = this.blocks[index >>> BLOCK_BITS];
    const at = index % BLOCK;
    return text.slice(at === 0 ? 0 : ends[at - 1], ends[at]);
  }

  /** @returns its index */
  add(text: string): number {
    const index = this.packed + this.later.push(text) - 1;
    if (this.later.length === BLOCK) this.pack();
    return index;
  }

  set(index: number, text: string) {
    if (index >= this.packed) this.later[index - this.packed] = text;
    else if (this.get(index) !== text) this.changed.set(index, text);
  }

  copy(): Texts {
    const copy = new Texts(this.blocks);
    copy.later = this.later.slice();
    copy.changed = new Map(this.changed);
    return copy;
  }

  /** All texts packed, to be kept; this list then reads from them too. Blocks in which nothing is new stay the same. */
  pack(): PackedTexts {
    const { count, packed, blocks } = this;
    const stale = new Set(Array.from(this.changed.keys(), (index) => index >>> BLOCK_BITS));
    if (count > packed) for (let at = packed >>> BLOCK_BITS; at * BLOCK < count; at++) stale.add(at);
    this.blocks = Array.from({ length: Math.ceil(count / BLOCK) }, (_, at) =>
      stale.has(at) ? this.block(at) : blocks[at],
    );
    this.packed = count;
    this.later = [];
    this.changed.clear();
    return this.blocks;
  }

  private block(at: number): Block {
    const from = at * BLOCK;
    const ends = new Uint32Array(Math.min(BLOCK, this.count - from));
    const parts: string[] = [];
    let end = 0;
    for (let index = 0; index < ends.length; index++) {
      parts.push(this.get(from + index));
      ends[index] = end += parts[index].length;
    }
    return { text: parts.join(""), ends };
  }

  *[Symbol.iterator]() {
    for (let index = 0; index < this.count; index++) yield this.get(index);
  }
}

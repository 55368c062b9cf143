/** Many texts as one, and where each of them ends. */
export interface PackedTexts {
  text: string;
  ends: Uint32Array;
}

/**
 * A list of texts that takes little room and no time to read back: those that were packed lie in one
 * long text and are cut out when they are asked for; what has come since lies beside it.
 */
export class Texts {
  private later: string[] = [];
  private changed = new Map<number, string>();

  constructor(private packed: PackedTexts = { text: "", ends: new Uint32Array(0) }) {}

  get count(): number {
    return this.packed.ends.length + this.later.length;
  }

  get(index: number): string {
    const { text, ends } = this.packed;
    if (index >= ends.length) return this.later[index - ends.length];
    const changed = this.changed.size > 0 ? this.changed.get(index) : undefined;
    return changed ?? text.slice(index === 0 ? 0 : ends[index - 1], ends[index]);
  }

  /** @returns its index */
  add(text: string): number {
    return this.packed.ends.length + this.later.push(text) - 1;
  }

  set(index: number, text: string) {
    const packed = this.packed.ends.length;
    if (index >= packed) this.later[index - packed] = text;
    else if (this.get(index) !== text) this.changed.set(index, text);
  }

  copy(): Texts {
    const copy = new Texts(this.packed);
    copy.later = this.later.slice();
    copy.changed = new Map(this.changed);
    return copy;
  }

  /** All texts packed into one, to be kept; this list then reads from it too. */
  pack(): PackedTexts {
    if (this.later.length > 0 || this.changed.size > 0) {
      const ends = new Uint32Array(this.count);
      const parts: string[] = [];
      let end = 0;
      for (let index = 0; index < ends.length; index++) {
        parts.push(this.get(index));
        ends[index] = end += parts[index].length;
      }
      this.packed = { text: parts.join(""), ends };
      this.later = [];
      this.changed.clear();
    }
    return this.packed;
  }

  *[Symbol.iterator]() {
    for (let index = 0; index < this.count; index++) yield this.get(index);
  }
}

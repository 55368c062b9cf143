import { type PackedTexts, Texts } from "./texts";

/** Texts that name things, each with a number from 0 on, found by an open-addressing hash table. */
export class Ids {
  /** One more than the number of the text that stands here; 0 where none does. Made when it is first asked. */
  private table = new Int32Array(0);
  /** Whether a copy reads from the same table. */
  private isShared = false;

  constructor(private readonly texts: Texts = new Texts()) {}

  static of(packed: PackedTexts): Ids {
    return new Ids(new Texts(packed));
  }

  /** The same numbers; what is added to either from then on the other doesn't have. */
  copy(): Ids {
    // Made once here, and not in every copy.
    if (this.table.length < 2 * this.count + 2) this.rehash();
    const copy = new Ids(this.texts.copy());
    copy.table = this.table;
    copy.isShared = this.isShared = true;
    return copy;
  }

  get count(): number {
    return this.texts.count;
  }

  get(number: number): string {
    return this.texts.get(number);
  }

  find(text: string): number | undefined {
    if (this.table.length < 2 * this.count + 2) this.rehash();
    const mask = this.table.length - 1;
    for (let at = textHash(text) & mask; this.table[at] !== 0; at = (at + 1) & mask)
      if (this.texts.get(this.table[at] - 1) === text) return this.table[at] - 1;
    return undefined;
  }

  /** @returns the number that the text gets; it must not have one */
  add(text: string): number {
    const number = this.texts.add(text);
    if (this.table.length < 2 * this.count + 2) this.rehash();
    else {
      if (this.isShared) this.table = this.table.slice();
      this.isShared = false;
      this.enter(number);
    }
    return number;
  }

  /** The number of a text; it gets one where it has none. */
  numberOf(text: string): number {
    return this.find(text) ?? this.add(text);
  }

  pack(): PackedTexts {
    return this.texts.pack();
  }

  [Symbol.iterator]() {
    return this.texts[Symbol.iterator]();
  }

  private rehash() {
    let length = 16;
    while (length < 4 * this.count) length *= 2;
    this.table = new Int32Array(length);
    this.isShared = false;
    for (let number = 0; number < this.count; number++) this.enter(number);
  }

  private enter(number: number) {
    const mask = this.table.length - 1;
    let at = textHash(this.texts.get(number)) & mask;
    while (this.table[at] !== 0) at = (at + 1) & mask;
    this.table[at] = number + 1;
  }
}

/** Looked up once: this runs for every letter of every id. */
const { imul } = Math;

/** FNV-1a over UTF-16 units, with the high bits folded down (G. Fowler, L. C. Noll, K.-P. Vo; public domain). */
export function textHash(text: string): number {
  let sum = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) sum = imul(sum ^ text.charCodeAt(i), 0x01000193);
  return sum ^ (sum >>> 15);
}

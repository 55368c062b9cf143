import { byText, fold } from "../text/text";

export interface RankedColumns {
  /** By number. */
  texts: string[];
  /** Null until somebody asks after a text was added. */
  ranks: Uint32Array | null;
}

/** Numbered texts, and the rank of each in the order of all. */
export class RankedTexts {
  private known: Map<string, number> | undefined;
  private readonly texts: string[];
  private ranked: Uint32Array | undefined;

  constructor({ texts, ranks }: RankedColumns = { texts: [], ranks: null }) {
    this.texts = texts;
    this.ranked = ranks ?? undefined;
  }

  /** All of it, to be kept and given to another one later. */
  columns(): RankedColumns {
    return { texts: this.texts, ranks: this.ranked ?? null };
  }

  private get numbers(): Map<string, number> {
    return (this.known ??= new Map(this.texts.map((text, number) => [text, number])));
  }

  get count(): number {
    return this.texts.length;
  }

  /** The number of a text; a new one if it has none yet. */
  number(text: string): number {
    let number = this.numbers.get(text);
    if (number === undefined) {
      number = this.texts.push(text) - 1;
      this.numbers.set(text, number);
      this.ranked = undefined;
    }
    return number;
  }

  get(number: number): string {
    return this.texts[number];
  }

  all(): readonly string[] {
    return this.texts;
  }

  /** By number: the rank of each text; texts that differ only in case or marks have one rank. */
  get ranks(): Uint32Array {
    return (this.ranked ??= this.rank());
  }

  private rank(): Uint32Array {
    const folded = this.texts.map(fold);
    const order = Array.from(folded.keys()).sort((a, b) => byText(folded[a], folded[b]));
    const ranks = new Uint32Array(order.length);
    for (let i = 1; i < order.length; i++)
      ranks[order[i]] = ranks[order[i - 1]] + (folded[order[i]] === folded[order[i - 1]] ? 0 : 1);
    return ranks;
  }
}

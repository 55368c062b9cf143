import { grown } from "../estate/grow";
import { type Part, PARTS } from "./event";

type Columns = Record<Part, Uint32Array>;

/**
 * Leads from each event to the previous one about the same thing in the same part, so that events about something rare
 * are found without looking at all the others. Rows are stored as their number plus one; 0 is none.
 */
export class Chains {
  private readonly before = columns();
  /** By the number of what is spoken of. */
  private readonly newest = columns();
  /** How many rows are linked. */
  private length = 0;

  /** Takes out the rows from a given one on. To be called while their parts are still in place. */
  cut(parts: Columns, from: number) {
    for (const part of PARTS) {
      const [column, before, newest] = [parts[part], this.before[part], this.newest[part]];
      for (let row = this.length - 1; row >= from; row--) newest[column[row]] = before[row];
    }
    this.length = Math.min(this.length, from);
  }

  /** Links all rows up to a number of them. @param things how many numbers there are of what is spoken of */
  link(parts: Columns, length: number, things: number) {
    for (const part of PARTS) {
      this.before[part] = grown(this.before[part], length);
      this.newest[part] = grown(this.newest[part], things);
      const [column, before, newest] = [parts[part], this.before[part], this.newest[part]];
      for (let row = this.length; row < length; row++) {
        before[row] = newest[column[row]];
        newest[column[row]] = row + 1;
      }
    }
    this.length = length;
  }

  /**
   * Rows about some things in some parts, in rising order, each once; null if there are more than the limit.
   * @param from only rows from here on, and before `to`
   */
  rowsOf(numbers: readonly number[], parts: readonly Part[], [from, to]: readonly [number, number], most: number) {
    const rows: number[] = [];
    for (const part of parts)
      for (const number of numbers)
        for (let at = this.newest[part][number] ?? 0; at > from; at = this.before[part][at - 1]) {
          if (at <= to) rows.push(at - 1);
          if (rows.length > most) return null;
        }
    return Uint32Array.from(new Set(rows)).sort();
  }
}

function columns(): Columns {
  return { who: new Uint32Array(0), item: new Uint32Array(0), share: new Uint32Array(0), whom: new Uint32Array(0) };
}

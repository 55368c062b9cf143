import { type Column, grown } from "./grow";

/**
 * Something that is kept in columns. A copy reads the same columns as what it was copied from; whichever of the two first
 * writes something else into one gets one of its own. Of most copies most columns are never written to, so that a past
 * day takes little more room than what was otherwise on it. What is declared `Readonly` is written to only from here.
 */
export abstract class Columns<Name extends string> {
  /** Columns that others may read too. */
  private readonly common = new Set<Name>();
  /** How long all columns are that grow together, as far as it is known. */
  private room = 0;

  private get columnsByName(): Record<Name, Column> {
    return this as unknown as Record<Name, Column>;
  }

  /** Puts a value into a column, unless it is there. */
  write(name: Name, at: number, value: number) {
    if (this.columnsByName[name][at] !== value) this.owned(name)[at] = value;
  }

  /** A column that nobody else reads, to be written to. */
  protected owned(name: Name): Column {
    if (this.common.size > 0 && this.common.delete(name)) this.columnsByName[name] = this.columnsByName[name].slice();
    return this.columnsByName[name];
  }

  /** Makes a column longer, where it is shorter. */
  protected lengthen(name: Name, length: number) {
    const before = this.columnsByName[name];
    const longer = grown(before, length);
    if (longer === before) return;
    this.columnsByName[name] = longer;
    this.common.delete(name);
  }

  /** Makes columns that grow together longer, where they are shorter. */
  protected lengthenAll(names: readonly Name[], length: number) {
    // Asked for each slot, nearly always for nothing.
    if (length <= this.room) return;
    for (const name of names) this.lengthen(name, length);
    this.room = Math.min(...names.map((name) => this.columnsByName[name].length));
  }

  /** Has a copy read some of the columns that are read here. */
  protected lend(copy: Columns<Name>, names: readonly Name[]) {
    for (const name of names) {
      copy.columnsByName[name] = this.columnsByName[name];
      copy.common.add(name);
      this.common.add(name);
    }
  }
}

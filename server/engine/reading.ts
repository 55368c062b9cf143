import SQLite from "better-sqlite3";
import { Kysely, sql, SqliteDialect } from "kysely";
import { existsSync } from "node:fs";
import { rm } from "node:fs/promises";
import { crc32 } from "node:zlib";
import type { Settled } from "@/core/estate/estate";
import type { PhraseHits } from "@/core/query/phrases";
import type { Register } from "@/core/register/register";
import { COLUMN_NAMES, columnOf, type RegisterRow } from "@/core/register/columns";
import { emptyRow, glanceAt, listedAt } from "@/core/register/row";
import { piecesOf, wordsIn } from "@/core/text/text";
import { isAmong } from "../platform/db/among";

/**
 * A copy of the register made for reading: a table of the rows as they are shown, and an index of the words in
 * names and addresses (FTS5). It belongs to the engine alone, and can be thrown away: whatever it lacks is written
 * again.
 */
interface ReadingSchema {
  shown: { slot: number };
  word_sum: { id: number; sum: number };
  words: { rowid: number; words: string };
}

/** One share: what the columns of the register say is copied, by their names. */
type Shown = Record<string, string | number | null>;

const COPIED = COLUMN_NAMES.flatMap((name) => {
  const { of, copied } = columnOf(name);
  return copied ? [{ name, of, ...copied }] : [];
});
/** What follows from the estate as it is. */
const FOLLOWING = COLUMN_NAMES.filter((name) => columnOf(name).copied === null).map(
  (name) => [name, columnOf(name).of] as const,
);
const SHOWN = ["slot", ...COPIED.map(({ name }) => name)];

/** What a row of the index is about: its id is four times an index, and this. */
const KINDS = { item: 0, person: 1, group: 2, store: 3 } as const;
const TABLES = `
  create table shown (slot integer primary key, ${COPIED.map(({ name, sql }) => `${name} ${sql}`).join()});
  create table word_sum (id integer primary key, sum integer);
  create virtual table words using fts5 (name, other, content = '', contentless_delete = 1,
    prefix = '2 3', tokenize = "ascii")`;
/** To be raised where values come to be written otherwise in the same tables. */
const FORMAT = 4;
/** SQLite keeps 32 bits, with a sign. */
const VERSION = crc32(`${FORMAT} ${TABLES}`) | 0;

export class Reading {
  /** By id in the index: a sum over the words that stand there. */
  private readonly sums = new Map<number, number>();
  private peopleKnown = 0;
  /** What is run hundreds of thousands of times when an estate is first taken over. */
  private readonly statements: Record<"remove" | "show" | "index" | "keepSum", SQLite.Statement>;

  private constructor(
    private readonly connection: SQLite.Database,
    private readonly db: Kysely<ReadingSchema>,
  ) {
    this.statements = {
      remove: connection.prepare("delete from shown where slot = ?"),
      show: connection.prepare(
        `insert or replace into shown (${SHOWN.join()}) values (${SHOWN.map((name) => `@${name}`).join()})`,
      ),
      index: connection.prepare("insert or replace into words (rowid, name, other) values (?, ?, ?)"),
      keepSum: connection.prepare("insert or replace into word_sum (id, sum) values (?, ?)"),
    };
  }

  /** @param path of the file; ":memory:" for one that isn't kept */
  static async open(path: string): Promise<Reading> {
    const connection = await openCopy(path);
    const reading = new Reading(connection, kyselyOf(connection));
    for (const { id, sum } of await reading.db.selectFrom("word_sum").selectAll().execute()) reading.sums.set(id, sum);
    return reading;
  }

  close(): Promise<void> {
    return this.db.destroy();
  }

  /**
   * Takes over what has changed.
   * @param changed slots of shares; null for all of them
   */
  take(register: Register, changed: readonly number[] | null, { whole, renamed }: Settled) {
    const slots = changed ?? Array.from({ length: register.length }, (_, slot) => slot);
    const known = whole || changed === null ? 0 : this.peopleKnown;
    this.connection.transaction(() => {
      if (changed === null) this.connection.exec("delete from shown");
      this.show(register, slots);
      this.index(wordsToIndex(register, slots, renamed, known));
    })();
    this.peopleKnown = register.estate.people.length;
  }

  private show(register: Register, slots: readonly number[]) {
    const { remove, show } = this.statements;
    for (const slot of slots)
      if (register.isKnown(slot)) show.run(shownRow(register, slot));
      else remove.run(slot);
  }

  private index(words: Iterable<[id: number, name: string, other: string]>) {
    const { index, keepSum } = this.statements;
    for (const [id, name, other] of words) {
      const sum = sumOf(`${name}\n${other}`);
      if (this.sums.get(id) === sum) continue;
      this.sums.set(id, sum);
      index.run(id, indexed(name), indexed(other));
      keepSum.run(id, sum);
    }
  }

  /** The rows of some shares, in the order asked for. */
  async rows(register: Register, slots: ArrayLike<number>): Promise<RegisterRow[]> {
    const wanted = Array.from(slots);
    const found = await this.db.selectFrom("shown").selectAll().where(isAmong("slot", wanted)).execute();
    const rows = new Map(found.map((row) => [row.slot, rowFrom(register, row as Shown & { slot: number })]));
    return wanted.map((slot) => rows.get(slot)!);
  }

  /** Where a phrase stands: its words one after the other, the last of them perhaps only begun. */
  async find({ estate }: Register, phrase: string): Promise<PhraseHits> {
    // Letters and digits alone come into the text of the search, whatever was typed.
    const match = `"${indexed(phrase)}" *`;
    // Kysely has no words for FTS5.
    const { rows } = await sql<{
      ids: string | null;
    }>`select group_concat(rowid) as ids from words where words match ${match}`.execute(this.db);
    const lists: number[][] = [[], [], [], []];
    for (const id of JSON.parse(`[${rows[0].ids ?? ""}]`) as number[]) lists[id & 3].push(id >> 2);
    const stores = [...estate.stores.keys()];
    return {
      items: lists[KINDS.item],
      people: lists[KINDS.person],
      groups: lists[KINDS.group],
      stores: lists[KINDS.store].map((index) => stores[index]),
    };
  }
}

async function openCopy(path: string): Promise<SQLite.Database> {
  const isKept = isSound(path);
  if (!isKept) for (const ending of ["", "-wal", "-shm"]) await rm(path + ending, { force: true });
  const connection = new SQLite(path);
  connection.pragma("journal_mode = WAL");
  connection.pragma("synchronous = OFF");
  // Rows of a page lie all over a large file: read as memory, each takes no call of its own.
  connection.pragma(`mmap_size = ${2 ** 31}`);
  if (!isKept) connection.exec(`${TABLES}; pragma user_version = ${VERSION}`);
  return connection;
}

/** A copy that a crash has spoiled, or that was made by another version, is made again. */
function isSound(path: string): boolean {
  if (path === ":memory:" || !existsSync(path)) return false;
  const connection = new SQLite(path);
  try {
    return (
      connection.pragma("user_version", { simple: true }) === VERSION &&
      connection.pragma("quick_check", { simple: true }) === "ok"
    );
  } catch {
    // SQLite doesn't take it for a database at all.
    return false;
  } finally {
    connection.close();
  }
}

function kyselyOf(connection: SQLite.Database) {
  return new Kysely<ReadingSchema>({ dialect: new SqliteDialect({ database: connection }) });
}

function shownRow(register: Register, slot: number): Shown {
  const one = listedAt(register, slot);
  const row: Shown = { slot };
  for (const { name, of, write } of COPIED) row[name] = write(of(one) as never);
  return row;
}

function rowFrom(register: Register, stored: Shown & { slot: number }): RegisterRow {
  const row = emptyRow();
  for (const { name, read } of COPIED) row[name] = read(stored[name] as never);
  if (FOLLOWING.length > 0) {
    const one = glanceAt(register, stored.slot);
    for (const [name, of] of FOLLOWING) row[name] = of(one);
  }
  return row as RegisterRow;
}

/**
 * What is to be found by words: items that shares sit on, and all above them; people, groups, stores.
 * @param peopleKnown how many people are in the index as they are now; 0 where anybody, and any group, may have changed
 */
function* wordsToIndex(
  register: Register,
  slots: readonly number[],
  renamed: readonly number[],
  peopleKnown: number,
): Generator<[id: number, name: string, other: string]> {
  const { tree, shares, items, people, principals, stores } = register.estate;
  const seen = new Uint8Array(tree.length);
  for (const slot of slots)
    for (
      let at = register.isKnown(slot) ? shares.position[slot] : -1;
      at >= 0 && seen[at] === 0;
      at = tree.parent[at]
    ) {
      seen[at] = 1;
      yield [tree.slotAt[at] * 4 + KINDS.item, tree.nameAt(at), ""];
    }
  for (const item of renamed) yield [item * 4 + KINDS.item, items.names.get(item), ""];
  for (const { index, name, address } of people.slice(peopleKnown))
    yield [index * 4 + KINDS.person, name === address ? "" : name, address];
  if (peopleKnown > 0) return;
  for (const [index, { name }] of principals.groups.entries()) yield [index * 4 + KINDS.group, name, ""];
  for (const [index, { name }] of [...stores.values()].entries()) yield [index * 4 + KINDS.store, name, ""];
}

/** A text as the index has it: our own words and pieces, which its tokenizer parts at spaces and nowhere else. */
function indexed(text: string): string {
  return piecesOf(wordsIn(text)).join(" ");
}

/** FNV-1a over UTF-16 units (G. Fowler, L. C. Noll, K.-P. Vo; public domain). */
function sumOf(text: string): number {
  let sum = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) sum = Math.imul(sum ^ text.charCodeAt(i), 0x01000193);
  return sum >>> 0;
}

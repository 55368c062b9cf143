import SQLite from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect, sql } from "kysely";
import { setTimeout } from "node:timers/promises";
import pLimit, { type LimitFunction } from "p-limit";
import { breathe } from "../breathe";
import { Clock } from "../clock";
import { migrations } from "./migrations";
import type { Schema } from "./schema";
import { preparingOnce } from "./statements";

declare const inTransaction: unique symbol;

/** What comes with a database, within a transaction or outside one. */
interface Own {
  readonly sqlite: SQLite.Database;
  /** A prepared statement that is kept, for what is done so often that building its query would matter. */
  prepare(text: string): SQLite.Statement<unknown[]>;
  /** The application's clock, since whatever is written says when. */
  readonly clock: Clock;
  /** Runs transactions one after the other, so that a reader waits for one of them at most, not for the whole queue. */
  readonly inTurn: LimitFunction;
}

/** The database outside a transaction. What can be called either way takes a `Reads`. */
export type Db = Kysely<Schema> & Own & { readonly [inTransaction]?: never };

/**
 * The database within a transaction that is committed whole or not at all. What must not happen outside one takes
 * this: the compiler then sees to it that it is called within `writing`.
 */
export type Tx = Kysely<Schema> & Own & { readonly [inTransaction]: true };

/** The database, within a transaction or outside one. */
export type Reads = Db | Tx;

/** How long a write waits for those of another thread or process, and how often it checks whether they are done. */
const [PATIENCE_MS, RETRY_MS] = [10_000, 5];

/** Opens a database file, or makes it, and takes the steps that it hasn't taken yet. */
export async function openDatabase(path: string, clock = new Clock()): Promise<Db> {
  const connection = new SQLite(path, { timeout: PATIENCE_MS });
  connection.pragma("journal_mode = WAL");
  connection.pragma("foreign_keys = ON");
  const database = preparingOnce(connection);
  const db = new Kysely<Schema>({ dialect: new SqliteDialect({ database }) });
  const { error } = await new Migrator({ db, provider: { getMigrations: async () => migrations } }).migrateToLatest();
  if (error) throw error;
  return Object.assign(db, { sqlite: connection, prepare: database.prepare, clock, inTurn: pLimit(1) });
}

/** Another connection that only reads: while a statement is gone through row by row, its connection does nothing else. */
export function besides({ sqlite }: Reads): SQLite.Database {
  return new SQLite(sqlite.name, { readonly: true, timeout: PATIENCE_MS });
}

/**
 * Runs work that writes, whole or not at all. It takes the write lock at once: a transaction that
 * reads first and writes later could be refused when another process wrote in between.
 */
export function writing<T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> {
  return db.inTurn(async () => {
    await breathe();
    const end = performance.now() + PATIENCE_MS;
    for (;;) {
      const done = await db
        .connection()
        .execute(
          async (connection) =>
            isBegun(db, performance.now() < end) && { result: await committed(db, connection, work) },
        );
      if (done) return done.result;
      await setTimeout(RETRY_MS);
    }
  });
}

/**
 * Takes the write lock. SQLite itself would wait for another thread or process by blocking this one, and nobody would be
 * answered meanwhile: so it is only tried here.
 * @returns false where another has the lock, and there is time to try again
 */
function isBegun({ sqlite }: Db, hasTime: boolean): boolean {
  sqlite.pragma("busy_timeout = 0");
  try {
    sqlite.exec("begin immediate");
    return true;
  } catch (error) {
    if (!hasTime || !(error as { code?: string }).code?.startsWith("SQLITE_BUSY")) throw error;
    return false;
  } finally {
    sqlite.pragma(`busy_timeout = ${PATIENCE_MS}`);
  }
}

async function committed<T>(db: Db, connection: Kysely<Schema>, work: (tx: Tx) => Promise<T>): Promise<T> {
  try {
    const { sqlite, prepare, clock, inTurn } = db;
    const result = await work(Object.assign(connection, { sqlite, prepare, clock, inTurn }) as Tx);
    await sql`commit`.execute(connection);
    return result;
  } catch (error) {
    // On a full disk SQLite has rolled back already and says so; the error that counts is the first.
    await sql`rollback`.execute(connection).catch(() => undefined);
    throw error;
  }
}

/** Runs one statement with the values of each row, which for thousands of rows is much cheaper than building queries. */
export function runForEach(db: Reads, text: string, rows: readonly (string | number | null)[][]) {
  const statement = db.sqlite.prepare(text);
  for (const row of rows) statement.run(row);
}

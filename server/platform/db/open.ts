import SQLite from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect, sql } from "kysely";
import { join } from "node:path";
import { settings } from "../settings";
import { migrations } from "./migrations";
import type { Schema } from "./schema";
import { keepConnection, preparingOnce } from "./statements";

declare const inTransaction: unique symbol;

/** The database, outside a transaction. What may be called either way asks for a `Reads`. */
export type Db = Kysely<Schema> & { readonly [inTransaction]?: never };

/**
 * The database within a transaction that will be committed whole or not at all. What must not happen by itself asks for
 * this: the compiler then sees to it that it is called within `writing`.
 */
export type Tx = Kysely<Schema> & { readonly [inTransaction]: true };

/** The database, within a transaction or outside one. */
export type Reads = Db | Tx;

// Next compiles routes and start-up apart from each other; the process has one connection all the same.
const shared = globalThis as { latchDatabase?: Promise<Db> };

/** The database of this process, opened and brought up to date at the first call. */
export function database(): Promise<Db> {
  return (shared.latchDatabase ??= openDatabase(databasePath()));
}

export function databasePath(): string {
  return join(settings().data, "latch.sqlite");
}

/** Opens a database file, or makes it, and takes the steps that it hasn't taken yet. */
export async function openDatabase(path: string): Promise<Db> {
  const connection = new SQLite(path, { timeout: 10_000 });
  connection.pragma("journal_mode = WAL");
  connection.pragma("foreign_keys = ON");
  const db = new Kysely<Schema>({ dialect: new SqliteDialect({ database: preparingOnce(connection) }) });
  keepConnection(db, connection);
  const { error } = await new Migrator({ db, provider: { getMigrations: async () => migrations } }).migrateToLatest();
  if (error) throw error;
  return db;
}

/**
 * Runs work that writes, whole or not at all. It takes the write lock at once: a transaction that
 * reads first and writes later could be refused when another process wrote in between.
 */
export function writing<T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> {
  return db.connection().execute(async (connection) => {
    await sql`begin immediate`.execute(connection);
    try {
      const result = await work(connection as Tx);
      await sql`commit`.execute(connection);
      return result;
    } catch (error) {
      // On a full disk SQLite has rolled back already and says so; what is told is why.
      await sql`rollback`.execute(connection).catch(() => undefined);
      throw error;
    }
  });
}

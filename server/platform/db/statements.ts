import type SQLite from "better-sqlite3";
import type { SqliteDatabase } from "kysely";
import type { Db, Reads } from "./open";

const MOST_KEPT = 300;

/** A connection that keeps the statements which it has prepared: what is asked again and again isn't parsed again. */
export function preparingOnce(connection: SQLite.Database): SqliteDatabase {
  const kept = new Map<string, SQLite.Statement>();
  return {
    close: () => connection.close(),
    prepare(text) {
      let statement = kept.get(text);
      if (!statement) {
        if (kept.size === MOST_KEPT) kept.delete(kept.keys().next().value!);
        kept.set(text, (statement = connection.prepare(text)));
      }
      return statement;
    },
  };
}

// Next compiles routes and start-up apart from each other; what one of them opened the other uses.
const shared = globalThis as { latchConnections?: WeakMap<object, SQLite.Database> };
/** By what every view of one database has in common, within a transaction or not. */
const connections = (shared.latchConnections ??= new WeakMap());

export function keepConnection(db: Db, connection: SQLite.Database) {
  connections.set(db.getExecutor().adapter, connection);
}

/** Runs one statement with the values of each row, which for thousands of rows is much cheaper than building queries. */
export function runForEach(db: Reads, text: string, rows: readonly (string | number)[][]) {
  const statement = connections.get(db.getExecutor().adapter)!.prepare(text);
  for (const row of rows) statement.run(row);
}

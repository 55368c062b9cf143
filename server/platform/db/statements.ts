import type SQLite from "better-sqlite3";
import type { SqliteDatabase } from "kysely";

const MOST_KEPT = 300;

/** A connection that keeps its prepared statements, so that what is asked repeatedly isn't parsed again. */
export function preparingOnce(
  connection: SQLite.Database,
): SqliteDatabase & { prepare(text: string): SQLite.Statement<unknown[]> } {
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

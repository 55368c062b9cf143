import { type RawBuilder, sql } from "kysely";

/** Whether a column has one of some values. They are bound as one: any number will do, and the statement stays the same. */
export function isAmong(column: string, values: readonly (string | number)[]): RawBuilder<boolean> {
  return sql<boolean>`${sql.ref(column)} in (select value from json_each(${JSON.stringify(values)}))`;
}

import { readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { openDatabase } from "./open";

/** The types that queries are checked by, held against the tables that the migrations make. */
const source = ts.createSourceFile(
  "schema.ts",
  readFileSync(join(__dirname, "schema.ts"), "utf8"),
  ts.ScriptTarget.Latest,
  true,
);

const SIGN_IN_TABLES = ["user", "account", "session", "twoFactor", "passkey"];

type Column = { name: string; type: string };

function interfaces(): Map<string, Column[]> {
  const found = new Map<string, Column[]>();
  for (const statement of source.statements)
    if (ts.isInterfaceDeclaration(statement))
      found.set(
        statement.name.text,
        statement.members.filter(ts.isPropertySignature).map((member) => ({
          name: member.name.getText().replaceAll('"', ""),
          type: member.type!.getText(),
        })),
      );
  return found;
}

const known = interfaces();
const tables = known.get("Schema")!.map(({ name, type }) => ({ table: name, columns: known.get(type)! }));

test.each(tables)("$table is as its type says", async ({ table, columns }) => {
  const db = await openDatabase(":memory:");
  const rows = db.sqlite.pragma(`table_info("${table}")`) as {
    name: string;
    type: string;
    notnull: number;
    pk: number;
  }[];
  expect(rows.length).toBeGreaterThan(0);
  // What the sign-in package keeps of people is its own; we name what we read.
  const ours = SIGN_IN_TABLES.includes(table)
    ? rows.filter(({ name }) => columns.some((one) => one.name === name))
    : rows;
  expect(columns.map(({ name }) => name).sort()).toEqual(ours.map(({ name }) => name).sort());
  for (const row of ours) {
    const { type } = columns.find(({ name }) => name === row.name)!;
    expect([row.name, /\bnull\b/.test(type)]).toEqual([row.name, row.notnull === 0 && row.pk === 0]);
    if (/int|real/i.test(row.type))
      expect([row.name, type]).toEqual([row.name, expect.stringMatching(/number|0 \| 1/)]);
    else expect([row.name, /\bnumber\b/.test(type)]).toEqual([row.name, false]);
  }
  await db.destroy();
});

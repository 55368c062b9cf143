import SQLite from "better-sqlite3";
import { type Order, SORTS } from "../core/query/order";
import { printQuery } from "../core/query/print";
import type { Term } from "../core/query/query";
import { COLUMN_NAMES } from "../core/register/columns";
import { registerRow } from "../core/register/row";
import type { Register } from "../core/register/register";
import { Random } from "../demo/random";
import { DAY } from "../core/time/instant";

/** A query with its order, and the same as SQL over the table of the copy for reading. */
export interface MixedQuery {
  query: string;
  order: Order;
  where: string;
  orderBy: string;
}

type Part = (random: Random, t: number) => { term: Term; sql: string };

const choice = (field: string, values: readonly string[], column = field): Part => {
  return (random) => {
    const text = random.pick([...values]);
    const term = { kind: "choice", field, values: [{ text, exact: true }], negated: false } as Term;
    return { term, sql: `${column} = '${text}'` };
  };
};
const listed = (field: string, values: readonly string[], column: string): Part => {
  return (random) => {
    const text = random.pick([...values]);
    const term = { kind: "choice", field, values: [{ text, exact: true }], negated: false } as Term;
    return { term, sql: `${column} like '%"${text}"%'` };
  };
};
const older = (field: "made" | "used", column: string): Part => {
  return (random, t) => {
    const days = random.between(30, 400);
    const term: Term = {
      kind: "moment",
      field,
      test: { kind: "age", comparison: ">", seconds: days * DAY },
      negated: false,
    };
    return { term, sql: `${column} < ${t - days * DAY}` };
  };
};

/** Conditions of all kinds, each as likely as the others. */
const PARTS: Part[] = [
  choice("reach", ["open", "named", "person", "group"], "way"),
  choice("role", ["view", "comment", "edit"]),
  choice("label", ["public", "internal", "confidential", "restricted"]),
  choice("risk", ["low", "moderate", "high", "very-high"]),
  choice("outside", ["yes"], "case outside when 1 then 'yes' else 'no' end"),
  choice(
    "department",
    Array.from({ length: 40 }, (_, i) => `Department ${i}`),
  ),
  listed("rule", ["dormant", "open-expiry", "never-used", "folder-wide"], "rules"),
  listed(
    "organisation",
    Array.from({ length: 50 }, (_, i) => `org${i}.example`),
    "organisations",
  ),
  older("made", "made"),
  older("used", "lastUsed"),
  (random, t) => {
    const days = random.between(10, 90);
    const term: Term = {
      kind: "moment",
      field: "ends",
      test: { kind: "age", comparison: "<", seconds: days * DAY },
      negated: false,
    };
    return { term, sql: `expires < ${t + days * DAY}` };
  },
  (random) => {
    const count = random.between(1, 40);
    return { term: { kind: "count", field: "items", comparison: ">", count, negated: false }, sql: `items > ${count}` };
  },
  (random) => {
    const count = random.between(0, 3);
    return {
      term: { kind: "count", field: "findings", comparison: ">", count, negated: false },
      sql: `findings > ${count}`,
    };
  },
];

const RISK =
  "case risk when 'very-high' then 5 when 'high' then 4 when 'moderate' then 3 when 'low' then 2 when 'very-low' then 1 else 0 end";
const ROLE = "case role when 'view' then 0 when 'comment' then 1 when 'edit' then 2 when 'manage' then 3 else 4 end";
/** The orders as they are unreversed. */
const SQL_ORDERS: Record<(typeof SORTS)[number], [expression: string, isDescending: boolean][]> = {
  risk: [
    [RISK, true],
    ["findings", true],
  ],
  item: [["lower(itemName)", false]],
  for: [["lower(audience)", false]],
  role: [[ROLE, true]],
  ends: [["expires", false]],
  used: [["coalesce(lastUsed, 0)", false]],
  made: [["made", true]],
  maker: [["lower(maker)", false]],
  findings: [["findings", true]],
  items: [["items", true]],
};

/** None to four conditions, and any order that is offered. */
export function mixedQuery(random: Random, t: number): MixedQuery {
  const parts = Array.from({ length: random.between(0, 4) }, () => random.pick(PARTS)(random, t));
  const [by, second] = [random.pick([...SORTS]), random.pick([...SORTS])];
  const order: Order = [
    { by, reversed: random.chance(0.5) },
    ...(second !== by && random.chance(0.3) ? [{ by: second, reversed: random.chance(0.5) }] : []),
  ];
  const orderBy = order.flatMap(({ by, reversed }) =>
    SQL_ORDERS[by].map(([expression, isDescending]) => `${expression} ${isDescending !== reversed ? "desc" : "asc"}`),
  );
  return {
    query: printQuery(parts.map(({ term }) => term)),
    order,
    where: parts.map(({ sql }) => sql).join(" and ") || "1",
    orderBy: [...orderBy, "slot"].join(", "),
  };
}

/** A table of the rows as they are shown, with the figures that only the register holds, and with indexes as SQL would want them. */
export function readingInSql(path: string, register: Register): SQLite.Database {
  const db = new SQLite(path);
  db.pragma("synchronous = off");
  const names = [...COLUMN_NAMES, "items", "findings"];
  db.exec(`create table shown (slot integer primary key, ${names.join()})`);
  const insert = db.prepare(`insert into shown values (${["slot", ...names].map(() => "?").join()})`);
  db.transaction(() => {
    for (let slot = 0; slot < register.length; slot++) {
      if (!register.isKnown(slot)) continue;
      const row = registerRow(register, slot);
      insert.run(slot, ...COLUMN_NAMES.map((name) => inSql(row[name])), register.items[slot], register.findings[slot]);
    }
  })();
  for (const column of ["way", "risk", "expires", "lastUsed", "made", "department", "itemName"])
    db.exec(`create index by_${column} on shown (${column})`);
  return db;
}

/** Lists and the like as JSON. */
function inSql(value: unknown): unknown {
  if (typeof value === "boolean") return Number(value);
  return typeof value === "object" && value !== null ? JSON.stringify(value) : value;
}

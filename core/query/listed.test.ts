import fc from "fast-check";
import { DAY } from "../time/instant";
import type { Fields } from "./fields";
import { type Asks, listed } from "./listed";
import { parseQuery, parseQueryOf } from "./parse";

interface Row {
  name: string;
  colours: string[];
  count: number;
  made: number | null;
  ends: number | null;
}

const T = 1_000 * DAY;
const FIELDS = {
  colour: { kind: "choice", help: "", values: ["red", "blue"] },
  name: { kind: "choice", help: "" },
  count: { kind: "count", help: "" },
  made: { kind: "moment", help: "", direction: "past" },
  ends: { kind: "moment", help: "", direction: "ahead" },
} as const satisfies Fields;
const ASKS: Asks<Row> = {
  words: ({ name }) => [name],
  choice: { colour: ({ colours }) => colours, name: ({ name }) => [name] },
  count: { count: ({ count }) => count },
  moment: { made: ({ made }) => made, ends: ({ ends }) => ends },
};
const row = (name: string, more: Partial<Row> = {}): Row => ({
  ...{ name, colours: [], count: 0, made: null, ends: null, ...more },
});
const ROWS = [
  row("Quay Hall", { colours: ["red"], count: 3, made: T - 10 * DAY, ends: T + 5 * DAY }),
  row("Straße-Süd", { colours: ["red", "blue"], count: 7, made: T - 40 * DAY }),
  row("quayside.example", { ends: T - DAY }),
];
const names = (query: string) => {
  const { terms, problems } = parseQueryOf(query, FIELDS);
  expect(problems).toEqual([]);
  return listed(ROWS, terms, { fields: FIELDS, asks: ASKS }, T).map(({ name }) => name);
};

test.each([
  ["", ["Quay Hall", "Straße-Süd", "quayside.example"]],
  ["quay", ["Quay Hall", "quayside.example"]],
  ["side", []],
  ['"quay hall"', ["Quay Hall"]],
  ["strasse", ["Straße-Süd"]],
  ["-quay", ["Straße-Süd"]],
  ["hall,sud", ["Quay Hall", "Straße-Süd"]],
  ["colour:red", ["Quay Hall", "Straße-Süd"]],
  ["colour:blue,none", ["Straße-Süd", "quayside.example"]],
  ["-colour:blue", ["Quay Hall", "quayside.example"]],
  ["name:side", ["quayside.example"]],
  ['name:"quayside"', []],
  ["count:>3", ["Straße-Süd"]],
  ["count:<=3 colour:red", ["Quay Hall"]],
  ["made:<20d", ["Quay Hall"]],
  ["made:>20d", ["Straße-Süd"]],
  ["made:never", ["quayside.example"]],
  ["ends:<7d", ["Quay Hall", "quayside.example"]],
  // What has no end, ends later than any day.
  ["ends:>7d", ["Straße-Süd"]],
])("%s finds %j", (query, found) => {
  expect(names(query)).toEqual(found);
});

test("a day is a day: before it, on it, and after it are all there is", () => {
  const days = fc.integer({ min: -3, max: 3 }).map((day) => T + day * DAY);
  const text = new Date(T * 1_000).toISOString().slice(0, 10);
  fc.assert(
    fc.property(fc.tuple(days, fc.nat({ max: DAY - 1 })), ([from, more]) => {
      const at = [row("one", { made: from + more })];
      const meets = (comparison: string) =>
        listed(at, parseQueryOf(`made:${comparison}${text}`, FIELDS).terms, { fields: FIELDS, asks: ASKS }, T).length;
      const [before, on, after] = [meets("<"), meets("="), meets(">")];
      expect(before + on + after).toBe(1);
      expect([meets("<="), meets(">=")]).toEqual([before + on, on + after]);
      expect(on).toBe(from === T ? 1 : 0);
    }),
  );
});

test("a field of another list is not understood, and told with the nearest of its own", () => {
  expect(parseQueryOf("reach:open colours:red", FIELDS).problems.map(({ instead }) => instead)).toEqual([
    expect.any(String),
    "colour",
  ]);
  expect(parseQuery("colour:red").problems).toHaveLength(1);
});

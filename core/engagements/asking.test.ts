import { parse } from "csv-parse/sync";
import { listPage } from "../query/listed";
import { DAY } from "../time/instant";
import { engagementAskable, type EngagementLine } from "./asking";
import { engagementsCsv } from "./table";

const T = 20_000 * DAY;
const line = (name: string, more: Partial<EngagementLine>): EngagementLine => ({
  ...{ id: name, name, organisations: ["quay.example"], items: 1, starts: T - DAY, ends: T + DAY, shares: 0, used: 0 },
  ...{ responsible: "ida@home.example", ...more },
});
const LINES = [
  line("Autumn tour", { shares: 4, used: 1 }),
  line("Spring tour", { starts: T + 60 * DAY, ends: T + 90 * DAY, organisations: ["quay.example", "lorry.example"] }),
  line("Programme book", { starts: T - 90 * DAY, ends: T - 5 * DAY, responsible: null, shares: 2 }),
];

test.each([
  ["state:running ends:<30d", ["Autumn tour"]],
  ["state:coming", ["Spring tour"]],
  ["state:over shares:>0", ["Programme book"]],
  ["organisation:lorry", ["Spring tour"]],
  ["answers:none", ["Programme book"]],
  ["tour used:0", ["Spring tour"]],
  ["starts:>30d", ["Programme book"]],
])("%s", (query, names) => {
  const { page, problems } = listPage(LINES, { query, from: 0, count: 10 }, engagementAskable(T), T);
  expect([page.map(({ name }) => name), problems]).toEqual([names, []]);
});

test("as CSV every project has a line, read back by another program", () => {
  const rows: Record<string, string>[] = parse(engagementsCsv(LINES), { bom: true, columns: true });
  expect(rows[1]).toMatchObject({ project: "Spring tour", organisations: "quay.example; lorry.example" });
  expect(rows.map((row) => [row["responsible"], row["shares now"]])).toEqual([
    ["ida@home.example", "4"],
    ["ida@home.example", "0"],
    ["", "2"],
  ]);
});

import { parse } from "csv-parse/sync";
import { listPage } from "../query/listed";
import { DAY } from "../time/instant";
import { LEAVER_ASKABLE } from "./asking";
import type { Leaver } from "./leavers";
import { leaversCsv } from "./table";

const T = 20_000 * DAY;
const none = { owned: 0, links: 0, grants: 0, groups: 0 };
const LEAVERS: Leaver[] = [
  {
    address: "may@home.example",
    name: "May",
    department: "Touring",
    status: "active",
    since: null,
    lastDay: T + 3 * DAY,
    ...none,
  },
  {
    address: "gus@home.example",
    name: "Gus",
    department: null,
    status: "left",
    since: T - 40 * DAY,
    lastDay: null,
    ...none,
    links: 2,
  },
  {
    address: "=off@home.example",
    name: "Zoë",
    department: "Press",
    status: "suspended",
    since: T - DAY,
    lastDay: null,
    ...none,
    owned: 12,
  },
];
const found = (query: string) => listPage(LEAVERS, { query, from: 0, count: 10 }, LEAVER_ASKABLE, T);

test.each([
  ["", ["May", "Gus", "Zoë"]],
  ["lastday:<14d", ["May"]],
  ["since:>30d links:>0", ["Gus"]],
  ["status:left,suspended", ["Gus", "Zoë"]],
  ["department:none", ["Gus"]],
  ["owns:>10 zoe", ["Zoë"]],
  ["-press", ["May", "Gus"]],
])("%s", (query, names) => {
  const { page, problems } = found(query);
  expect([page.map(({ name }) => name), problems]).toEqual([names, []]);
});

test("a page has its part of what is found; what isn't understood is told and narrows nothing", () => {
  expect(listPage(LEAVERS, { query: "", from: 1, count: 1 }, LEAVER_ASKABLE, T)).toEqual({
    ...{ total: 3, found: 3, page: [LEAVERS[1]], problems: [] },
  });
  expect(found("colour:red")).toMatchObject({ found: 3, problems: [{ from: 0, to: 6 }] });
});

test("as CSV every leaver has a line, read back by another program, and no cell runs as a formula", () => {
  const [heads, ...lines] = parse(leaversCsv(LEAVERS), { bom: true });
  expect(heads).toContain("live links");
  expect(lines.map(([name, address]: string[]) => [name, address])).toEqual([
    ["May", "may@home.example"],
    ["Gus", "gus@home.example"],
    ["Zoë", "'=off@home.example"],
  ]);
  expect(lines[0][heads.indexOf("last day")]).toBe("2024-10-07T00:00:00Z");
});

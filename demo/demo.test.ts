import { buildEstate } from "../core/estate/estate";
import { readEstateFile } from "../core/estate/estateFile";
import type { EstateRecord } from "../core/estate/records";
import { RULE_IDS } from "../core/rules/list";
import { findings, readRules } from "../core/rules/findings";
import { judge } from "../core/rules/judging";
import { seconds } from "../core/time/instant";
import { STORES } from "../standins/store/stores";
import { readPeopleList } from "../core/directory/list";
import { readingOf } from "../core/directory/reading";
import { peopleLists } from "./lists";
import { makeDemo } from "./scenario";

const NOW = "2026-11-23T09:14:00Z";
const demo = makeDemo(new Date(NOW));
const records: EstateRecord[] = [
  demo.house[0],
  ...Object.values(STORES),
  ...demo.directory,
  ...demo.items,
  ...demo.shares,
  ...demo.house.slice(1),
];
const estate = buildEstate(records);

test("the demo is an estate file without a fault", () => {
  const { problems, unknownFields } = readEstateFile(
    [...records, ...demo.events].map((record) => JSON.stringify(record)),
  );
  expect(problems).toEqual([]);
  expect(unknownFields.size).toBe(0);
});

test("it has the size that it should", () => {
  expect(demo.items.length).toBeGreaterThan(3_500);
  expect(demo.shares).toHaveLength(2_200);
  expect(demo.events).toHaveLength(25_000);
  expect(demo.directory.filter((one) => one.type === "person" && one.email.endsWith("@wrenmoor.example"))).toHaveLength(
    180,
  );
});

test("it is the same on every run for one day", () => {
  expect(makeDemo(new Date(NOW)).shares.slice(0, 50)).toEqual(demo.shares.slice(0, 50));
});

test("every address in it ends in .example", () => {
  const addresses = records.flatMap((one) =>
    one.type === "person" ? [one.email] : one.type === "link" ? one.recipients.map(({ email }) => email) : [],
  );
  expect(addresses.filter((address) => !address.endsWith(".example"))).toEqual([]);
});

test("its directory's lists tell of hires, moves, two who left with something left, and one who leaves tomorrow", () => {
  const lists = peopleLists(demo.directory, new Date(NOW));
  const [before, now] = [readPeopleList(lists.before), readPeopleList(lists.now)];
  expect([before.problems, before.remarks, now.problems]).toEqual([[], [], []]);
  const at = { kind: "people" as const, t: seconds(NOW), leftAfterDays: 14 };
  const first = readingOf(before, new Map(), at).people.map((one) => [one.email, one] as const);
  const reading = readingOf(now, new Map(first), at);
  expect(reading.counts).toMatchObject({ joins: 3, leaves: 2, changes: 2, "last-day": 1, returns: 0, suspended: 0 });
  for (const address of reading.inactive) {
    const person = estate.principals.findAddress(address)!;
    expect([...estate.tree.slotAt.keys()].filter((at) => estate.ownerAt(at) === person).length).toBeGreaterThan(5);
  }
});

test("nothing in it lies in the future that should not, and no event is older than fourteen months", () => {
  expect(demo.events.filter((event) => event.at > NOW || seconds(event.at) < seconds(NOW) - 430 * 86_400)).toEqual([]);
});

describe("it holds every kind of finding, several of each", () => {
  const judging = judge(estate, seconds(NOW));
  const extra = { "store-abroad": { regions: ["home"] } };
  const given = Object.fromEntries(RULE_IDS.map((id) => [id, extra[id as keyof typeof extra] ?? {}]));
  const all = findings(judging, readRules(given));
  test.each(RULE_IDS)("%s", (rule) => {
    expect(all.filter((finding) => finding.rule === rule).length).toBeGreaterThanOrEqual(2);
  });
  test("and plenty that is quite in order", () => {
    const bad = new Set(findings(judging).map((finding) => finding.subject));
    expect([...estate.allShares()].filter((share) => !bad.has(share.id)).length).toBeGreaterThan(700);
  });
});

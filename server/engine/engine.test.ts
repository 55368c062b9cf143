import type { Change } from "@/core/changes/change";
import { parseOrder } from "@/core/query/order";
import type { RegisterPage } from "@/core/query/page";
import { buildEstate } from "@/core/estate/estate";
import type { EstateRecord, ShareRecord } from "@/core/estate/records";
import { NEVER, seconds } from "@/core/time/instant";
import { head, inDays, item, file, grant, link, person, store, T } from "@/tests/records";
import { DEFAULT_RULES, type RuleSet } from "@/core/rules/findings";
import type { Waiver } from "@/core/rules/waivers";
import { Engine } from "./engine";
import { withRegister } from "./begun";
import type { Source } from "./source";

const base: EstateRecord[] = [
  head(),
  store(),
  person("in", "in@home.example"),
  person("out", "out@quay.example", { name: "Odo Quillby" }),
  item("a", null, { name: "Tour" }),
  ...Array.from({ length: 30 }, (_, i) => file(`f${i}`, "a", { name: `Plan ${String(i).padStart(2, "0")}` })),
  ...Array.from({ length: 30 }, (_, i) => link(`l${i}`, `f${i}`, { expiresAt: inDays(30 - i) })),
  grant("g", "a", "out"),
];
let records: EstateRecord[];
/** What has been put since the engine last asked. */
let put: EstateRecord[];
let waivers: Waiver[];
let rules: RuleSet;
let orders: Map<string, number>;
let engine: Engine;

/** Records held in an array, as the database would bring them. */
const source: Source = {
  begin: async () => withRegister(buildEstate(records)),
  changes: async () => ({ put: put.splice(0), removed: [] }),
  behind: async () => put.length,
  keep: async () => {},
  waivers: async () => waivers,
  rules: async () => rules,
  orders: async () => orders,
  confirmations: async () => new Map(),
  sameFirms: async () => [],
  lastDays: async () => new Map(),
  labelRules: async () => [],
  belief: async () => [],
  lookedUp: { docket: async (id) => (id === "d1" ? ["l2", "gone"] : []), round: async () => [] },
  history: async (id) =>
    records.filter((one) => "id" in one && one.id === id).map((record) => ({ record, from: 0, to: NEVER })),
  record: async (id) => (records.find((one) => "id" in one && one.id === id) as ShareRecord) ?? null,
};

beforeEach(async () => {
  records = [...base];
  put = [];
  waivers = [];
  rules = DEFAULT_RULES;
  orders = new Map();
  engine = new Engine(source);
  await engine.start();
});

const register = (query: string, from = 0, count = 10, order = "item", t = T) =>
  engine.register({ query, order: parseOrder(order)!, group: null, open: [], from, count }, t);
const idsOf = (page: RegisterPage) => page.page.map((line) => (line.kind === "share" ? line.row.id : line.key));

test("the register is paged, and counts all that a query finds", async () => {
  const first = await register("reach:open");
  const second = await register("reach:open", 10);
  const last = await register("reach:open", 25);
  expect([first.total, first.found, first.page.length, last.page.length]).toEqual([31, 30, 10, 5]);
  expect([...idsOf(first), ...idsOf(second)]).toEqual(Array.from({ length: 20 }, (_, i) => `l${i}`));
});

test("a share's sentences tell days by the clocks and in the style of whoever asks", async () => {
  records.push(link("late", "f0", { expiresAt: "2027-03-01T02:00:00Z" }));
  await engine.start();
  const told = async (zone: string, style: "day-first" | "month-first") => {
    const detail = await engine.share({ id: "late", dates: { zone, style } }, T);
    const reason = detail!.findings.find(({ rule }) => rule === "open-expiry")!.reason;
    return [/until (.*)\.$/.exec(detail!.sentence)![1], reason];
  };
  // Two hours into the first of March in UTC it is still February in New York.
  expect(await told("UTC", "day-first")).toEqual(["1 Mar 2027", "Ends on 1 Mar 2027; 30 days are allowed."]);
  expect(await told("America/New_York", "month-first")).toEqual([
    "Feb 28, 2027",
    "Ends on Feb 28, 2027; 30 days are allowed.",
  ]);
});

test("an order can be turned round", async () => {
  const ends = async (order: string) => idsOf(await register("reach:open", 0, 3, order));
  expect([await ends("ends"), await ends("-ends")]).toEqual([
    ["l29", "l28", "l27"],
    ["l0", "l1", "l2"],
  ]);
});

test("what was got ready while nobody asked changes no answer, and gives way to what has changed", async () => {
  const asked = {
    query: "",
    order: [{ by: "for" as const, reversed: true }],
    group: null,
    open: [],
    from: 0,
    count: 9,
  };
  const before = await engine.register(asked, T);
  await engine.prepare();
  await engine.prepare();
  expect(await engine.register(asked, T)).toEqual(before);
  const preparing = engine.prepare();
  await engine.refresh({}, T + 400 * 86_400);
  await preparing;
  expect((await engine.register(asked, T)).found).toBe(before.found);
});

test("what was not understood comes with the rest of the answer", async () => {
  expect(await register("rech:open reach:person")).toMatchObject({ found: 1, problems: [{ from: 0, to: 4 }] });
});

test("all ids of a query are those of its pages", async () => {
  const ids = await engine.matching({ query: "reach:open ends:<5d" }, T);
  expect(ids.sort()).toEqual(idsOf(await register("reach:open ends:<5d", 0, 100)).sort());
});

test("the shares of a docket are found by it, with those that it revoked; nothing by one that isn't known", async () => {
  expect(await engine.matching({ query: "docket:d1" }, T)).toEqual(["l2"]);
  expect(await engine.matching({ query: "docket:d1 reach:person" }, T)).toEqual([]);
  expect(await engine.matching({ query: "docket:none" }, T)).toEqual([]);
  const all = await engine.matching({ query: "" }, T);
  expect(await engine.matching({ query: "-docket:d1" }, T)).toEqual(all.filter((id) => id !== "l2"));
  expect((await engine.funnel({ query: "docket:d1" }, T)).facets.find(({ field }) => field === "reach")?.top).toEqual([
    { value: "open", title: "open", count: 1 },
  ]);
});

test("rows are told as of the instant that is asked about", async () => {
  expect((await register("state:spent")).found).toBe(0);
  expect((await register("state:spent", 0, 100, "item", T + 10 * 86_400)).found).toBe(10);
});

test("nothing changes until it is refreshed, and then everything is new", async () => {
  put = [link("l3", "f3", { revokedAt: "2026-10-05T08:00:00Z" })];
  expect((await engine.rows({ ids: ["l3", "l4", "nothing"] }, T)).map((row) => row.id)).toEqual(["l3", "l4"]);
  expect(await engine.refresh({}, T)).toEqual({ shares: 31, dangling: 0 });
  const rows = await engine.rows({ ids: ["l3", "l4"] }, T);
  expect(rows.map(({ id, state }) => [id, state])).toEqual([
    ["l3", "revoked"],
    ["l4", "live"],
  ]);
  expect(await engine.matching({ query: "" }, T)).not.toContain("l3");
  expect(await engine.share({ id: "l3" }, T)).toBeNull();
  expect(await engine.outlook({ changes: [{ action: "revoke", shareId: "l3" }] }, T)).toMatchObject([
    { verdict: { can: false }, record: { id: "l3" } },
  ]);
});

test("a long preview lets others ask in between, and is of what is so at its end", async () => {
  const changes: Change[] = [{ action: "revoke", shareId: "g" }];
  const losing = ({ people }: { people: { loses: { count: number } }[] }) => people.map(({ loses }) => loses.count);
  expect(losing(await engine.preview({ changes }, T))).toEqual([1]);
  const answered: string[] = [];
  const preview = engine.preview({ changes }, T).finally(() => answered.push("preview"));
  // Meanwhile they get another way in.
  put = [grant("other", "a", "out")];
  await engine.refresh({}, T);
  await engine.rows({ ids: ["other"] }, T);
  answered.push("rows");
  expect(losing(await preview)).toEqual([0]);
  expect(answered).toEqual(["rows", "preview"]);
});

test("a waiver silences a finding, stays visible, and ends by itself", async () => {
  const told = async (t: number) => {
    const [row] = await engine.rows({ ids: ["l0"] }, t);
    return [row.rules.includes("open-password"), row.waived, row.latches.password];
  };
  expect(await told(T)).toEqual([true, [], "demanded"]);
  waivers = [{ shareId: "l0", rule: "open-password", until: T + 100 }];
  await engine.refresh({}, T);
  expect(await told(T)).toEqual([false, ["open-password"], "waived"]);
  expect(await engine.counts({ queries: ["waived:open-password", "rule:open-password latch:password"] }, T)).toEqual([
    1, 29,
  ]);
  expect(await told(T + 100)).toEqual([true, [], "demanded"]);
  waivers = [];
  await engine.refresh({}, T);
  expect(await told(T)).toEqual([true, [], "demanded"]);
});

test("records that speak of nothing are left out and counted, and the rest answers", async () => {
  put = [link("lost", "no such item"), grant("nobody's", "a", "no such person"), file("orphan", "no such parent")];
  expect(await engine.refresh({}, T)).toEqual({ shares: 31, dangling: 3 });
  expect((await register("")).total).toBe(31);
  put = [person("no such person", "late@quay.example"), file("no such item", null), file("no such parent", "a")];
  expect(await engine.refresh({}, T)).toEqual({ shares: 33, dangling: 0 });
});

test("a ways is of an item, of somebody, of an organisation, or of both ends; of nothing it is null", () => {
  expect(engine.waysIn({ item: "f1" }, T)?.kind).toBe("item");
  expect(engine.waysIn({ person: "OUT@Quay.example" }, T)).toMatchObject({ kind: "reach", count: 31 });
  expect(engine.waysIn({ organisation: "Quay.example" }, T)).toMatchObject({ kind: "reach", count: 31 });
  expect(engine.waysIn({ item: "f1", person: "out@quay.example" }, T)).toMatchObject({
    kind: "paths",
    paths: [{ share: "g" }, { share: "l1" }],
  });
  expect([
    engine.waysIn({ item: "nothing" }, T),
    engine.waysIn({ person: "nobody@x.example", item: "f1" }, T),
    engine.waysIn({}, T),
  ]).toEqual([null, null, null]);
  expect(engine.find({ text: "odo" }).people).toHaveLength(1);
});

test("a share's own record comes with its address, for the executor alone", async () => {
  records = [...base, link("secret", "a", { address: "https://dock.example/l/1" })];
  put = records.slice(-1);
  await engine.refresh({}, T);
  expect(await engine.record({ id: "secret" })).toMatchObject({ address: "https://dock.example/l/1" });
  expect(JSON.stringify(register("", 0, 100))).not.toContain("dock.example");
  const shown = await engine.share({ id: "secret" }, seconds("2026-10-05T08:00:00Z"));
  expect(shown).toMatchObject({ hasAddress: true, row: { id: "secret" } });
  expect(JSON.stringify(shown)).not.toContain("dock.example");
});

test("the cheapest cut is for somebody or an organisation, and null for nobody", () => {
  const cut = (who: { person?: string; organisation?: string }) =>
    engine.cheapestCut({ item: "f1", below: false, ...who }, T)?.cheapest?.changes.map(({ change }) => change.action);
  expect(cut({ person: "out@quay.example" })).toEqual(["stop-inheriting", "revoke"]);
  expect(cut({ organisation: "Quay.example" })).toEqual(["stop-inheriting", "revoke"]);
  expect([cut({ person: "nobody@x.example" }), cut({ organisation: "x.example" }), cut({})]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
});

test("what a change is about is told with its store, and null where it isn't here", () => {
  const changes: Change[] = [
    { action: "revoke", shareId: "l3" },
    { action: "stop-inheriting", itemId: "f3" },
    { action: "leave-group", groupId: "nothing", address: "out@quay.example" },
  ];
  expect(engine.plan({ intents: changes }, T)).toEqual([
    [{ change: changes[0], words: { storeId: "st", itemName: "Plan 03", audience: "Whoever has the address" } }],
    [{ change: changes[1], words: { storeId: "st", itemName: "Plan 03", audience: "Everything shared further up" } }],
    null,
  ]);
});

describe("rules", () => {
  const counts = () => engine.ruleCounts({}, T);
  const tight = { maxDays: 10 };

  beforeEach(async () => {
    rules = { "open-expiry": tight };
    await engine.refresh({}, T);
  });

  test("that are turned, and shares that we end ourselves, are found again at the next refresh", async () => {
    const before = (await counts())["open-expiry"].falls;
    orders = new Map([["l3", T + 86_400]]);
    await engine.refresh({}, T);
    expect((await counts())["open-expiry"].falls).toBe(before - 1);
    rules = { "open-expiry": { maxDays: 0.5 } };
    await engine.refresh({}, T);
    const after = await counts();
    expect([after["open-expiry"].falls, after["open-password"].falls]).toEqual([30, 0]);
  });

  test("are tried without being set, and tell who would be asked and what would end each finding", async () => {
    const trial = await engine.tryRule({ rule: "open-expiry", parameters: tight }, T);
    const breaches = await engine.breaches({ rules: ["open-expiry"], subjects: null }, T);
    expect(trial.shares).toBe(breaches.length);
    expect((await counts())["open-expiry"].falls).toBe(breaches.length);
    expect(breaches.every(({ remedies }) => remedies[0].changes[0].action === "set-expiry")).toBe(true);
    const preview = await engine.previewRule({ rule: "open-forbidden", parameters: { labels: ["internal"] } }, T);
    expect(preview.remedied).toBeGreaterThan(0);
    expect(preview.words).toMatch(/no longer open to anyone/);
    const one = await engine.broken({ shares: { ids: ["l3", "nothing"] }, rules: ["open-expiry"] }, T);
    expect(one).toEqual([{ shareId: "l3", rule: "open-expiry" }]);
  });

  test("a waiver takes a share out of what is asked, and counts as waived", async () => {
    const before = (await counts())["open-expiry"];
    waivers = [{ shareId: "l3", rule: "open-expiry", until: T + 9 }];
    await engine.refresh({}, T);
    expect((await counts())["open-expiry"]).toEqual({ falls: before.falls - 1, waived: 1 });
    expect(await engine.broken({ shares: { query: "rule:open-expiry" }, rules: null }, T)).not.toContainEqual({
      shareId: "l3",
      rule: "open-expiry",
    });
  });
});

import { EVERYTHING } from "@/core/advice/scope";
import { STANDARD_WEIGHING } from "@/core/advice/weighing";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { trayOf } from "@/server/dockets/tray";
import { askAdvice, linesAt, stagePoint, touchedBy, whereToStart } from "@/server/shortlist/shortlist";
import { recordOpenness } from "@/server/shortlist/openness";
import { setWeighing, weighingSetting } from "@/server/shortlist/weighing";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, inDays, item, link, named, NOW, store } from "./records";

/** From what a point of the frontier is shown to what is open once it has been applied. */
const ADMIN = "ada@home.example";
const unused = { createdBy: "ida", createdAt: inDays(-90), lastUsedAt: null };
let house: House;

beforeEach(async () => {
  const stacks = [
    store("stacks"),
    ...PEOPLE,
    item("a", null, { ...inStacks, name: "Touring", label: "confidential", createdAt: inDays(-400) }),
    file("f", "a", { ...inStacks, name: "Rider" }),
    file("g", "a", { ...inStacks, name: "Rooming list" }),
    file("h", null, { ...inStacks, name: "Passport scans", label: "restricted" }),
    link("l1", "f", unused),
    link("l2", "f", unused),
    link("l3", "g", { ...unused, createdAt: inDays(-2), lastUsedAt: inDays(-1) }),
    named("n", "h", ["out@quay.example"], unused),
  ];
  house = await openHouse({ stacks, alcoves: [], dock: [] });
}, 60_000);
afterEach(() => house.close());

const everything = { scope: EVERYTHING };
const all = { ...everything, changes: 100 };
const pointAt = (changes: number) => askAdvice(house.app, "point", { ...everything, changes });

test("the curve leads from all that is open to all that can be shut, and each point tells what it is made of", async () => {
  const { title, mass, files, points } = await askAdvice(house.app, "curve", everything);
  // Two files of weight 4 open to anyone, and one of weight 16 to a named outsider.
  expect({ title, mass, files }).toEqual({ title: "everything", mass: 2 * 4 * 4 + 16, files: 3 });
  expect([points[0], points[points.length - 1]].map(({ changes, left }) => [changes, left])).toEqual([
    [0, mass],
    [4, 0],
  ]);
  const { groups, files: shut, used, running, next } = await pointAt(4);
  expect(groups.map(({ key, changes }) => [key, changes])).toEqual([
    ["end-open", 2],
    ["end-named", 1],
    ["end-open-used", 1],
  ]);
  expect({ shut, used, running, next }).toEqual({
    shut: { shut: 3, lessOpen: 3, open: 3 },
    used: 1,
    running: 0,
    next: null,
  });
  expect((await pointAt(0)).next).toMatchObject({ first: { act: "end" } });
});

test("a line says what it closes, and together with which others", async () => {
  const { count, lines } = await linesAt(house.app, { ...all, group: "end-open", from: 0, count: 50 });
  const told = lines.map(({ row, files, others }) => [row.id, files, others.map(({ shareId }) => shareId)]);
  expect({ count, told }).toEqual({
    count: 2,
    told: [
      ["l1", 1, ["l2"]],
      ["l2", 1, ["l1"]],
    ],
  });
  expect(lines[0].others[0].words).toBe("Rider (whoever has the address)");
});

test.each([
  ["store", "stacks", "Store stacks", 48],
  ["store", "dock", "Loading Dock", 0],
  ["owner", "IDA@home.example", "Person ida", 48],
  ["owner", "ivo@home.example", "Person ivo", 0],
  ["label", "restricted", "restricted", 16],
] as const)("what counts can be %s %s alone", async (of, id, title, mass) => {
  const curve = await askAdvice(house.app, "curve", { scope: { of, id } as never });
  expect([curve.title, curve.mass]).toEqual([title, mass]);
});

test("a scope of something that isn't here says so", async () => {
  await expect(askAdvice(house.app, "curve", { scope: { of: "engagement", id: "tour" } })).rejects.toThrow(
    "There is no engagement “tour”. Choose another.",
  );
});

test("what was shown is staged, and what is left once it is applied is what was told", async () => {
  const { digest, left, changes } = await pointAt(3);
  expect(changes).toBeLessThan(4);
  await stagePoint(house.app, ADMIN, { ...everything, changes }, digest);
  const { docketId, changes: staged, name } = await trayOf(house.app, ADMIN);
  expect([staged.length, name]).toEqual([changes, `Where to start: ${changes} changes`]);
  await applyDocket(house.app, docketId!, ADMIN);
  await allCarriedOut(house.app);
  expect((await whereToStart(house.app)).mass).toBe(left);
});

test("what has changed since it was shown is not staged", async () => {
  const { digest } = await pointAt(4);
  house.stores.stacks.db.put(link("l4", "g", unused), NOW);
  await house.read();
  await expect(stagePoint(house.app, ADMIN, all, digest)).rejects.toThrow("nothing was staged");
  expect((await trayOf(house.app, ADMIN)).changes).toEqual([]);
});

test("an estate that changes while it is looked at is looked at again", async () => {
  house.stores.stacks.db.put(link("l4", "h", unused), NOW);
  const asked = askAdvice(house.app, "curve", everything);
  await house.read();
  await asked;
  expect((await askAdvice(house.app, "curve", everything)).mass).toBe(2 * 4 * 4 + 16 * 4);
});

test("it is said who used any of it lately, by name or not, and who would reach less", async () => {
  const event = { type: "event", at: inDays(-3), verb: "opened", itemId: "g", shareId: "l3" } as const;
  house.stores.stacks.db.addEvent({ ...event, id: "e1", actorId: "out" });
  house.stores.stacks.db.addEvent({ ...event, id: "e2", actorId: "out" });
  house.stores.stacks.db.addEvent({ ...event, id: "e3", actorId: "ivo", at: inDays(-46) });
  house.stores.stacks.db.addEvent({ ...event, id: "e4", actorId: null, shareId: "l2", itemId: "f" });
  await house.read();
  expect(await touchedBy(house.app, all)).toEqual({
    lately: { people: 1, unnamed: 1 },
    losing: { outsiders: 1, insiders: 0, organisations: 1 },
  });
  const { lines } = await linesAt(house.app, { ...all, group: "end-open-used", from: 0, count: 50 });
  expect(lines.map(({ usedBy }) => usedBy)).toEqual([{ names: ["Person out"], people: 1, unnamed: false }]);
});

test("weights and prices can be set; what counts is counted by them, and the ledger says who set them", async () => {
  expect(await weighingSetting(house.db)).toEqual(STANDARD_WEIGHING);
  const after = { ...STANDARD_WEIGHING, weights: { ...STANDARD_WEIGHING.weights, restricted: 0 } };
  await setWeighing(house.db, after, ADMIN);
  expect((await askAdvice(house.app, "curve", everything)).mass).toBe(32);
  const entries = await house.db.selectFrom("ledger").selectAll().where("kind", "=", "weighing-set").execute();
  expect(entries.map(({ actor, body }) => [actor, JSON.parse(body)])).toEqual([
    [ADMIN, { before: STANDARD_WEIGHING, after }],
  ]);
});

test("how much is open is put down once a day, and a month ago is asked of the facts", async () => {
  await recordOpenness(house.app);
  await recordOpenness(house.app);
  const kept = await house.db.selectFrom("openness").select(["day", "mass"]).orderBy("day").execute();
  const days = [-30, 0].map((days) => inDays(days).slice(0, 10));
  // l3 was made two days ago.
  expect(kept).toEqual([
    { day: days[0], mass: 4 * 4 + 16 },
    { day: days[1], mass: 48 },
  ]);
  const { mass, before } = await whereToStart(house.app);
  expect({ mass, before }).toEqual({ mass: 48, before: { day: days[0], mass: 32, afterwards: true } });
});

test("what was put down since is told of where nothing is known of a month ago", async () => {
  const put = (days: number, mass: number) => ({
    day: inDays(days).slice(0, 10),
    weights: "0,1,4,16",
    mass,
    afterwards: 0,
  });
  const rows = [put(-70, 9), put(-20, 90), put(-10, 80), put(0, 48), { ...put(-40, 7), weights: "1,1,1,1" }];
  await house.db.insertInto("openness").values(rows).execute();
  expect((await whereToStart(house.app)).before).toEqual({ day: rows[1].day, mass: 90, afterwards: false });
});

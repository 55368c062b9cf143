import { OPERATIONS } from "@/contract";
import { leaversOperations } from "@/contract/leavers";
import type { EstateRecord } from "@/core/estate/records";
import { DAY, rfc3339 } from "@/core/time/instant";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { stage, trayOf } from "@/server/dockets/tray";
import { dayWords } from "@/core/text/words";
import { setLastDay } from "@/server/leavers/lastDays";
import { leaverLines } from "@/server/leavers";
import { endOwn, ownCounts } from "@/server/leavers/own";
import { entriesBefore } from "@/server/records/ledger/ledger";
import type { Watch } from "@/core/trail/watch";
import { writing } from "@/server/platform/db/open";
import { saveWatch } from "@/server/trail/watches";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, grant, group, item, link, named, person, store, T } from "./records";

const ADA = "ada@home.example";
const GONE = "gone@home.example";
let house: House;

const theirs = { ...inStacks, ownerId: "gone" };
const STACKS: EstateRecord[] = [
  store("stacks"),
  ...PEOPLE,
  person("gone", GONE, { name: "Gus Gone", status: "left", leftAt: rfc3339(T - 40 * DAY), managerId: "ida" }),
  person("off", "off@home.example", { status: "suspended", department: "Press" }),
  person("away", "away@home.example", { status: "left" }),
  person("member", "member@home.example", { status: "left" }),
  ...group("crew", "gone", "ida", "member").map((one) => (one.type === "group" ? { ...one, storeId: "stacks" } : one)),
  item("a", null, { ...theirs, name: "Tour" }),
  file("f", "a", { ...theirs, name: "Rider", label: "restricted" }),
  file("g", "a", { ...inStacks, name: "Budget" }),
  link("open", "f", { createdBy: "gone" }),
  named("kept", "g", ["out@quay.example"], { createdBy: "gone" }),
  named("to", "g", [GONE, "out@quay.example"], { createdBy: "ida" }),
  grant("mine", "g", "gone", { grantedBy: "ida" }),
  grant("off", "g", "off", { grantedBy: "ida" }),
];

beforeEach(async () => {
  house = await openHouse({ stacks: STACKS, alcoves: [], dock: [] });
});
afterEach(() => house.close());

const leavers = async () => (await house.app.engine.ask("leavers", {})).map(({ address, ...rest }) => [address, rest]);
const WATCH: Watch = {
  ...{ kind: "held-back", severity: "low", mail: [], webhook: false, syslog: false },
  ...{ mostADay: 10, quiet: null, zone: "UTC" },
};
const unknown = { since: null, lastDay: null, owned: 0, links: 0, grants: 0, groups: 0 };
const heads = [{ department: "Press", person: "ivo@home.example" }];
const sheet = () => house.app.engine.ask("leaver", { address: GONE, heads });

test("whoever isn't active is listed with what still stands of theirs; of whom nothing stands, not", async () => {
  expect(await leavers()).toEqual([
    [
      GONE,
      {
        ...{ name: "Gus Gone", department: null, status: "left", since: T - 40 * DAY, lastDay: null },
        ...{ owned: 2, links: 2, grants: 2, groups: 1 },
      },
    ],
    // A group alone would let them in again.
    ["member@home.example", { name: "Person member", department: null, status: "left", ...{ ...unknown, groups: 1 } }],
    [
      "off@home.example",
      { name: "Person off", department: "Press", status: "suspended", ...{ ...unknown, grants: 1 } },
    ],
  ]);
});

test("the sheet has all of it, what is suggested, and whom it can go to", async () => {
  const told = (await sheet())!;
  const whole = { sheet: told, own: { waivers: 0, watches: 0 }, lastDay: null };
  expect(leaversOperations.leaver.answer.parse(whole)).toEqual(whole);
  expect(OPERATIONS.leaver).toBe(leaversOperations.leaver);
  expect([told.heir, told.ownedCount, told.held]).toEqual([
    { address: "ida@home.example", name: "Person ida", as: "manager" },
    2,
    3,
  ]);
  expect(told.owned.map(({ id }) => id)).toEqual(["a", "f"]);
  expect(told.links.map(({ id, suggested }) => [id, suggested?.suggest])).toEqual([
    ["open", "tighten"],
    ["kept", "tighten"],
  ]);
  expect(await house.app.engine.ask("leaver", { address: "ida@home.example", heads })).toBeNull();
  expect(await house.app.engine.ask("leaver", { address: "out@quay.example", heads })).toBeNull();
  const off = await house.app.engine.ask("leaver", { address: "off@home.example", heads });
  expect(off?.heir).toEqual({ address: "ivo@home.example", name: "Person ivo", as: "head" });
});

test("one docket ends, takes and hands over: then nothing is left, in the store itself", async () => {
  await stage(
    house.app,
    ADA,
    [
      { action: "revoke", shareId: "open" },
      { action: "cut-off", address: GONE },
      { action: "hand-over-all", from: GONE, address: "ida@home.example" },
      { action: "revoke", shareId: "kept" },
    ],
    "Gus has left",
  );
  const { docketId } = await trayOf(house.app, ADA);
  await applyDocket(house.app, docketId!, ADA);
  await allCarriedOut(house.app);
  expect(await house.undone(docketId!)).toEqual([]);
  await house.read();
  expect(await sheet()).toMatchObject({ owned: [], ownedCount: 0, links: [], held: 0 });
  expect((await leavers()).map(([address]) => address)).toEqual(["member@home.example", "off@home.example"]);
  const { db } = house.stores.stacks;
  expect(db.get("item", "f")).toMatchObject({ ownerId: "ida" });
  for (const id of ["open", "kept"]) expect(db.get("link", id)).toMatchObject({ revokedAt: expect.any(String) });
  expect(db.get("grant", "mine")).toMatchObject({ revokedAt: expect.any(String) });
});

const ledger = async () =>
  (await entriesBefore(house.db, Number.MAX_SAFE_INTEGER, 20)).map(({ kind, body }) => [kind, body]);
const desk = async () => (await leaverLines(house.app, dayWords)).map(({ words }) => words);

test("the Desk says who has just left, and of how many others something is left", async () => {
  expect(await desk()).toEqual(["3 leavers have something left."]);
  house.stores.stacks.db.put(
    person("ivo", "ivo@home.example", { name: "Ivo", status: "left", leftAt: rfc3339(T - DAY) }),
    rfc3339(T),
  );
  house.stores.stacks.db.put(grant("ivos", "g", "ivo", { grantedBy: "ida" }), rfc3339(T));
  await house.read();
  expect(await desk()).toEqual(["Ivo has left: 1 grant to settle.", "3 other leavers have something left."]);
});

test("somebody whose last day is said here is a leaver from then on, and waits on the Desk the day before", async () => {
  const ida = "ida@home.example";
  expect(await house.app.engine.ask("leaver", { address: ida, heads })).toBeNull();
  await setLastDay(house.db, { address: ida, day: T + 3 * DAY, reason: "Told by mail" }, ADA);
  await house.app.engine.ask("refresh", {});
  expect((await house.app.engine.ask("leavers", {}))[0]).toMatchObject({
    address: ida,
    status: "active",
    lastDay: T + 3 * DAY,
  });
  expect((await house.app.engine.ask("leaver", { address: ida, heads }))?.leaver.lastDay).toBe(T + 3 * DAY);
  expect(await desk()).toHaveLength(1);
  await house.later(2);
  expect((await desk())[0]).toMatch(
    /^Person ida leaves on 8 Oct(ober)? 2026: 1 item, 1 live link, 1 group to settle\.$/,
  );
  await house.later(2);
  expect((await desk())[0]).toMatch(/^Person ida’s last day was 8 Oct(ober)? 2026, and they are still active\.$/);
  await setLastDay(house.db, { address: ida, day: null, reason: "" }, ADA);
  await house.app.engine.ask("refresh", {});
  expect(await house.app.engine.ask("leaver", { address: ida, heads })).toBeNull();
  expect((await ledger()).filter(([kind]) => kind === "last-day-set")).toHaveLength(2);
});

test("nobody from outside has a last day here, and none that isn't set can be dropped", async () => {
  const day = T + DAY;
  await expect(setLastDay(house.db, { address: "out@quay.example", day, reason: "x" }, ADA)).rejects.toThrow(
    "is an outsider",
  );
  await expect(setLastDay(house.db, { address: ADA, day: null, reason: "" }, ADA)).rejects.toThrow(
    "No last day was set",
  );
});

test("once nothing is left the ledger says so, with the days that it took; waivers and watches of theirs count too", async () => {
  const off = "off@home.example";
  await house.tick();
  await writing(house.db, (tx) => saveWatch(tx, off, { name: "Theirs", watch: WATCH, isOn: true }));
  await house.later(9);
  house.stores.stacks.db.put(
    grant("off", "g", "off", { grantedBy: "ida", revokedAt: house.app.clock.text() }),
    house.app.clock.text(),
  );
  await house.read();
  await house.tick();
  expect((await ledger()).map(([kind]) => kind)).not.toContain("leaver-settled");
  expect(await ownCounts(house.db, off)).toEqual({ waivers: 0, watches: 1 });
  await expect(endOwn(house.db, off, { waivers: 1, watches: 1 }, ADA)).rejects.toThrow("changed since it was shown");
  await endOwn(house.db, off, { waivers: 0, watches: 1 }, ADA);
  await house.tick();
  expect(await ledger()).toContainEqual(["leaver-settled", { person: off, days: 9 }]);
  await house.tick();
  expect((await ledger()).filter(([kind]) => kind === "leaver-settled")).toHaveLength(1);
});

test("whoever works here again hasn't been settled", async () => {
  await house.tick();
  house.stores.stacks.db.put(person("off", "off@home.example", { department: "Press" }), house.app.clock.text());
  await house.read();
  await house.tick();
  expect((await ledger()).map(([kind]) => kind)).not.toContain("leaver-settled");
});

test("each link of a leaver's can be tightened in the ways that its store has", async () => {
  const [open] = (await sheet())!.links;
  const way = open.ways.find(({ key }) => key === "password")!;
  expect(way.changes).toEqual([{ action: "set-password", shareId: "open" }]);
  await stage(house.app, ADA, way.changes as never, "Gus has left");
  const { docketId } = await trayOf(house.app, ADA);
  await applyDocket(house.app, docketId!, ADA);
  await allCarriedOut(house.app);
  expect(house.stores.stacks.db.get("link", "open")).toMatchObject({ password: true });
});

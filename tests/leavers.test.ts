import { OPERATIONS } from "@/contract";
import { leaversOperations } from "@/contract/leavers";
import type { EstateRecord } from "@/core/estate/records";
import { DAY, rfc3339 } from "@/core/time/instant";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { stage, trayOf } from "@/server/dockets/tray";
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
const heads = [{ department: "Press", person: "ivo@home.example" }];
const sheet = () => house.app.engine.ask("leaver", { address: GONE, heads });

test("whoever isn't active is listed with what still stands of theirs; of whom nothing stands, not", async () => {
  expect(await leavers()).toEqual([
    [
      GONE,
      {
        ...{ name: "Gus Gone", department: null, status: "left", leftAt: T - 40 * DAY },
        ...{ owned: 2, links: 2, held: 3 },
      },
    ],
    // A group alone would let them in again.
    [
      "member@home.example",
      { name: "Person member", department: null, status: "left", leftAt: null, owned: 0, links: 0, held: 1 },
    ],
    [
      "off@home.example",
      { name: "Person off", department: "Press", status: "suspended", leftAt: null, owned: 0, links: 0, held: 1 },
    ],
  ]);
});

test("the sheet has all of it, what is suggested, and whom it can go to", async () => {
  const told = (await sheet())!;
  expect(leaversOperations.leaver.answer.parse(told)).toEqual(told);
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

import { parse } from "csv-parse/sync";
import type { Change } from "@/core/changes/change";
import type { EstateRecord, ItemRecord, LinkRecord } from "@/core/estate/records";
import { allCarriedOut, applyDocket, retryFailed } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf, unstage } from "@/server/dockets/tray";
import { handWorkCsv, handWorkOf, sayDone } from "@/server/dockets/byHand";
import { verifyLedger } from "@/server/records/ledger/verify";
import { importEstate } from "@/server/stores/importEstate";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, head, inDays, item, link, NOW, store } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const ADMIN = "admin@home.example";
let house: House;

beforeEach(async () => {
  house = await openHouse({
    stacks: [
      ...PEOPLE,
      item("opera", null, inStacks),
      file("score", "opera", inStacks),
      file("plan", null, inStacks),
      file("rider", null, inStacks),
      link("open", "plan", { address: "OPEN" }),
      link("own", "rider", {
        reach: "named",
        recipients: [{ email: "ivo@home.example" }, { email: "out@quay.example" }],
      }),
      link("opera-link", "score", { address: "OPERA" }),
      {
        type: "engagement",
        id: "e",
        name: "Opera",
        itemIds: ["opera"],
        organisations: ["quay.example"],
        startsAt: inDays(-9),
        endsAt: inDays(9),
      },
    ],
    alcoves: [],
    dock: [],
  });
});
afterEach(() => house.close());

const stackLink = (id: string) => house.stores.stacks.db.get<LinkRecord>("link", id)!;
const revoke = (shareId: string): Change => ({ action: "revoke", shareId });

async function applyTray() {
  const { docketId } = await trayOf(house.app, ADMIN);
  await applyDocket(house.app, docketId!, ADMIN);
  await allCarriedOut(house.app);
  const { receipts } = await docketView(house.app, docketId!);
  return { docketId: docketId!, receipts: receipts.map(({ subject, state, answer }) => ({ subject, state, answer })) };
}

test("a share that was changed in its store since is set aside with both versions; the others are done", async () => {
  await stage(house.app, ADMIN, [
    revoke("open"),
    { action: "set-expiry", shareId: "opera-link", expiresAt: inDays(30) },
  ]);
  house.stores.stacks.db.put({ ...stackLink("open"), role: "edit", password: true });
  house.stores.stacks.db.put({ ...stackLink("opera-link"), uses: 12, lastUsedAt: NOW });
  const { docketId, receipts } = await applyTray();
  expect(receipts).toEqual([
    {
      subject: "open",
      state: "set-aside",
      answer:
        "The share has changed since this was decided: role was view, is edit; password was none, is set. Review it again.",
    },
    { subject: "opera-link expiry", state: "done", answer: "Done by the store." },
  ]);
  expect([stackLink("open").revokedAt ?? null, stackLink("opera-link").expiresAt]).toEqual([null, inDays(30)]);
  expect((await verifyLedger(house.db)).unbroken).toBe(true);
  const kept = await house.db.selectFrom("docket_change").select("seen").where("docket_id", "=", docketId).execute();
  expect(kept.some(({ seen }) => seen!.includes("OPEN"))).toBe(false);
});

test("where the first change to a share is set aside as changed, so is the next", async () => {
  await stage(house.app, ADMIN, [
    { action: "set-password", shareId: "open" },
    { action: "set-expiry", shareId: "open", expiresAt: inDays(30) },
  ]);
  house.stores.stacks.db.put({ ...stackLink("open"), role: "edit" });
  const { receipts } = await applyTray();
  expect(receipts.map(({ state }) => state)).toEqual(["set-aside", "set-aside"]);
  expect([stackLink("open").password, stackLink("open").expiresAt]).toEqual([false, null]);
});

test("two steps of ours on one share don't look like somebody else's change", async () => {
  house.stores.stacks.db.put({ ...stackLink("open"), role: "edit" });
  await house.later(0);
  await house.tick();
  await stage(house.app, ADMIN, [{ action: "block-download", shareId: "open" }]);
  const { docketId, receipts } = await applyTray();
  expect(receipts.map(({ state }) => state)).toEqual(["done", "done"]);
  await retryFailed(house.app, docketId, ADMIN);
  await allCarriedOut(house.app);
  expect([stackLink("open").role, stackLink("open").download]).toEqual(["view", false]);
});

test("an item is handed over in every store that knows the new owner, and refused beforehand where one doesn't", async () => {
  for (const name of ["alcoves", "dock"] as const) {
    const { db } = house.stores[name];
    for (const one of PEOPLE.filter(({ id }) => name === "alcoves" || id !== "ivo")) db.put(one, NOW);
    db.put(item(`${name}-tour`, null, { storeId: name, ownerId: "ida" }), NOW);
  }
  await house.read();
  const handing = (itemId: string) => ({
    action: "hand-over" as const,
    itemId,
    address: "ivo@home.example",
    links: [],
  });
  await stage(house.app, ADMIN, ["opera", "alcoves-tour", "dock-tour"].map(handing));
  const { preview } = await trayOf(house.app, ADMIN);
  expect(preview!.impossible).toMatchObject([
    { subject: "owner of dock-tour", why: "Loading Dock doesn’t know ivo@home.example." },
  ]);
  const { receipts } = await applyTray();
  expect(receipts.map(({ subject, state }) => `${subject}: ${state}`)).toEqual([
    "owner of opera: done",
    "owner of alcoves-tour: done",
    "owner of dock-tour: set-aside",
  ]);
  const owned = house.stores.alcoves.db.get<ItemRecord>("item", "alcoves-tour");
  expect(owned!.ownerId).toBe("ivo");
});

describe("a store that is known from a file only", () => {
  const inShed = { storeId: "shed", ownerId: "ivo" };
  const shelf: EstateRecord[] = [
    head(),
    { ...store("shed"), name: "=Shed" },
    item("cupboard", null, { ...inShed, name: "Cupboard" }),
    file("map", "cupboard", inShed),
    link("map-link", "map", { role: "edit", createdBy: "ivo" }),
    link("old-link", "map", { createdBy: "ivo" }),
  ];
  const importing = async (records: EstateRecord[], name: string) => {
    const { problems } = await importEstate(
      house.app,
      records.map((one) => JSON.stringify(one)),
      { as: "shed", name },
    );
    expect(problems).toEqual([]);
    await house.tick();
  };
  beforeEach(() => importing(shelf, "shed.jsonl"));

  test("its changes become a list of work, which the next import ticks off as far as it shows them done", async () => {
    await stage(house.app, ADMIN, [
      revoke("old-link"),
      { action: "block-download", shareId: "map-link" },
      revoke("open"),
    ]);
    const { docketId, receipts } = await applyTray();
    expect(receipts.map(({ subject, state }) => `${subject}: ${state}`)).toEqual([
      "old-link: by-hand",
      "map-link role: by-hand",
      "map-link download: by-hand",
      "open: done",
    ]);
    const work = await handWorkOf(house.db, docketId);
    expect(work.map(({ owner, where, words }) => [owner, where, words])).toEqual([
      ["Person ivo", "=Shed / Cupboard", "Revoke"],
      ["Person ivo", "=Shed / Cupboard", "Lower to view"],
      ["Person ivo", "=Shed / Cupboard", "Block downloads"],
    ]);
    const [, first] = parse(handWorkCsv(work), { bom: true }) as string[][];
    expect(first.slice(0, 3)).toEqual(["Person ivo", "'=Shed / Cupboard", "Item map"]);

    await importing(
      [
        ...shelf.slice(0, 4),
        link("map-link", "map", { createdBy: "ivo" }),
        link("old-link", "map", { createdBy: "ivo", revokedAt: NOW }),
      ],
      "later.jsonl",
    );
    const { receipts: after, progress } = await docketView(house.app, docketId);
    expect(after.map(({ state, probe }) => [state, probe])).toEqual([
      ["done", "The import of later.jsonl shows it."],
      ["done", "The import of later.jsonl shows it."],
      ["by-hand", null],
      ["done", expect.any(String)],
    ]);
    expect(progress.counts["by-hand"]).toBe(1);
    expect((await verifyLedger(house.db)).unbroken).toBe(true);
  });

  test("what a file can't show is done when somebody says so, once", async () => {
    await stage(house.app, ADMIN, [revoke("old-link")]);
    const { docketId } = await applyTray();
    await sayDone(house.db, docketId, "old-link", ADMIN);
    const { receipts } = await docketView(house.app, docketId);
    expect([receipts[0].state, receipts[0].answer]).toEqual(["done", `Done by hand, according to ${ADMIN}.`]);
    await expect(sayDone(house.db, docketId, "old-link", ADMIN)).rejects.toThrow(
      "This change doesn’t have to be done by hand, or is already done. Reload the list to see what is left.",
    );
    expect(await handWorkOf(house.db, docketId)).toEqual([]);
  });
});

test("what takes something from insiders, or is for work that goes on, is named and taken out at once", async () => {
  await stage(house.app, ADMIN, ["open", "own", "opera-link"].map(revoke));
  const before = (await trayOf(house.app, ADMIN)).preview!;
  expect(before.careful).toEqual({ insiders: ["own"], running: ["opera-link"] });
  expect(before.people.filter(({ insider }) => insider).map(({ address }) => address)).toEqual(["ivo@home.example"]);
  await unstage(house.db, ADMIN, [...before.careful.insiders, ...before.careful.running]);
  const { changes, preview } = await trayOf(house.app, ADMIN);
  expect(changes.map(({ subject }) => subject)).toEqual(["open"]);
  expect(preview!.careful).toEqual({ insiders: [], running: [] });
  // Nothing is lost by what only makes a share stricter.
  await unstage(house.db, ADMIN, null);
  await stage(house.app, ADMIN, [
    { action: "set-role", shareId: "own", role: "view" },
    { action: "set-password", shareId: "open" },
  ]);
  expect((await trayOf(house.app, ADMIN)).preview!.careful).toEqual({ insiders: [], running: [] });
});

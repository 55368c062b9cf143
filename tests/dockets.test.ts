import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Change } from "@/core/dockets/change";
import type { LinkRecord } from "@/core/estate/records";
import { allCarriedOut, applyDocket, retryFailed } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf, unstage } from "@/server/dockets/tray";
import { verifyLedger } from "@/server/ledger/ledger";
import { type House, openHouse } from "./house";
import { file, inDays, item, link, NOW, person } from "./records";

process.env.LATCH_NOW = NOW;
process.env.LATCH_DATA = mkdtempSync(join(tmpdir(), "latch-dockets-"));
jest.setTimeout(60_000);

const ADMIN = "admin@home.example";
const inStacks = { storeId: "stacks", ownerId: "ida" };
let house: House;

beforeEach(async () => {
  house = await openHouse({
    stacks: [
      person("ida", "ida@home.example"),
      person("ivo", "ivo@home.example"),
      person("out", "out@quay.example"),
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
  const { docketId } = await trayOf(house.db, ADMIN);
  await applyDocket(house.db, docketId!, ADMIN);
  await allCarriedOut();
  const { receipts } = await docketView(house.db, docketId!);
  return { docketId: docketId!, receipts: receipts.map(({ subject, state, answer }) => ({ subject, state, answer })) };
}

test("a share that was changed in its store since is set aside with both versions; the others are done", async () => {
  await stage(house.db, ADMIN, [
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
        "It is not as it was when this was decided: role was view, is edit; password was none, is set. Look at it again.",
    },
    { subject: "opera-link expiry", state: "done", answer: "The store did it." },
  ]);
  expect([stackLink("open").revokedAt ?? null, stackLink("opera-link").expiresAt]).toEqual([null, inDays(30)]);
  expect((await verifyLedger(house.db)).unbroken).toBe(true);
  const kept = await house.db.selectFrom("docket_change").select("seen").where("docket_id", "=", docketId).execute();
  expect(kept.some(({ seen }) => seen!.includes("OPEN"))).toBe(false);
});

test("two steps of ours on one share don't look like somebody else's change", async () => {
  house.stores.stacks.db.put({ ...stackLink("open"), role: "edit" });
  await house.later(0);
  await house.tick();
  await stage(house.db, ADMIN, [{ action: "block-download", shareId: "open" }]);
  const { docketId, receipts } = await applyTray();
  expect(receipts.map(({ state }) => state)).toEqual(["done", "done"]);
  await retryFailed(house.db, docketId, ADMIN);
  await allCarriedOut();
  expect([stackLink("open").role, stackLink("open").download]).toEqual(["view", false]);
});

test("what takes something from insiders, or is for work that goes on, is named and taken out at once", async () => {
  await stage(house.db, ADMIN, ["open", "own", "opera-link"].map(revoke));
  const before = (await trayOf(house.db, ADMIN)).preview!;
  expect(before.careful).toEqual({ insiders: ["own"], running: ["opera-link"] });
  expect(before.people.filter(({ insider }) => insider).map(({ address }) => address)).toEqual(["ivo@home.example"]);
  await unstage(house.db, ADMIN, [...before.careful.insiders, ...before.careful.running]);
  const { changes, preview } = await trayOf(house.db, ADMIN);
  expect(changes.map(({ subject }) => subject)).toEqual(["open"]);
  expect(preview!.careful).toEqual({ insiders: [], running: [] });
  // Nothing is lost by what only makes a share stricter.
  await unstage(house.db, ADMIN, null);
  await stage(house.db, ADMIN, [
    { action: "set-role", shareId: "own", role: "view" },
    { action: "set-password", shareId: "open" },
  ]);
  expect((await trayOf(house.db, ADMIN)).preview!.careful).toEqual({ insiders: [], running: [] });
});

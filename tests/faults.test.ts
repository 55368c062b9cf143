import { sql } from "kysely";
import type { EstateRecord, LinkRecord } from "@/core/estate/records";
import {
  allCarriedOut,
  applyDocket,
  haltAll,
  pauseDocket,
  resumeDocket,
  run,
  stopDocket,
} from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { progressNow } from "@/server/dockets/held";
import { stage, trayOf } from "@/server/dockets/tray";
import { verifyLedger } from "@/server/records/ledger/verify";
import { type House, openHouse } from "./house";
import { file, link, NOW, person } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const ADMIN = "admin@home.example";
const LINKS = 40;
let house: House;

beforeEach(async () => {
  const inStacks = { storeId: "stacks", ownerId: "ida" };
  const inDock = { storeId: "dock", ownerId: "ida" };
  const linksOn = (plan: string): EstateRecord[] =>
    Array.from({ length: LINKS }, (_, n) =>
      link(`${plan}-${n}`, plan, { address: `${plan}-address-${n}`, createdBy: "ida" }),
    );
  house = await openHouse({
    stacks: [person("ida", "ida@home.example"), file("plan", null, inStacks), ...linksOn("plan")],
    alcoves: [],
    dock: [file("crate", null, inDock), ...linksOn("crate")],
  });
});
afterEach(async () => {
  jest.restoreAllMocks();
  await house.close();
});

async function applyRevokes(plans: string[]): Promise<string> {
  const changes = plans.flatMap((plan) =>
    Array.from({ length: LINKS }, (_, n) => ({ action: "revoke" as const, shareId: `${plan}-${n}` })),
  );
  await stage(house.app, ADMIN, changes);
  const { docketId } = await trayOf(house.app, ADMIN);
  expect(await applyDocket(house.app, docketId!, ADMIN)).toBe("begun");
  return docketId!;
}

const isRevoked = (store: "stacks" | "dock", id: string) =>
  Boolean(house.stores[store].db.get<LinkRecord>("link", id)!.revokedAt);
const progressOf = async (docketId: string) => (await docketView(house.app, docketId)).progress;

/** Ledger entries of a kind about a docket. */
async function entries(kind: string): Promise<number> {
  const rows = await house.db.selectFrom("ledger").select("seq").where("kind", "=", kind).execute();
  return rows.length;
}

async function untilDone(docketId: string, count: number) {
  for (let i = 0; i < 600 && (await progressOf(docketId)).counts.done < count; i++)
    await new Promise((resolve) => setTimeout(resolve, 20));
}

test("a disk that is full for a moment holds a docket up, and nothing is lost or told twice", async () => {
  const told = jest.spyOn(console, "error").mockImplementation(() => undefined);
  await house.control("stacks", { slowMs: 5 });
  const docketId = await applyRevokes(["plan"]);
  await untilDone(docketId, 3);
  const { rows } = await sql<{ page_count: number }>`pragma page_count`.execute(house.db);
  // SQLite's own limit on how long its file may be: it then refuses as it does on a full disk (SQLITE_FULL).
  await sql`pragma max_page_count = ${sql.lit(rows[0].page_count)}`.execute(house.db);
  for (let i = 0; i < 500 && told.mock.calls.length === 0; i++) await new Promise((resolve) => setTimeout(resolve, 10));
  expect(String(told.mock.calls[0])).toContain("full");
  await sql`pragma max_page_count = 1073741823`.execute(house.db);
  await allCarriedOut(house.app);
  const { counts, state, unchecked } = await progressOf(docketId);
  expect([state, counts.done, unchecked]).toEqual(["done", LINKS, 0]);
  expect(house.stores.stacks.db.appliedCount).toBe(LINKS);
  expect(await entries("change-done")).toBe(LINKS);
  expect((await verifyLedger(house.db)).unbroken).toBe(true);
});

test("a store that is down holds only its own steps, and goes on when it is back", async () => {
  await house.control("stacks", { downMs: 300_000 });
  const docketId = await applyRevokes(["plan", "crate"]);
  await untilDone(docketId, LINKS);
  const half = await progressOf(docketId);
  expect([half.counts.done, half.counts.failed]).toEqual([LINKS, 0]);
  // Whoever looks sees which store it waits for, and why.
  const { held } = await progressNow(house.app, docketId);
  expect(held).toEqual([{ store: "Stacks", why: expect.stringMatching(/Stacks/), since: NOW }]);
  expect([isRevoked("dock", "crate-0"), isRevoked("stacks", "plan-0")]).toEqual([true, false]);
  await house.control("stacks", { downMs: 0 });
  await allCarriedOut(house.app);
  expect((await progressOf(docketId)).counts.done).toBe(2 * LINKS);
  expect((await progressNow(house.app, docketId)).held).toEqual([]);
});

test("a store that wants quiet is left alone, and nobody's tries are used up by that", async () => {
  await house.control("stacks", { stormMs: 1_200 });
  const docketId = await applyRevokes(["plan"]);
  await allCarriedOut(house.app);
  const { progress, receipts } = await docketView(house.app, docketId);
  expect([progress.counts.done, progress.counts.failed]).toEqual([LINKS, 0]);
  expect(Math.max(...receipts.map(({ tries }) => tries))).toBeLessThan(10);
});

test("paused while its store is down it halts at once, and goes on where it stood", async () => {
  await house.control("stacks", { downMs: 2_000 });
  const docketId = await applyRevokes(["plan"]);
  await pauseDocket(house.app, docketId, ADMIN);
  expect((await progressOf(docketId)).state).toBe("paused");
  expect(isRevoked("stacks", "plan-0")).toBe(false);
  await house.control("stacks", { downMs: 0 });
  await resumeDocket(house.app, docketId, ADMIN);
  await allCarriedOut(house.app);
  expect((await progressOf(docketId)).counts.done).toBe(LINKS);
});

test("what was done though no answer ever came is found to be done when it is tried again", async () => {
  await house.control("stacks", { halfApplied: 15 * LINKS });
  const docketId = await applyRevokes(["plan"]);
  for (let i = 0; i < 500 && house.stores.stacks.db.appliedCount < 6; i++)
    await new Promise((resolve) => setTimeout(resolve, 20));
  await haltAll(house.app);
  await house.control("stacks", { halfApplied: 0 });
  // Its reading tells us that all are revoked: that must not be taken for somebody else's doing.
  await house.later(0);
  await house.tick();
  run(house.app, docketId);
  await allCarriedOut(house.app);
  expect((await progressOf(docketId)).counts).toMatchObject({ done: LINKS, "set-aside": 0 });
  expect(house.stores.stacks.db.appliedCount).toBe(LINKS);
});

test("stopped, it leaves what was not begun, and sees through what may have been sent", async () => {
  await house.control("stacks", { slowMs: 30 });
  const docketId = await applyRevokes(["plan"]);
  await untilDone(docketId, 3);
  await stopDocket(house.app, docketId, ADMIN);
  await allCarriedOut(house.app);
  const { progress, receipts } = await docketView(house.app, docketId);
  expect([progress.state, progress.counts.staged + progress.counts.sending]).toEqual(["done", 0]);
  expect(progress.counts["set-aside"]).toBeGreaterThan(0);
  expect(house.stores.stacks.db.appliedCount).toBe(progress.counts.done);
  for (const { state, subject } of receipts) expect(isRevoked("stacks", subject)).toBe(state === "done");
});

test("what was applied though its answer was lost is applied once, and a halt in between changes nothing of that", async () => {
  await house.control("stacks", { halfAppliedEvery: 3, errorEvery: 7, slowMs: 2 });
  const docketId = await applyRevokes(["plan"]);
  await untilDone(docketId, 5);
  await haltAll(house.app);
  expect((await progressOf(docketId)).state).toBe("applying");
  run(house.app, docketId);
  await allCarriedOut(house.app);
  expect((await progressOf(docketId)).counts.done).toBe(LINKS);
  expect(house.stores.stacks.db.appliedCount).toBe(LINKS);
  expect(await entries("change-done")).toBe(LINKS);
});

import { setTimeout as wait } from "node:timers/promises";
import type { DocketView, Receipt } from "@/core/preview/docketView";
import { ADMINISTRATOR, Demo, type Session } from "./demo";

/** Small as part of the tests; `npm run soak` does the same in earnest. */
const SIZE = process.env.LATCH_SOAK
  ? { changes: 1_500, kills: 6, stormMs: 20_000, downMs: 60_000 }
  : { changes: 150, kills: 2, stormMs: 3_000, downMs: 4_000 };
const STORES = ["stacks", "alcoves", "dock"] as const;
const demo = new Demo();
jest.setTimeout(900_000);

beforeAll(() => demo.start(), 300_000);
afterAll(() => demo.remove(), 60_000);

const progressOf = async (session: Session, docket: string) =>
  ((await session.ask(`/api/dockets/${docket}`)).answer as DocketView).progress;

async function allReceipts(session: Session, docket: string): Promise<Receipt[]> {
  const receipts: Receipt[] = [];
  for (;;) {
    const view: DocketView = (await session.ask(`/api/dockets/${docket}?from=${receipts.length}`)).answer;
    receipts.push(...view.receipts);
    if (receipts.length >= view.found) return receipts;
  }
}

async function appliedInStores(): Promise<number> {
  const counts = await Promise.all(STORES.map((store) => demo.control(store)));
  return counts.reduce((sum, { applied }) => sum + applied, 0);
}

/** What a store itself says of a share, whichever it lies in. */
async function isRevoked(shareId: string): Promise<boolean> {
  for (const store of STORES) {
    const share = await demo.askStore<{ id?: string; revokedAt?: string }>(store, `/api/shares/${shareId}`);
    if (share.id) return Boolean(share.revokedAt);
  }
  throw new Error(`No store knows ${shareId}.`);
}

test("whatever breaks on the way, each change is done once, and stores, receipts and ledger agree", async () => {
  const session = await demo.signIn(ADMINISTRATOR);
  const { answer } = await session.ask(`/api/register/ids?query=${encodeURIComponent("state:live")}`);
  const ids: string[] = answer.ids.slice(0, SIZE.changes);
  const before = await appliedInStores();
  expect(ids).toHaveLength(SIZE.changes);
  await session.ask("/api/tray", { changes: ids.map((shareId) => ({ action: "revoke", shareId })) });
  const { docketId } = (await session.ask("/api/tray")).answer;
  for (const store of STORES) await demo.control(store, { errorEvery: 10, halfAppliedEvery: 13, slowMs: 20 });
  await demo.control("stacks", { stormMs: SIZE.stormMs });
  await demo.control("alcoves", { downMs: SIZE.downMs });
  expect((await session.apply(docketId)).answer).toEqual({ applied: "begun" });

  for (let kill = 0; kill < SIZE.kills; kill++) {
    await wait(500 + Math.random() * (SIZE.downMs / SIZE.kills));
    await demo.killApplication();
  }
  await demo.until(async () => (await progressOf(session, docketId)).state === "done", "finish the docket");
  for (const store of STORES)
    await demo.control(store, {
      errorEvery: 0,
      halfAppliedEvery: 0,
      slowMs: 0,
      downMs: 0,
      stormMs: 0,
      perSecond: 10_000,
    });
  // What failed five times in a row, or could not be looked at, is tried again by whoever looks after it.
  const { counts, unchecked } = await progressOf(session, docketId);
  if (counts.failed + unchecked > 0) {
    await session.ask(`/api/dockets/${docketId}/retry`, {});
    await demo.until(async () => (await progressOf(session, docketId)).state === "done", "finish what was left");
  }

  const receipts = await allReceipts(session, docketId);
  expect(receipts).toHaveLength(SIZE.changes);
  expect(receipts.filter(({ state }) => state !== "done").map(({ subject, answer }) => [subject, answer])).toEqual([]);
  for (const receipt of receipts)
    expect(receipt).toMatchObject({
      answer: "Done by the store.",
      probe: expect.stringMatching(/no longer available|lists it as revoked/),
      isChecked: true,
      response: expect.stringContaining(`"id":"${receipt.subject}"`),
      answeredAt: expect.any(String),
    });
  expect(receipts.some(({ tries }) => tries > 1)).toBe(true);
  expect(await appliedInStores()).toBe(before + SIZE.changes);
  for (const id of ids) if (!(await isRevoked(id))) throw new Error(`${id} is still in force in its store.`);
  expect((await session.ask("/api/ledger/proof")).answer.unbroken).toBe(true);
});

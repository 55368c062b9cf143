import { ADMINISTRATOR, Demo, type Session } from "./demo";

/** What must hold when things break in the middle of the work. */
const demo = new Demo();
const STORES = ["stacks", "alcoves", "dock"] as const;
jest.setTimeout(300_000);

beforeAll(() => demo.start(), 300_000);
afterAll(() => demo.remove(), 60_000);

async function stageRevokes(session: Session, query: string, count: number): Promise<string> {
  const { answer } = await session.ask(`/api/register/ids?query=${encodeURIComponent(query)}`);
  const ids: string[] = answer.ids.slice(0, count);
  expect(ids).toHaveLength(count);
  await session.ask("/api/tray", { changes: ids.map((shareId) => ({ action: "revoke", shareId })) });
  return (await session.ask("/api/tray")).answer.docketId;
}

const countsOf = async (session: Session, docket: string) =>
  (await session.ask(`/api/dockets/${docket}`)).answer.progress;
const isDone = async (session: Session, docket: string) => (await countsOf(session, docket)).state === "done";

async function appliedInStores(): Promise<number> {
  const counts = await Promise.all(STORES.map((store) => demo.control(store)));
  return counts.reduce((sum, { applied }) => sum + applied, 0);
}

test("the application is killed in the middle of 200 revokes: each is applied once, every receipt is whole", async () => {
  const session = await demo.signIn(ADMINISTRATOR);
  const docket = await stageRevokes(session, "state:live", 200);
  for (const store of STORES) await demo.control(store, { slowMs: 60 });
  const before = await appliedInStores();
  expect((await session.apply(docket)).status).toBe(200);
  await demo.until(async () => (await appliedInStores()) >= before + 40, "apply forty");
  await demo.killApplication();
  const midway = await countsOf(session, docket);
  expect(midway.state).toBe("applying");
  expect(midway.counts.done).toBeLessThan(200);
  for (const store of STORES) await demo.control(store, { slowMs: 0 });
  await demo.until(() => isDone(session, docket), "finish the docket");

  expect(await appliedInStores()).toBe(before + 200);
  const { receipts, progress } = (await session.ask(`/api/dockets/${docket}`)).answer;
  expect(progress.counts).toEqual({ staged: 0, sending: 0, done: 200, failed: 0, "set-aside": 0, "by-hand": 0 });
  for (const receipt of receipts)
    expect(receipt).toMatchObject({
      state: "done",
      answer: "Done by the store.",
      probe: expect.stringMatching(/no longer available|lists it as revoked/),
      answeredAt: expect.any(String),
    });
  expect((await session.ask("/api/ledger/proof")).answer.unbroken).toBe(true);
});

test("a store that drops, errs, half-applies and asks for quiet is tried again, and nothing is done twice", async () => {
  const before = await appliedInStores();
  const session = await demo.signIn(ADMINISTRATOR);
  const docket = await stageRevokes(session, "state:live store:stacks", 20);
  await demo.control("stacks", { halfApplied: 3 });
  await demo.control("stacks", { drops: 2, errors: 3, tooMany: 2 });
  await session.apply(docket);
  await demo.until(() => isDone(session, docket), "finish the docket");
  const { receipts, progress } = (await session.ask(`/api/dockets/${docket}`)).answer;
  expect(progress.counts.done).toBe(20);
  expect(await appliedInStores()).toBe(before + 20);
  expect(receipts.some((receipt: { tries: number }) => receipt.tries > 1)).toBe(true);
});

test("a change that fails for good is kept as failed, and can be tried again", async () => {
  const session = await demo.signIn(ADMINISTRATOR);
  const docket = await stageRevokes(session, "state:live store:alcoves", 1);
  await demo.control("alcoves", { errors: 5 });
  await session.apply(docket);
  await demo.until(() => isDone(session, docket), "give up");
  expect((await countsOf(session, docket)).counts.failed).toBe(1);
  await session.ask(`/api/dockets/${docket}/retry`, {});
  await demo.until(async () => (await countsOf(session, docket)).counts.done === 1, "do it after all");
});

test("a docket can be paused and goes on when told, with nothing done in between", async () => {
  const session = await demo.signIn(ADMINISTRATOR);
  const docket = await stageRevokes(session, "state:live store:stacks", 30);
  await demo.control("stacks", { slowMs: 400 });
  await session.apply(docket);
  await demo.until(async () => (await countsOf(session, docket)).counts.done > 0, "begin");
  await session.ask(`/api/dockets/${docket}/pause`, {});
  const paused = await countsOf(session, docket);
  expect([paused.state, paused.counts.sending]).toEqual(["paused", 0]);
  expect(paused.counts.staged).toBeGreaterThan(0);
  expect(await countsOf(session, docket)).toEqual(paused);
  await demo.control("stacks", { slowMs: 0 });
  await session.ask(`/api/dockets/${docket}/resume`, {});
  await demo.until(async () => (await countsOf(session, docket)).counts.done === 30, "go on");
});

test("what somebody does in a store is seen by the next reading, once", async () => {
  const session = await demo.signIn(ADMINISTRATOR);
  const first = await session.ask("/api/reading", {});
  expect(first.answer.results.map((one: { error?: string }) => one.error)).toEqual([undefined, undefined, undefined]);
  const second = await session.ask("/api/reading", {});
  expect(second.answer.results.map((one: { changed: number }) => one.changed)).toEqual([0, 0, 0]);
});

test("a stand-in that dies is said and started again", async () => {
  await demo.kill("Alcoves", "alcoves");
  await demo.until(async () => (await demo.control("alcoves").catch(() => undefined)) !== undefined, "answer again");
});

test("Ctrl+C ends every process, and a second start goes on with what is there", async () => {
  expect(await demo.openPorts()).toHaveLength(6);
  await demo.stop();
  expect(await demo.openPorts()).toEqual([]);
  await demo.start();
  const session = await demo.signIn(ADMINISTRATOR);
  expect((await session.ask("/api/ledger/proof")).answer.unbroken).toBe(true);
  expect((await session.ask("/api/register")).answer.total).toBeLessThan(2_051 - 200);
});

import { StoreTrouble } from "../stores/adapter";
import { AT_MOST, Pace } from "./pace";

const never = new AbortController().signal;
const tick = () => new Promise((resolve) => setImmediate(resolve));

/** Keeps so many requests on their way for so long, and tells the most that there were at once. */
async function mostAtOnce(pace: Pace, requests: number): Promise<number> {
  let now = 0;
  let most = 0;
  const request = async () => {
    most = Math.max(most, ++now);
    await tick();
    now--;
  };
  await Promise.all(Array.from({ length: requests }, () => pace.run(request, never)));
  return most;
}

const failing = (pace: Pace, trouble: StoreTrouble) =>
  pace.run(() => Promise.reject(trouble), never).catch((error: unknown) => error);

test("a store that answers is asked more and more at the same time, up to a limit", async () => {
  const pace = new Pace();
  const before = pace.width;
  expect(await mostAtOnce(pace, 400)).toBe(AT_MOST);
  expect([before < AT_MOST, pace.width]).toEqual([true, AT_MOST]);
});

test("one that wants quiet is asked half as much, and nothing before its time", async () => {
  const pace = new Pace();
  await mostAtOnce(pace, 400);
  const began = performance.now();
  await Promise.all([1, 2, 3].map(() => failing(pace, new StoreTrouble("Too many.", "busy", 300))));
  expect(pace.width).toBe(AT_MOST / 2);
  await pace.run(tick, never);
  // What is asserted is the store's own intent, and no speed of ours.
  expect(performance.now() - began).toBeGreaterThanOrEqual(295);
});

test("one that can't be reached is asked by one request at a time until it answers", async () => {
  const pace = new Pace();
  await failing(pace, new StoreTrouble("Down.", "unreached"));
  expect(pace.width).toBe(1);
  await mostAtOnce(pace, 40);
  expect(pace.width).toBeGreaterThan(1);
});

test("whoever waits for a store is told why and since when, once, and when it answers again", async () => {
  const told: unknown[] = [];
  const pace: Pace = new Pace(
    () => "2026-10-05T08:00:00Z",
    () => told.push(pace.held),
  );
  await failing(pace, new StoreTrouble("Stacks can't be reached.", "unreached"));
  await failing(pace, new StoreTrouble("Stacks can't be reached.", "unreached"));
  await pace.run(tick, never);
  await pace.run(tick, never);
  expect(told).toEqual([{ why: "Stacks can't be reached.", since: "2026-10-05T08:00:00Z" }, null]);
});

test("one that breaks over a request is not asked less", async () => {
  const pace = new Pace();
  const before = pace.width;
  const trouble = new StoreTrouble("Broken.", "broken");
  expect(await failing(pace, trouble)).toBe(trouble);
  expect(pace.width).toBe(before);
});

test("what is to halt does not begin", async () => {
  const pace = new Pace();
  await failing(pace, new StoreTrouble("Too many.", "busy", 60_000));
  const halt = new AbortController();
  let isAsked = false;
  const waits = pace.run(async () => (isAsked = true), halt.signal);
  halt.abort();
  await expect(waits).rejects.toThrow("abort");
  expect(isAsked).toBe(false);
});

import { breathe, eachBreathing } from "./breathe";
import { Traffic } from "./traffic";

test("what goes on by itself waits for a question in hand, and not for ever", async () => {
  const traffic = new Traffic();
  let answer = () => {};
  const told: string[] = [];
  const question = traffic.answering(() => new Promise<void>((resolve) => (answer = resolve)));
  const byItself = traffic.giveWay().then(() => told.push("by itself"));
  await Promise.resolve();
  expect(told).toEqual([]);
  answer();
  await question;
  told.push("answered");
  await byItself;
  expect(told).toEqual(["answered", "by itself"]);
  void traffic.answering(() => new Promise<void>(() => {}));
  await traffic.giveWay();
});

test("a question that fails is no longer in hand", async () => {
  const traffic = new Traffic();
  await expect(traffic.answering(() => Promise.reject(new Error("no")))).rejects.toThrow("no");
  const turn = new Promise((resolve) => setImmediate(() => resolve("a turn of the loop")));
  expect(await Promise.race([traffic.giveWay().then(() => "way"), turn])).toBe("way");
});

test("long work lets the event loop come round", async () => {
  let turns = 0;
  const turning = setInterval(() => turns++, 0);
  const busy = () => {
    for (const until = performance.now() + 0.5; performance.now() < until;);
    return 1;
  };
  const done = await eachBreathing(Array.from({ length: 400 }), busy);
  await breathe();
  clearInterval(turning);
  expect([done.length, turns > 0]).toEqual([400, true]);
});

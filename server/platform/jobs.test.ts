import { hostname } from "node:os";
import { openDatabase, type Db } from "./db/open";
import { Clock } from "./clock";
import { Jobs } from "./jobs";

let db: Db;
beforeEach(async () => {
  db = await openDatabase(":memory:", new Clock());
});
afterEach(() => db.destroy());

const until = async () => (await db.selectFrom("lease").select("until").executeTakeFirst())?.until;
const seconds = () => Math.floor(Date.now() / 1_000);
const heldUntil = (at: number) =>
  db
    .insertInto("lease")
    .values({ name: "tick", holder: `${hostname()} ${process.pid} somebody`, until: at })
    .execute();

test("whoever holds it is waited for while they give signs, and no longer", async () => {
  const jobs = new Jobs(db);
  const done = jest.fn(async () => undefined);
  jobs.register(done);
  await heldUntil(seconds() + 20);
  expect([await jobs.doDue(), done.mock.calls.length]).toEqual([null, 0]);
  // Its process is still listed, as one that nobody has cleared away is; but it gives no sign any more.
  await db
    .updateTable("lease")
    .set({ until: seconds() - 1 })
    .execute();
  expect([await jobs.doDue(), done.mock.calls.length]).toEqual([0, 1]);
  expect(await until()).toBeUndefined();
});

test("what takes long is held for as long as it takes", async () => {
  jest.useFakeTimers();
  const jobs = new Jobs(db);
  const signs: number[] = [];
  jobs.register(async () => {
    for (let minute = 0; minute < 3; minute++) {
      await jest.advanceTimersByTimeAsync(60_000);
      signs.push((await until())! - seconds());
    }
  });
  await jobs.doDue();
  expect(Math.min(...signs)).toBeGreaterThanOrEqual(19);
  jest.useRealTimers();
});

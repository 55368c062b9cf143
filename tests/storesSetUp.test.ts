import { storesHandlers } from "@/server/storesHandlers";
import { isLate, type ReadingDay } from "@/core/estate/storeStatus";
import { DAY, HOUR } from "@/core/time/instant";
import { readNow } from "@/server/reading";
import { actorOf } from "./actor";
import { type House, ONE_OF_EACH, openHouse } from "./house";
import { T } from "./records";

const KEY = "a key that is long enough";
const ASKED = { params: {}, query: undefined, past: undefined, file: undefined, network: "" };
const actor = actorOf("ada@home.example");
let house: House;

beforeEach(async () => {
  house = await openHouse(ONE_OF_EACH);
});
afterEach(() => house.close());

const told = async () => (await storesHandlers.storesTold(house.app, { ...ASKED, actor, body: undefined })).stores;
const isReadNow = async () => {
  const { body } = await house.db
    .selectFrom("fact")
    .select("body")
    .where("type", "=", "link")
    .where("key", "=", "l")
    .where("to", "is", null)
    .executeTakeFirstOrThrow();
  return JSON.parse(body);
};
const one = (id: string, body?: undefined) => ({ ...ASKED, params: { id }, actor, body });
const settled = async () => {
  await house.app.reading;
  await readNow(house.app);
};

test("each store says what it can do, how many records are known, and how its readings went", async () => {
  const [dock] = (await told()).filter(({ id }) => id === "stacks");
  expect(dock).toMatchObject({ isRead: true, isLate: false, lastError: null, readsAgain: false });
  expect(dock.records).toBeGreaterThan(5);
  expect(dock.days).toMatchObject([{ day: "2026-10-05", readings: 1, errors: 0 }]);
});

test("a store is tried before it is connected: it says what it is, or why it can’t be read", async () => {
  const { url } = house.stores.dock;
  const look = (given: { url: string; key: string }) =>
    storesHandlers.tryStore(house.app, { ...ASKED, actor, body: given });
  expect(await look({ url, key: KEY })).toMatchObject({ name: "Loading Dock", isAll: true });
  await expect(look({ url, key: "not the key" })).rejects.toThrow(/^The store refused: .*Check its key\.$/);
  await expect(look({ url: "http://127.0.0.1:9", key: KEY })).rejects.toThrow(/Check the address, and that the store/);
  await expect(look({ url: "http://files.home.example", key: KEY })).rejects.toThrow(
    "its key could be read on the way",
  );
  const body = { id: "second", name: "Second", url, key: "not the key" };
  await expect(storesHandlers.addStore(house.app, { ...ASKED, actor, body })).rejects.toThrow("The store refused");
  expect((await told()).map(({ id }) => id)).not.toContain("second");
});

test("a store that is read again from its beginning has ended what it no longer has", async () => {
  const { db } = house.stores.stacks;
  // The store lost it without saying so.
  (db as unknown as { db: { exec(text: string): void } }).db.exec("delete from record where key = 'l'");
  await house.read();
  expect((await isReadNow()).revokedAt ?? null).toBeNull();
  await storesHandlers.readStoreAgain(house.app, one("stacks"));
  await settled();
  expect((await isReadNow()).revokedAt).toBe(house.app.clock.text());
  expect((await told()).find(({ id }) => id === "stacks")).toMatchObject({ readsAgain: false });
});

test("what is known of a store that is disconnected stays, and its key doesn’t; connected again, it is read", async () => {
  const { url } = house.stores.stacks;
  await storesHandlers.disconnectStore(house.app, one("stacks"));
  expect((await told()).find(({ id }) => id === "stacks")).toMatchObject({ isRead: false, url: null });
  expect(await house.db.selectFrom("connection").select("id").where("id", "=", "stacks").execute()).toEqual([]);
  expect((await isReadNow()).id).toBe("l");
  await storesHandlers.addStore(house.app, {
    ...{ ...ASKED, actor },
    body: { id: "stacks", name: "Stacks", url, key: KEY },
  });
  await settled();
  expect((await told()).find(({ id }) => id === "stacks")).toMatchObject({ isRead: true, lastError: null });
  await expect(storesHandlers.disconnectStore(house.app, one("nothing"))).rejects.toThrow("No store called nothing");
});

test("a store is late when it hasn’t been read for twice as long as is usual, and never within two hours", () => {
  const day = (gap: number): ReadingDay => ({ day: "2026-10-04", readings: 1, records: 0, errors: 0, gap });
  const weekly = [day(7 * DAY), day(7 * DAY), day(9 * DAY)];
  expect(isLate(T - 14 * DAY, weekly, T)).toBe(false);
  expect(isLate(T - 14 * DAY - 1, weekly, T)).toBe(true);
  const often = [day(300), day(310)];
  expect([isLate(T - 2 * HOUR, often, T), isLate(T - 2 * HOUR - 1, often, T)]).toEqual([false, true]);
  // Nothing is usual yet.
  expect(isLate(T - 90 * DAY, [day(DAY)], T)).toBe(false);
  expect(isLate(null, weekly, T)).toBe(false);
});

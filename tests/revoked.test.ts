import { parse } from "csv-parse/sync";
import { text } from "node:stream/consumers";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { stage, trayOf } from "@/server/dockets/tray";
import { exportOf } from "@/server/register/exports";
import { actorOf } from "./actor";
import { type House, ONE_OF_EACH, openHouse } from "./house";
import { NOW } from "./records";

process.env.LATCH_NOW = NOW;

/** Shares that were revoked can be asked for, with who ended them and when. */
const ADMIN = "ada@home.example";
let house: House;

beforeAll(async () => {
  house = await openHouse(ONE_OF_EACH);
  house.app.actorFrom = async () => actorOf(ADMIN);
  await stage(house.app, ADMIN, [{ action: "revoke", shareId: "l" }]);
  const { docketId } = await trayOf(house.app, ADMIN);
  expect(await applyDocket(house.app, docketId!, ADMIN)).toBe("begun");
  await allCarriedOut(house.app);
  const { stacks } = house.stores;
  // The other one its owner revokes in the store itself, which tells of it.
  const share = stacks.db.get("link", "n")!;
  stacks.db.put({ ...share, revokedAt: NOW } as never);
  stacks.db.addEvent({ type: "event", id: "e", at: NOW, verb: "revoked", actorId: "ivo", itemId: "f", shareId: "n" });
  await house.read();
});
afterAll(() => house.close());

async function rowsOf(query: string) {
  const address = `${house.app.settings.url}/api/register?query=${encodeURIComponent(query)}&order=item`;
  const { page } = await (await house.app.fetch(new Request(address))).json();
  return page.map(({ row }: { row: { id: string; ended: number; endedBy: string } }) => row);
}

test("a query that doesn't ask for them finds none", async () => {
  expect(await rowsOf("")).toEqual([]);
});

test("the list says who ended each, by the docket or by the trail, and when", async () => {
  const ended = Date.parse(NOW) / 1000;
  expect(await rowsOf("state:revoked")).toMatchObject([
    { id: "l", state: "revoked", ended, endedBy: ADMIN, outside: false, rules: [] },
    { id: "n", state: "revoked", ended, endedBy: "Person ivo", outside: false, rules: [] },
  ]);
});

test("so does a file of them", async () => {
  const order = [{ by: "item" as const, reversed: false }];
  const { body } = await exportOf(house.app, ADMIN, { query: "state:revoked", order, format: "csv" });
  const lines = parse(await text(body as ReadableStream), { bom: true, columns: true }) as Record<string, string>[];
  expect(lines.map((line) => [line.Share, line.Ended, line["Ended by"]])).toEqual([
    ["l", NOW, ADMIN],
    ["n", NOW, "Person ivo"],
  ]);
});

test("nothing more can be staged for them, and that is said", async () => {
  const { left, unknown } = await stage(house.app, "bea@home.example", [
    { action: "set-password", shareId: "l" },
    { action: "revoke", shareId: "n" },
  ]);
  expect([left, unknown]).toEqual([{ "set-password": 1, revoke: 1 }, []]);
});

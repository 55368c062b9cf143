import { cameIn } from "@/server/intake/cameIn";
import { clearMonthly, monthsCleared, setClearing } from "@/server/clearing/clearing";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf } from "@/server/dockets/tray";
import { prepareUndo } from "@/server/dockets/undo";
import { factNow } from "@/server/records/facts";
import { stopEnforcing } from "@/server/rules/enforcing";
import { clearingLines } from "@/server/clearing";
import type { Change } from "@/core/changes/change";
import type { LinkRecord } from "@/core/estate/records";
import { type House, openHouse, PEOPLE } from "./house";
import { file, inDays, item, link, NOW } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(20_000);
const ADMIN = "ada@home.example";
const inDock = { storeId: "dock", ownerId: "ida" };
let house: House;

beforeEach(async () => {
  house = await openHouse({
    stacks: [],
    alcoves: [
      ...PEOPLE,
      item("box", null, { storeId: "alcoves", ownerId: "ida", name: "Box" }),
      link("quiet", "box", { role: "deposit", createdBy: "ida", address: "QUIET" }),
    ],
    dock: [
      ...PEOPLE,
      item("press", null, { ...inDock, name: "Press" }),
      item("plans", "press", { ...inDock, name: "Stage plans" }),
      link("in", "plans", { role: "deposit", createdBy: "ida", address: "INBOX", message: null }),
      file("gone", "press", { ...inDock, name: "Old", state: "binned" }),
      link("broken", "gone", { createdBy: "ida", address: "GONE" }),
      link("ended", "plans", { createdBy: "ida", address: "ENDED", expiresAt: inDays(-3) }),
    ],
  });
});
afterEach(() => house.close());

async function send(store: "dock" | "alcoves", token: string, name: string, bytes: string) {
  const address = `${house.stores[store].url}/l/${token}`;
  const first = await fetch(address);
  const form = new FormData();
  form.set("name", "Odo Quayle");
  form.set("sender", "Odo@quay.example");
  form.set("file", new File([Buffer.from(bytes, "latin1")], name, { type: "application/octet-stream" }));
  const headers = {
    Cookie: first.headers
      .getSetCookie()
      .map((cookie) => cookie.split(";")[0])
      .join("; "),
  };
  return (await fetch(`${address}/files`, { method: "POST", body: form, headers })).text();
}

async function apply(changes: Change[]) {
  await stage(house.app, ADMIN, changes as never);
  const { docketId } = await trayOf(house.app, ADMIN);
  await applyDocket(house.app, docketId!, ADMIN);
  await allCarriedOut(house.app);
  const { receipts } = await docketView(house.app, docketId!);
  return { docketId: docketId!, receipts };
}
const linkOf = (id: string) => factNow<LinkRecord>(house.db, "link", id);

test("what came in is told with its sender and its marks; of a store that tells nothing of its bytes that is said", async () => {
  await send("dock", "INBOX", "Plan.pdf", "%PDF-1.7 plan");
  await send("dock", "INBOX", "Invoice.pdf.exe", "MZ\x90");
  await send("dock", "INBOX", "Plan again.pdf", "%PDF-1.7 plan");
  await send("alcoves", "QUIET", "Rider.pdf", "MZ\x90");
  await house.read();
  const { arrivals, total, more } = await cameIn(house.db, {});
  expect([total, more]).toEqual([4, null]);
  const told = arrivals.map(({ name, marks, tellsBytes, storeName }) => [name, marks, tellsBytes, storeName]);
  expect(told.sort()).toEqual([
    ["Invoice.pdf.exe", ["double", "runs"], true, "Loading Dock"],
    ["Plan again.pdf", ["again"], true, "Loading Dock"],
    ["Plan.pdf", [], true, "Loading Dock"],
    ["Rider.pdf", [], false, "Alcoves"],
  ]);
  expect(arrivals[0]).toMatchObject({ sender: "Odo Quayle", address: "odo@quay.example" });
  expect((await cameIn(house.db, { link: "in", marked: "yes" })).arrivals.map(({ name }) => name)).toEqual([
    "Plan again.pdf",
    "Invoice.pdf.exe",
  ]);
  // Nobody who sends sees what others have sent.
  expect(await (await fetch(`${house.stores.dock.url}/l/INBOX`)).text()).not.toContain("Invoice");
});

test("words, start, end and password are set in its store, and taken back", async () => {
  const { docketId, receipts } = await apply([
    { action: "set-words", shareId: "in", message: "Ida asks for your stage plans." },
    { action: "set-start", shareId: "in", opensAt: inDays(2) },
    { action: "set-expiry", shareId: "in", expiresAt: inDays(20) },
    { action: "set-password", shareId: "in" },
  ]);
  expect(receipts.map(({ state }) => state)).toEqual(["done", "done", "done", "done"]);
  expect(await linkOf("in")).toMatchObject({
    ...{ message: "Ida asks for your stage plans.", opensAt: inDays(2), expiresAt: inDays(20), password: true },
  });
  const { docketId: undo } = await prepareUndo(house.app, docketId, null, ADMIN);
  await applyDocket(house.app, undo, ADMIN);
  await allCarriedOut(house.app);
  expect(await linkOf("in")).toMatchObject({ message: null, opensAt: null, expiresAt: null, password: false });
});

test("visitors read the words that were set", async () => {
  await apply([{ action: "set-words", shareId: "in", message: "Ida asks for your <plans>." }]);
  const page = await (await fetch(`${house.stores.dock.url}/l/INBOX`)).text();
  expect(page).toContain("Ida asks for your &lt;plans&gt;.");
});

test("a link that is moved has an empty folder of its own; the old one is closed, and nothing that came is lost", async () => {
  await send("dock", "INBOX", "Plan.pdf", "%PDF-1.7 plan");
  await house.read();
  const { receipts } = await apply([{ action: "move-intake", shareId: "in", folder: "Plans, received" }]);
  expect(receipts.map(({ change, state }) => [change.action, state])).toEqual([
    ["move-intake", "done"],
    ["revoke", "done"],
  ]);
  const links = await house.app.engine.ask("intakeLinks", {});
  expect(links.map(({ itemName, files, folders, others }) => [itemName, files, folders, others])).toEqual([
    ["Box", 0, 0, 0],
    ["Plans, received", 0, 0, 0],
  ]);
  expect((await fetch(`${house.stores.dock.url}/l/INBOX`)).status).toBe(410);
  expect((await cameIn(house.db, {})).arrivals.map(({ name }) => name)).toEqual(["Plan.pdf"]);
});

test("an intake link is told with the state of its folder, and the rules that it breaks", async () => {
  const [, dock] = await house.app.engine.ask("intakeLinks", {});
  expect(dock).toMatchObject({ itemName: "Stage plans", ends: null, password: false, files: 0, others: 0, readers: 1 });
  expect(dock.answers).toEqual({ name: "Person ida", address: "ida@home.example" });
  expect(dock.findings.map(({ rule }) => rule)).toEqual(["intake-password", "intake-window"]);
});

test("links that are over are told on the Desk, and cleared once a month where that is on", async () => {
  expect((await clearingLines(house.app)).map(({ words }) => words)).toEqual([
    "2 links are over and still there: 2 in Loading Dock.",
  ]);
  await clearMonthly(house.app);
  expect(await monthsCleared(house.db)).toEqual([]);
  await setClearing(house.db, { on: true, most: 5 }, ADMIN);
  await stopEnforcing(house.db, ADMIN, true);
  await clearMonthly(house.app);
  expect(await monthsCleared(house.db)).toEqual([]);
  await stopEnforcing(house.db, ADMIN, false);
  await clearMonthly(house.app);
  await clearMonthly(house.app);
  await allCarriedOut(house.app);
  expect(await monthsCleared(house.db)).toEqual([{ month: NOW.slice(0, 7), docketId: expect.any(String), links: 2 }]);
  expect([(await linkOf("broken"))!.revokedAt, (await linkOf("ended"))!.revokedAt]).toEqual([NOW, NOW]);
  expect(await clearingLines(house.app)).toEqual([]);
});

test("more than may be cleared by itself waits for somebody to look", async () => {
  await setClearing(house.db, { on: true, most: 1 }, ADMIN);
  await clearMonthly(house.app);
  await allCarriedOut(house.app);
  const [{ docketId, links }] = await monthsCleared(house.db);
  expect(links).toBe(2);
  expect((await docketView(house.app, docketId!)).progress.state).toBe("waiting");
  expect((await linkOf("ended"))!.revokedAt ?? null).toBeNull();
});

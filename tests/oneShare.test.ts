import type { LinkRecord } from "@/core/estate/records";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { showOnce } from "@/server/dockets/passphrases";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf } from "@/server/dockets/tray";
import { type House, openHouseWith } from "./house";
import { file, inDays, link, NOW } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

/** What is done to one share: by a standing order, step by step, and with a passphrase. */
const ADMIN = "admin@home.example";
let house: House;

const dockItem = (id: string, more: object = {}) => file(id, null, { storeId: "dock", ownerId: "ida", ...more });
const houseWith = async (records: Parameters<typeof openHouseWith>[0]) => void (house = await openHouseWith(records));
afterEach(() => house.close());

describe("standing orders", () => {
  const shares = [
    file("p", null, { storeId: "stacks", ownerId: "ida", name: "Plan.pdf" }),
    link("n", "p", { reach: "named", recipients: [{ email: "out@quay.example" }], address: "N" }),
  ];
  const end = (on: string) => stage(house.app, ADMIN, [{ action: "set-expiry", shareId: "n", expiresAt: on }]);
  const stacksLink = () => house.stores.stacks.db.get<LinkRecord>("link", "n")!;
  async function applyTray() {
    const { docketId } = await trayOf(house.app, ADMIN);
    expect(await applyDocket(house.app, docketId!, ADMIN)).toBe("begun");
    await allCarriedOut(house.app);
  }

  test("take the place of an end that the store can't keep, and revoke on the day, once", async () => {
    await houseWith({ stacks: shares });
    await end(inDays(9));
    const { changes, preview } = await trayOf(house.app, ADMIN);
    expect(changes.map(({ change }) => change.action)).toEqual(["order-revoke"]);
    expect(preview!.later).toMatchObject([{ itemName: "Plan.pdf", on: "14 Oct 2026, 08:00 UTC", byOrder: true }]);
    await applyTray();
    expect(stacksLink().revokedAt).toBeFalsy();
    await house.later(8);
    await house.tick();
    expect(stacksLink().revokedAt).toBeFalsy();
    await house.later(2);
    await house.tick();
    await house.tick();
    expect(stacksLink().revokedAt).toBe(inDays(10));
    expect(house.stores.stacks.db.appliedCount).toBe(1);
    const orders = await house.db.selectFrom("standing_order").select("state").execute();
    expect(orders).toEqual([{ state: "done" }]);
    const dockets = await house.db.selectFrom("docket").select(["origin", "state"]).orderBy("made_at").execute();
    expect(dockets).toEqual([
      { origin: "tray", state: "done" },
      { origin: "order", state: "done" },
    ]);
  });

  test("a later one takes the earlier's place, and one for what was revoked meanwhile goes", async () => {
    await houseWith({ stacks: shares });
    await end(inDays(9));
    await applyTray();
    await end(inDays(5));
    await applyTray();
    const order = () => house.db.selectFrom("standing_order").select(["on_at", "state"]).orderBy("id").execute();
    expect(await order()).toEqual([
      { on_at: inDays(9), state: "dropped" },
      { on_at: inDays(5), state: "standing" },
    ]);
    house.stores.stacks.db.put({ ...stacksLink(), revokedAt: NOW });
    await house.later(6);
    await house.tick();
    expect((await order()).map(({ state }) => state)).toEqual(["dropped", "dropped"]);
    expect(house.stores.stacks.db.appliedCount).toBe(0);
  });
});

describe("steps on one share", () => {
  test("are done in their order: lowered to view, then blocked; the new link before the old one goes", async () => {
    await houseWith({
      stacks: [file("p", null, { storeId: "stacks", ownerId: "ida" }), link("e", "p", { role: "edit", address: "E" })],
      alcoves: [file("q", null, { storeId: "alcoves", ownerId: "ida" }), link("w", "q", { address: "W" })],
    });
    await stage(house.app, ADMIN, [
      { action: "block-download", shareId: "e" },
      { action: "narrow", shareId: "w", addresses: ["out@quay.example"] },
    ]);
    const { docketId, preview } = await trayOf(house.app, ADMIN);
    expect([preview!.impossible, preview!.newAddresses]).toMatchObject([[], [{ addresses: ["out@quay.example"] }]]);
    await applyDocket(house.app, docketId!, ADMIN);
    await allCarriedOut(house.app);
    const { receipts } = await docketView(house.app, docketId!);
    expect(receipts.map(({ change, state }) => [change.action, state])).toEqual([
      ["set-role", "done"],
      ["block-download", "done"],
      ["make-link", "done"],
      ["revoke", "done"],
    ]);
    expect(house.stores.stacks.db.get<LinkRecord>("link", "e")).toMatchObject({ role: "view", download: false });
    await house.later(0);
    const links = house.stores.alcoves.db
      .after(0, 99)
      .flatMap(({ record }) => (record.type === "link" ? [record] : []));
    expect(links.map(({ reach, revokedAt }) => [reach, Boolean(revokedAt)]).sort()).toEqual([
      ["named", false],
      ["open", true],
    ]);
  });

  test("a later intent takes the earlier's place, and a revoke that of everything else on the share", async () => {
    await houseWith({ dock: [dockItem("f"), link("l", "f")] });
    await stage(house.app, ADMIN, [
      { action: "set-password", shareId: "l" },
      { action: "set-expiry", shareId: "l", expiresAt: inDays(9) },
      { action: "set-expiry", shareId: "l", expiresAt: inDays(5) },
    ]);
    const actions = async () => (await trayOf(house.app, ADMIN)).changes.map(({ change }) => change.action);
    expect(await actions()).toEqual(["set-password", "set-expiry"]);
    await stage(house.app, ADMIN, [{ action: "revoke", shareId: "l" }]);
    expect(await actions()).toEqual(["revoke"]);
    await stage(house.app, ADMIN, [{ action: "block-download", shareId: "l" }]);
    expect(await actions()).toEqual(["block-download"]);
  });
});

describe("passphrases", () => {
  test("are sealed, never in the ledger or the docket, shown once, and wiped after seven days", async () => {
    await houseWith({ dock: [dockItem("f"), dockItem("h"), link("l", "f", { address: "L" }), link("m", "h")] });
    await stage(
      house.app,
      ADMIN,
      ["l", "m"].map((shareId) => ({ action: "set-password" as const, shareId })),
    );
    const { docketId } = await trayOf(house.app, ADMIN);
    await applyDocket(house.app, docketId!, ADMIN);
    await allCarriedOut(house.app);
    const { receipts } = await docketView(house.app, docketId!);
    const sealed = await house.db.selectFrom("passphrase").select("sealed").execute();
    const passphrase = await showOnce(house.app, receipts[0].passphrase!, ADMIN);
    const kept = JSON.stringify([
      await house.db.selectFrom("ledger").selectAll().execute(),
      await house.db.selectFrom("docket_change").selectAll().execute(),
      sealed,
    ]);
    expect(kept).not.toContain(passphrase);
    await expect(showOnce(house.app, receipts[0].passphrase!, ADMIN)).rejects.toThrow(
      "shown to admin@home.example already",
    );
    const body = new URLSearchParams({ password: passphrase });
    const opened = await fetch(`${house.stores.dock.url}/l/L/password`, { method: "POST", body, redirect: "manual" });
    expect(opened.status).toBe(303);
    await house.later(8);
    await house.tick();
    expect(await house.db.selectFrom("passphrase").select("sealed").execute()).toEqual([
      { sealed: null },
      { sealed: null },
    ]);
    await expect(showOnce(house.app, receipts[1].passphrase!, ADMIN)).rejects.toThrow("deleted after 7 days");
  });
});

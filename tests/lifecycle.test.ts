import { sql } from "kysely";
import { setTimeout as wait } from "node:timers/promises";
import { CHANGE_STATES, DOCKET_STATES } from "@/core/changes/states";
import { agreeToApproval, setApproval } from "@/server/dockets/approval";
import { allCarriedOut, applyDocket, dropDocket, pauseDocket, stopDocket } from "@/server/dockets/executor";
import { beginApplying, moveDocket, MOVES, type MoveName, openDocket } from "@/server/dockets/lifecycle";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf, unstage } from "@/server/dockets/tray";
import { runForEach, writing } from "@/server/platform/db/open";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, inDays, link, NOW } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(120_000);

const [ADMIN, OTHER] = ["admin@home.example", "other@home.example"];
const TRIES = 50;
const NOBODY_ELSE = { above: null, insiders: false };
const LINKS = Array.from({ length: 8 }, (_, n) => `l${n}`);
let house: House;

beforeAll(async () => {
  house = await openHouse({
    stacks: [...PEOPLE, file("plan", null, inStacks), ...LINKS.map((id) => link(id, "plan", { address: id }))],
    alcoves: [],
    dock: [],
  });
});
afterAll(() => house.close());

const stateOf = async (id: string) =>
  (await house.db.selectFrom("docket").select("state").where("id", "=", id).executeTakeFirstOrThrow()).state;
const entriesOf = async (id: string) =>
  (
    await house.db
      .selectFrom("ledger")
      .select("kind")
      .where(sql<boolean>`body ->> '$.docket' = ${id}`)
      .execute()
  ).map(({ kind }) => kind);
const ends = (ids: string[], days: number) =>
  ids.map((shareId) => ({ action: "set-expiry" as const, shareId, expiresAt: inDays(days) }));
const docketIn = async (state: string) => {
  const id = await writing(house.db, (tx) =>
    openDocket(tx, { madeBy: ADMIN, origin: "undo", words: "test", plans: [] }),
  );
  await sql`update docket set state = ${state} where id = ${id}`.execute(house.db);
  return id;
};

const SAID: Partial<Record<MoveName, object>> = {
  ask: { changes: 1, reasons: ["somebody should look"] },
  apply: { changes: [] },
  finish: Object.fromEntries(CHANGE_STATES.map((state) => [state, 0])),
};

test.each(Object.keys(MOVES) as MoveName[])(
  "%s goes from its states alone, with one entry in the ledger",
  async (name) => {
    for (const state of DOCKET_STATES) {
      const id = await docketIn(state === "preparing" ? "waiting" : state);
      if (state === "preparing") continue;
      const isMoved = await writing(house.db, (tx) => moveDocket(tx, id, name, ADMIN, { entry: SAID[name] as never }));
      const may = (MOVES[name].from as readonly string[]).includes(state);
      expect([state, isMoved, await stateOf(id)]).toEqual([state, may, may ? MOVES[name].to : state]);
      expect(await entriesOf(id)).toEqual(may ? [MOVES[name].entry] : []);
      await sql`update docket set state = 'dropped' where id = ${id}`.execute(house.db);
    }
  },
);

test("what is known of each share is stored with its change, however many there are", async () => {
  const id = await docketIn("waiting");
  const changes = Array.from({ length: 1_203 }, (_, n) => {
    const { action, shareId } = { action: "revoke" as const, shareId: n % 2 === 0 ? LINKS[n % LINKS.length] : "gone" };
    return [id, `d${n}`, n + 1, `subject ${n}`, shareId, JSON.stringify({ action, shareId })];
  });
  const seen = await writing(house.db, async (tx) => {
    runForEach(
      tx,
      `insert into docket_change (docket_id, id, position, subject, share_id, body, store_id, item_name, audience, state)
        values (?, ?, ?, ?, ?, ?, 'stacks', '', '', 'staged')`,
      changes,
    );
    await beginApplying(tx, id, ADMIN);
    const rows = await tx
      .selectFrom("docket_change")
      .select(["share_id", "seen"])
      .where("docket_id", "=", id)
      .execute();
    await tx.deleteFrom("docket_change").where("docket_id", "=", id).execute();
    await sql`update docket set state = 'dropped' where id = ${id}`.execute(tx);
    return rows.map(({ share_id, seen }) => [share_id, seen === null ? null : JSON.parse(seen).id]);
  });
  expect(seen).toHaveLength(1_203);
  expect(seen.filter(([share, known]) => known !== (share === "gone" ? null : share))).toEqual([]);
});

test("a move that comes to nothing leaves no entry behind, and an entry that can't be written no move", async () => {
  const id = await docketIn("waiting");
  await sql
    .raw(`create trigger no_entry before insert on ledger begin select raise(abort, 'no room'); end`)
    .execute(house.db);
  await expect(dropDocket(house.app, id, ADMIN)).rejects.toMatchObject({ message: "no room" });
  await sql.raw("drop trigger no_entry").execute(house.db);
  expect([await stateOf(id), await entriesOf(id)]).toEqual(["waiting", []]);
  await dropDocket(house.app, id, ADMIN);
});

test("what is applied is what was shown: not what another window has staged since", async () => {
  await stage(house.app, ADMIN, ends(LINKS.slice(0, 1), 300));
  const { docketId, digest } = await trayOf(house.app, ADMIN);
  await stage(house.app, ADMIN, ends(LINKS.slice(1, 3), 300));
  await expect(applyDocket(house.app, docketId!, ADMIN, { digest: digest!, reopened: 0 })).rejects.toThrow(
    "The docket has changed since it was shown to you: it has 3 changes now. Nothing was applied.",
  );
  expect(await stateOf(docketId!)).toBe("preparing");
  const shown = await trayOf(house.app, ADMIN);
  expect([shown.changes.length, (await docketView(house.app, docketId!)).digest]).toEqual([3, shown.digest]);
  await unstage(house.db, ADMIN, null);
  await sql`update docket set state = 'dropped' where state = 'preparing'`.execute(house.db);
});

test(`of ${TRIES} tries to stage more at the moment of applying none slips past the second pair of eyes`, async () => {
  await setApproval(house.db, { above: 3, insiders: true }, ADMIN);
  const outcomes: Record<string, number> = {};
  // As in life, what a docket would do takes a while to tell, in another thread.
  const { engine } = house.app;
  const { ask } = engine;
  engine.ask = async (name, ...rest) => {
    if (name === "preview") await wait(6);
    return ask(name, ...rest);
  };
  for (let n = 0; n < TRIES; n++) {
    await stage(house.app, ADMIN, ends(LINKS.slice(0, 3), 299 - n));
    const { docketId } = await trayOf(house.app, ADMIN);
    const more = async () => {
      await wait(n % 12);
      await stage(house.app, ADMIN, ends(LINKS.slice(3), 299 - n));
    };
    const [applied] = await Promise.all([
      applyDocket(house.app, docketId!, ADMIN).catch((error: Error) => error.message),
      more(),
    ]);
    outcomes[applied] = (outcomes[applied] ?? 0) + 1;
    await allCarriedOut(house.app);
    const { count } = await house.db
      .selectFrom("docket_change")
      .select((eb) => eb.fn.countAll<number>().as("count"))
      .where("docket_id", "=", docketId!)
      .executeTakeFirstOrThrow();
    if (applied === "begun") expect(Number(count)).toBe(3);
    else expect(["preparing", "waiting"]).toContain(await stateOf(docketId!));
    if (applied === "asked") await dropDocket(house.app, docketId!, OTHER);
    await unstage(house.db, ADMIN, null);
    // What stays in the tray goes with it.
    await sql`update docket set state = 'dropped' where state = 'preparing'`.execute(house.db);
  }
  engine.ask = ask;
  // It happened at every moment: while it was judged, and after.
  expect(Object.keys(outcomes).sort()).toEqual([
    "The docket has changed. Nothing was applied: review it again.",
    "begun",
  ]);
});

test("a docket that is stopped goes no further, though the process dies in the middle of that", async () => {
  await setApproval(house.db, NOBODY_ELSE, ADMIN);
  await agreeToApproval(house.db, NOBODY_ELSE, OTHER);
  await house.control("stacks", { slowMs: 200 });
  await stage(house.app, ADMIN, ends(LINKS, 100));
  const { docketId } = await trayOf(house.app, ADMIN);
  await applyDocket(house.app, docketId!, ADMIN);
  await pauseDocket(house.app, docketId!, ADMIN);
  await sql
    .raw(
      `create trigger dies before update on docket_change when new.state = 'set-aside' begin select raise(abort, 'the power went'); end`,
    )
    .execute(house.db);
  await expect(stopDocket(house.app, docketId!, ADMIN)).rejects.toMatchObject({ message: "the power went" });
  await sql.raw("drop trigger dies").execute(house.db);
  // Else it would go on by itself at the next start, with all that was to be left.
  expect([await stateOf(docketId!), (await entriesOf(docketId!)).includes("docket-stopped")]).toEqual([
    "paused",
    false,
  ]);
  await house.control("stacks", { slowMs: 0 });
  await stopDocket(house.app, docketId!, ADMIN);
  await allCarriedOut(house.app);
  expect(await stateOf(docketId!)).toBe("done");
});

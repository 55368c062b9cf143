import { entriesBefore } from "@/server/records/ledger/ledger";
import { dayWords } from "@/core/text/words";
import { noticeWords } from "@/core/changes/telling";
import { isClosed } from "@/core/changes/states";
import { agreeToApproval, approvalView, dropProposedApproval, setApproval } from "@/server/dockets/approval";
import { deskFor } from "@/server/desk/desk";
import { allCarriedOut, applyDocket, retryFailed, takeOver } from "@/server/dockets/executor";
import { noticesView, sendNotices } from "@/server/dockets/notices";
import { showAllOnce, showOnce } from "@/server/dockets/passphrases";
import { docketLines, docketView } from "@/server/dockets/receipts";
import { nameAfter, stage, trayOf, unstage } from "@/server/dockets/tray";
import { prepareUndo } from "@/server/dockets/undo";
import { actorOf } from "./actor";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, link, named, NOW } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const [ADMIN, OTHER] = ["admin@home.example", "other@home.example"];
let house: House;

beforeEach(async () => {
  house = await openHouse({
    stacks: [
      ...PEOPLE,
      file("plan", null, inStacks),
      file("rider", null, inStacks),
      link("open", "plan", { address: "OPEN", createdBy: "ida" }),
      link("house", "plan", { reach: "house", createdBy: "ida" }),
      { ...named("own", "rider", ["ivo@home.example", "out@quay.example"]), address: "OWN" },
    ],
    alcoves: [],
    dock: [],
  });
});
afterEach(() => house.close());

async function staged(...shareIds: string[]): Promise<string> {
  await stage(
    house.app,
    ADMIN,
    shareIds.map((shareId) => ({ action: "revoke", shareId })),
  );
  return (await trayOf(house.app, ADMIN)).docketId!;
}

async function applied(docketId: string, actor = ADMIN) {
  expect(await applyDocket(house.app, docketId, actor)).toBe("begun");
  await allCarriedOut(house.app);
  return docketView(house.app, docketId);
}

describe("a docket's name and reason", () => {
  const entries = async () =>
    (await entriesBefore(house.db, Infinity, 1_000))
      .filter(({ kind }) => kind === "docket-applied" || kind === "docket-approval-asked")
      .map(({ body }) => body as { name: string | null; reason: string | null })
      .map(({ name, reason }) => [name, reason])
      .reverse();

  test("a docket may be called after the query that found it; what it is called and why stand in the ledger", async () => {
    await stage(house.app, ADMIN, [{ action: "revoke", shareId: "open" }], nameAfter("reach:open  used:>90d"));
    await stage(house.app, ADMIN, [{ action: "revoke", shareId: "house" }], nameAfter("owner:ida"));
    const { docketId, name } = await trayOf(house.app, ADMIN);
    expect(name).toBe("Found by reach:open used:>90d");
    const naming = { name: "Old links", reason: "The tour is over" };
    expect(await applyDocket(house.app, docketId!, ADMIN, { reopened: 0, ...naming })).toBe("begun");
    await allCarriedOut(house.app);
    expect(await docketView(house.app, docketId!)).toMatchObject(naming);
    expect(await docketLines(house.db)).toMatchObject([naming]);
    const notices = await noticesView(house.app, docketId!);
    expect(noticeWords("owners", notices)).toEqual({
      subject: "Sharing of your files was changed: Old links",
      head: expect.stringMatching(/Reason: The tour is over$/),
    });
    expect(noticeWords("recipients", notices).subject).toBe("Your access to shared files was changed");
    expect(await entries()).toEqual([["Old links", "The tour is over"]]);
  });

  test("where every docket needs a reason, none is applied without; one who approves need not say it again", async () => {
    await setApproval(house.db, { above: 1, insiders: false, reason: true }, ADMIN);
    const docketId = await staged("open", "house");
    await expect(applyDocket(house.app, docketId, ADMIN)).rejects.toThrow("Give a reason");
    expect((await docketView(house.app, docketId)).progress.state).toBe("preparing");
    expect(await applyDocket(house.app, docketId, ADMIN, { reopened: 0, reason: "Asked by the board" })).toBe("asked");
    expect(await applyDocket(house.app, docketId, OTHER)).toBe("begun");
    await allCarriedOut(house.app);
    expect(await entries()).toEqual([
      [null, "Asked by the board"],
      [null, "Asked by the board"],
    ]);
  });

  test("not to ask for a reason any more is looser, and waits for another administrator", async () => {
    await setApproval(house.db, { above: null, insiders: false, reason: true }, ADMIN);
    await setApproval(house.db, { above: null, insiders: false }, ADMIN);
    expect((await approvalView(house.db)).setting.reason).toBe(true);
  });

  test("a tray that was emptied is called after what is found next", async () => {
    await stage(house.app, ADMIN, [{ action: "revoke", shareId: "open" }], nameAfter("reach:open"));
    await unstage(house.db, ADMIN, null);
    await stage(house.app, ADMIN, [{ action: "revoke", shareId: "house" }], nameAfter("x".repeat(300)));
    const { name } = await trayOf(house.app, ADMIN);
    expect([name?.length, name?.endsWith("…")]).toEqual([120, true]);
  });
});

describe("a second pair of eyes", () => {
  test("a docket above the size waits for another administrator; whoever put it together can't approve it", async () => {
    await setApproval(house.db, { above: 1, insiders: false }, ADMIN);
    const docketId = await staged("open", "house");
    expect(await applyDocket(house.app, docketId, ADMIN)).toBe("asked");
    const waiting = await docketView(house.app, docketId);
    expect([waiting.progress.state, waiting.askedBy, waiting.reasons]).toEqual([
      "waiting",
      ADMIN,
      ["it has more than 1 change"],
    ]);
    await expect(applyDocket(house.app, docketId, ADMIN)).rejects.toThrow(
      "Waiting for another administrator’s approval:",
    );
    const { lines } = await deskFor(house.app, OTHER, dayWords);
    expect(lines.map(({ words }) => words)).toContain(
      `A docket from ${ADMIN} is waiting for another administrator’s approval.`,
    );
    const done = await applied(docketId, OTHER);
    expect([done.progress.counts.done, done.approvedBy]).toEqual([2, OTHER]);
    const kinds = await house.db.selectFrom("ledger").select(["kind", "actor"]).orderBy("seq").execute();
    expect(kinds).toEqual(
      expect.arrayContaining([
        { kind: "approval-set", actor: ADMIN },
        { kind: "docket-approval-asked", actor: ADMIN },
        { kind: "docket-applied", actor: OTHER },
      ]),
    );
  });

  test("so does one by which somebody of the house loses something, however small; others don't", async () => {
    await setApproval(house.db, { above: null, insiders: true }, ADMIN);
    const harmless = await applied(await staged("open"));
    expect([harmless.progress.counts.done, harmless.approvedBy]).toEqual([1, null]);
    const docketId = await staged("own");
    expect(await applyDocket(house.app, docketId, ADMIN)).toBe("asked");
    expect((await docketView(house.app, docketId)).reasons).toEqual(["1 change would take access from our own people"]);
  });

  test("what loosens it waits until another administrator agrees to just that", async () => {
    const tight = { above: 1, insiders: true };
    await setApproval(house.db, tight, ADMIN);
    for (const setting of [
      { above: 1, insiders: false },
      { above: 2, insiders: true },
      { above: null, insiders: true },
      // Tighter in one thing is looser in the other all the same.
      { above: 0, insiders: false },
    ]) {
      await setApproval(house.db, setting, ADMIN);
      expect(await approvalView(house.db)).toEqual({
        setting: tight,
        proposed: { setting, by: ADMIN, at: expect.any(String) },
      });
      await expect(agreeToApproval(house.db, setting, ADMIN)).rejects.toThrow("You asked for this");
      await expect(agreeToApproval(house.db, { above: 9, insiders: false }, OTHER)).rejects.toThrow(
        "The request has changed",
      );
    }
    await agreeToApproval(house.db, { above: 0, insiders: false }, OTHER);
    expect(await approvalView(house.db)).toEqual({ setting: { above: 0, insiders: false }, proposed: null });
    await setApproval(house.db, { above: 5, insiders: false }, ADMIN);
    await dropProposedApproval(house.db, { above: 5, insiders: false }, ADMIN);
    await expect(agreeToApproval(house.db, { above: 5, insiders: false }, OTHER)).rejects.toThrow(
      "The request has changed",
    );
    // To tighten needs nobody, and whoever waits with something looser has to ask again.
    await setApproval(house.db, { above: 5, insiders: false }, ADMIN);
    await setApproval(house.db, { above: 0, insiders: true }, ADMIN);
    expect(await approvalView(house.db)).toEqual({ setting: { above: 0, insiders: true }, proposed: null });
    const kinds = await house.db.selectFrom("ledger").select(["kind", "actor"]).orderBy("seq").execute();
    expect(kinds.slice(-5)).toEqual([
      { kind: "approval-loosened", actor: OTHER },
      { kind: "approval-loosening-asked", actor: ADMIN },
      { kind: "approval-loosening-dropped", actor: ADMIN },
      { kind: "approval-loosening-asked", actor: ADMIN },
      { kind: "approval-set", actor: ADMIN },
    ]);
  });

  test("a docket that was sent for approval needs it still when the setting has been loosened", async () => {
    await setApproval(house.db, { above: 1, insiders: false }, ADMIN);
    const docketId = await staged("open", "house");
    expect(await applyDocket(house.app, docketId, ADMIN)).toBe("asked");
    await setApproval(house.db, { above: null, insiders: false }, ADMIN);
    await agreeToApproval(house.db, { above: null, insiders: false }, OTHER);
    await expect(applyDocket(house.app, docketId, ADMIN)).rejects.toThrow(
      "Waiting for another administrator’s approval:",
    );
    expect((await docketView(house.app, docketId)).reasons).toEqual(["it was sent for approval"]);
    expect((await applied(docketId, OTHER)).approvedBy).toBe(OTHER);
  });

  test("an undo needs it like any other", async () => {
    const { progress } = await applied(await staged("open", "house"));
    await setApproval(house.db, { above: 1, insiders: false }, ADMIN);
    const { docketId } = await prepareUndo(house.app, progress.docketId, null, ADMIN);
    expect(await applyDocket(house.app, docketId, ADMIN)).toBe("asked");
    expect((await applied(docketId, OTHER)).progress.counts.done).toBe(2);
  });
});

describe("whoever signed in a while ago signs in again", () => {
  const long = { ...actorOf(ADMIN), signedInAt: Date.now() / 1_000 - 16 * 60 };
  const apply = (docketId: string, by = long) => applyDocket(house.app, docketId, ADMIN, { reopened: 0, by });

  test("for many changes at once, of exactly those that are applied", async () => {
    Object.assign(house.app.settings, { freshAbove: 1 });
    const docketId = await staged("open", "house");
    await expect(apply(docketId)).rejects.toMatchObject({ kind: "sign-in-again" });
    expect((await docketView(house.app, docketId)).progress.state).toBe("preparing");
    expect(await apply(docketId, actorOf(ADMIN))).toBe("begun");
    await allCarriedOut(house.app);
    Object.assign(house.app.settings, { freshAbove: 50 });
  });

  test("for an undo, which lets people in again", async () => {
    const { progress } = await applied(await staged("open"));
    const { docketId } = await prepareUndo(house.app, progress.docketId, null, ADMIN);
    await expect(apply(docketId)).rejects.toMatchObject({ kind: "sign-in-again" });
    expect(await apply(docketId, actorOf(ADMIN))).toBe("begun");
    await allCarriedOut(house.app);
  });

  test("not for a few that only take access away", async () => {
    expect(await apply(await staged("open"))).toBe("begun");
    await allCarriedOut(house.app);
  });
});

describe("a docket is closed when all of it has been seen to", () => {
  test("what failed is tried again, or taken over by hand", async () => {
    await house.control("stacks", { errors: 1_000 });
    const docketId = await staged("open");
    const failed = await applied(docketId);
    expect([failed.progress.counts.failed, isClosed(failed.progress)]).toEqual([1, false]);
    await takeOver(house.app, docketId, ADMIN);
    const { progress } = await docketView(house.app, docketId);
    expect([progress.counts["by-hand"], isClosed(progress)]).toEqual([1, false]);
    await expect(takeOver(house.app, docketId, ADMIN)).rejects.toThrow(
      "There is nothing to take over in this docket: every change was done or skipped.",
    );
  });

  test("what could not be looked at is looked at again", async () => {
    const docketId = await staged("open");
    await applied(docketId);
    await house.db.updateTable("docket_change").set({ checked: 0, probe: "Could not be checked" }).execute();
    const unseen = await docketView(house.app, docketId);
    expect([unseen.progress.unchecked, isClosed(unseen.progress)]).toEqual([1, false]);
    await retryFailed(house.app, docketId, ADMIN);
    await allCarriedOut(house.app);
    const { progress, receipts } = await docketView(house.app, docketId);
    expect([isClosed(progress), receipts[0].probe]).toEqual([true, "The address answers: no longer available."]);
    expect(house.stores.stacks.db.appliedCount).toBe(1);
  });
});

describe("notices", () => {
  const send = (docketId: string, audience: "owners" | "recipients", addresses: string[], words = {}) =>
    sendNotices(
      house.app,
      docketId,
      { audience, ...noticeWords(audience, { name: null, reason: null }), ...words, addresses },
      ADMIN,
    );

  test("an owner has one mail for all of a docket, in words that were changed, once", async () => {
    const { progress } = await applied(await staged("open", "house", "own"));
    const { telling } = await noticesView(house.app, progress.docketId);
    expect(telling.owners.map(({ address, lines }) => [address, lines.length])).toEqual([["ida@home.example", 3]]);
    expect(telling.recipients.map(({ address }) => address)).toEqual(["ivo@home.example", "out@quay.example"]);
    expect(await send(progress.docketId, "owners", ["ida@home.example"], { head: "Friday <clean-up>." })).toBe(1);
    expect(await send(progress.docketId, "owners", ["ida@home.example"])).toBe(0);
    await house.tick();
    expect(house.mails).toHaveLength(1);
    const [{ subject, text, html }] = house.mails;
    expect(subject).toBe("Sharing of your files was changed");
    expect(text).toContain("Friday <clean-up>.");
    expect(text!.match(/A share of it was revoked\./g)).toHaveLength(3);
    expect(html).toContain("Friday &lt;clean-up&gt;.");
    expect((await noticesView(house.app, progress.docketId)).sent).toEqual([
      { audience: "owners", address: "ida@home.example", state: "sent" },
    ]);
    const letters = await house.db.selectFrom("letter").select("content").execute();
    expect(letters).toEqual([{ content: null }]);
    await expect(send(progress.docketId, "owners", ["out@quay.example"])).rejects.toThrow("nothing to tell");
  });

  test("who had a link that comes back is told its new address, which stands sealed until then", async () => {
    const { progress } = await applied(await staged("own"));
    const { docketId } = await prepareUndo(house.app, progress.docketId, null, ADMIN);
    await applied(docketId);
    expect(await send(docketId, "recipients", ["out@quay.example"])).toBe(1);
    const [{ content }] = await house.db.selectFrom("letter").select("content").execute();
    expect(content).not.toContain("/l/");
    await house.tick();
    const [{ text }] = house.mails;
    expect(text).toContain("There is a new link to it for you.");
    const address = /http:\S+\/l\/\w+/.exec(text!)![0];
    expect(address).not.toContain("OWN");
    expect((await fetch(address)).status).not.toBe(410);
  });
});

test("the passphrases of a docket are shown together once, by owner, and never beside the addresses they open", async () => {
  await stage(
    house.app,
    ADMIN,
    ["open", "house"].map((shareId) => ({ action: "set-password", shareId })),
  );
  const { docketId } = await trayOf(house.app, ADMIN);
  const { receipts, passphrases } = await applied(docketId!);
  expect(passphrases).toBe(receipts.filter(({ passphrase }) => passphrase !== null).length);
  expect(passphrases).toBeGreaterThan(0);
  const sheet = await showAllOnce(house.app, docketId!, ADMIN);
  expect(sheet).toHaveLength(passphrases);
  expect(sheet[0]).toEqual({
    owner: expect.any(String),
    where: expect.stringContaining("Stacks"),
    itemName: "Item plan",
    audience: expect.any(String),
    passphrase: expect.stringMatching(/^[a-z]+(-[a-z]+){5}$/),
  });
  expect(JSON.stringify(sheet)).not.toContain("OPEN");
  expect(await showAllOnce(house.app, docketId!, ADMIN)).toEqual([]);
  expect((await docketView(house.app, docketId!)).passphrases).toBe(0);
  await expect(showOnce(house.app, receipts[0].passphrase!, ADMIN)).rejects.toThrow("was shown to");
});

import type { LinkRecord } from "@/core/estate/records";
import { standardSetting } from "@/core/rules/setting";
import type { RuleId } from "@/core/rules/list";
import type { RuleSetting } from "@/core/rules/mode";
import { seconds } from "@/core/time/instant";
import { verifyLedger } from "@/server/records/ledger/verify";
import { signed } from "@/server/platform/signed";
import { applyDocket, allCarriedOut } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { MOST_CHANGES_AN_HOUR, stopEnforcing } from "@/server/rules/enforcing";
import { letterAt } from "@/server/rules/askedAt";
import { answer, askedBy, showToOwner } from "@/server/rules/answers";
import { changeRule, previewRule } from "@/server/rules/rules";
import { allWaivers, giveWaivers } from "@/server/rules/waivers";
import { type House, openHouseWith } from "./house";
import { actorOf } from "./actor";
import { file, inDays, link, NOW, T } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(60_000);

const IDA = "ida@home.example";
const ODA = "oda@home.example";
const ADMIN = "admin@home.example";
let house: House;

const dockItem = (id: string, more: object = {}) => file(id, null, { storeId: "dock", ownerId: "ida", ...more });
const houseWith = async (records: Parameters<typeof openHouseWith>[0]) => void (house = await openHouseWith(records));
afterEach(() => house.close());

/** Sets a rule by way of its preview, as the screen does. */
async function setRule(rule: RuleId, more: Partial<RuleSetting>) {
  const setting = { ...standardSetting(rule), ...more };
  const { pass } = await previewRule(house.app, rule, setting);
  await changeRule(house.app, actorOf(ADMIN), rule, setting, pass);
}
const tokenIn = (text: string | undefined) => text!.match(/answer#([\w.-]+)/)![1];
const states = async () =>
  (await house.db.selectFrom("demand").select(["subject", "state"]).orderBy("id").execute()).map(
    (d) => `${d.subject} ${d.state}`,
  );
const dockLink = (id: string) => house.stores.dock.db.get<LinkRecord>("link", id)!;

describe("a rule that asks", () => {
  beforeEach(async () => {
    await houseWith({
      dock: [
        dockItem("f"),
        dockItem("h"),
        dockItem("o", { ownerId: "oda" }),
        ...[
          ["l1", "f"],
          ["l2", "h"],
          ["l3", "o"],
        ].map(([id, on]) => link(id, on, { address: id, lastUsedAt: inDays(-3) })),
      ],
      stacks: [file("s", null, { storeId: "stacks", ownerId: "ida", label: "public" })],
    });
    await setRule("open-password", { mode: "ask", graceDays: 14 });
  });

  test("writes to each owner once, with each share in plain words", async () => {
    await house.tick();
    await house.tick();
    expect(house.mails.map((mail) => [mail.subject, [mail.to].flat()[0]!.text])).toEqual([
      ["2 of your shares need a decision by 19 Oct 2026", IDA],
      ["1 of your shares needs a decision by 19 Oct 2026", ODA],
    ]);
    const [{ text, html }] = house.mails;
    for (const body of [text, String(html)]) {
      expect(body).toContain("Item f (Loading Dock)");
      expect(body).toContain(
        "Anyone who holds this link can look at this file and download it, without a password and with no end date.",
      );
      expect(body).toContain("Without an answer we will give it a password.");
      expect(body).not.toContain("/l/");
    }
  });

  test("can begin with a few owners; the others are written to once all are asked", async () => {
    await setRule("open-password", { mode: "ask", graceDays: 14, pilot: 1 });
    await house.tick();
    await house.later(2);
    await house.tick();
    expect(house.mails.map((mail) => [mail.to].flat()[0]!.text)).toEqual([IDA]);
    expect(await states()).toEqual(["l1 asked", "l2 asked", "l3 found"]);
    await setRule("open-password", { mode: "ask", graceDays: 14 });
    await house.tick();
    expect(house.mails.map((mail) => [mail.to].flat()[0]!.text)).toEqual([IDA, ODA]);
  });

  test("says before it asks how many mails would go out, to whom, and how the first reads", async () => {
    const setting = { isOn: true, mode: "ask", graceDays: 14, parameters: standardSetting("open-password").parameters };
    const { mails } = await previewRule(house.app, "open-password", setting);
    expect(mails).toMatchObject({
      count: 2,
      ownerless: 0,
      owners: [
        { address: IDA, findings: 2 },
        { address: ODA, findings: 1 },
      ],
      sample: { subject: "2 of your shares need a decision by 19 Oct 2026" },
    });
    await house.tick();
    const [{ subject, text }] = house.mails;
    const upToAddress = (mail: string) => mail.slice(0, mail.indexOf("#"));
    expect([mails.sample!.subject, upToAddress(mails.sample!.text)]).toEqual([subject, upToAddress(String(text))]);
  });

  test("writes to nobody twice a day: what is new by then waits for the next letter", async () => {
    await house.tick();
    house.stores.dock.db.put(link("l4", "h"));
    await house.later(0.5);
    await house.tick();
    expect(house.mails).toHaveLength(2);
    expect(await states()).toEqual(["l1 asked", "l2 asked", "l3 asked", "l4 found"]);
    await house.later(0.6);
    await house.tick();
    expect(house.mails.slice(2).map(({ subject }) => subject)).toEqual([
      "1 of your shares needs a decision by 20 Oct 2026",
    ]);
  });

  test("its owner keeps one, tightens one and ends one, by the letter's address alone", async () => {
    await house.tick();
    const letter = await letterAt(house.app, tokenIn(house.mails[0].text), "here");
    const page = await askedBy(house.app, letter);
    expect(page.shares.map(({ itemName, tighten, canEnd }) => [itemName, tighten, canEnd])).toEqual([
      ["Item f", ["Set a password"], true],
      ["Item h", ["Set a password"], true],
    ]);
    await answer(house.app, letter, { decision: "keep", subject: "l1", reason: "Press kit", until: inDays(60) });
    await answer(house.app, letter, { decision: "tighten", subject: "l2" });
    await allCarriedOut(house.app);
    const after = await askedBy(house.app, letter);
    expect(after.shares.map(({ answered }) => answered)).toEqual([
      "Kept until 4 Dec 2026: Press kit",
      "Tightened: set a password.",
    ]);
    expect([dockLink("l1").password, dockLink("l2").password]).toEqual([false, true]);
    const [step] = after.shares[1].steps;
    const passphrase = await showToOwner(house.app, letter, step.passphrase!);
    expect(passphrase.split("-")).toHaveLength(6);
    await expect(showToOwner(house.app, letter, step.passphrase!)).rejects.toThrow(
      "It was shown to ida@home.example already",
    );
    // The other owner's letter doesn't reach these shares.
    const others = await letterAt(house.app, tokenIn(house.mails[1].text), "here");
    await expect(answer(house.app, others, { decision: "end", subject: "l1" })).rejects.toThrow(
      "This share no longer needs an answer.",
    );
    await expect(showToOwner(house.app, others, step.passphrase!)).rejects.toThrow("You have no such passphrase.");
    await answer(house.app, others, { decision: "end", subject: "l3" });
    await allCarriedOut(house.app);
    expect(dockLink("l3").revokedAt).toBe(NOW);
    // What has ended is told as it was.
    const [ended] = (await askedBy(house.app, others)).shares;
    expect([ended.answered, ended.itemName, ended.audience, ended.lastUsed]).toEqual([
      "You ended this share.",
      "Item o",
      "Whoever has the address",
      seconds(inDays(-3)),
    ]);
    await expect(answer(house.app, others, { decision: "end", subject: "l3" })).rejects.toThrow(
      "This share no longer needs an answer.",
    );
    expect((await verifyLedger(house.db)).unbroken).toBe(true);
  });

  test("makes one for named people, where its store can; where it can't, that is not offered", async () => {
    house.stores.stacks.db.put(link("s1", "s", { address: "S1" }));
    house.stores.stacks.db.put(file("s", null, { storeId: "stacks", ownerId: "ida" }));
    await house.later(0);
    await house.tick();
    const letter = await letterAt(house.app, tokenIn(house.mails[0].text), "here");
    const page = await askedBy(house.app, letter);
    expect(page.shares.map(({ subject, canBeNamed }) => [subject, canBeNamed])).toEqual([
      ["l1", false],
      ["l2", false],
      ["s1", true],
    ]);
    const addresses = ["out@quay.example"];
    await expect(answer(house.app, letter, { decision: "named", subject: "l1", addresses })).rejects.toThrow(
      "can’t be done",
    );
    await answer(house.app, letter, { decision: "named", subject: "s1", addresses });
    await allCarriedOut(house.app);
    const { reach, recipients } = house.stores.stacks.db.get<LinkRecord>("link", "s1")!;
    expect([reach, recipients]).toEqual(["named", [{ email: "out@quay.example" }]]);
    expect((await fetch(`${house.stores.stacks.url}/l/S1`)).status).toBe(401);
  });

  test("an end in the past, or too far off, changes nothing", async () => {
    await house.tick();
    const letter = await letterAt(house.app, tokenIn(house.mails[0].text), "here");
    const keep = (until: string) =>
      answer(house.app, letter, { decision: "keep", subject: "l1", reason: "Press kit", until });
    await expect(keep(inDays(-1))).rejects.toThrow("Until: choose a day in the future.");
    await expect(keep(inDays(181))).rejects.toThrow("3 Apr 2027 at the latest");
    expect(await states()).toEqual(["l1 asked", "l2 asked", "l3 asked"]);
  });

  test("an address that was forged, made for something else, or is too old is refused", async () => {
    await house.tick();
    const token = tokenIn(house.mails[0].text);
    const [body, signature] = token.split(".");
    const another = Buffer.from(JSON.stringify(["answer", "2", T + 9e6])).toString("base64url");
    for (const wrong of [
      `${another}.${signature}`,
      `${body}.${"A".repeat(43)}`,
      signed(house.app, "see-alert", "1", T + 9),
      "x",
      "",
    ])
      await expect(letterAt(house.app, wrong, "here")).rejects.toThrow(
        "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
      );
    await house.later(50);
    await expect(letterAt(house.app, token, "here")).rejects.toThrow(
      "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
    );
  });

  test("after the days of grace a docket waits, with its preview, and is applied by an administrator", async () => {
    await house.tick();
    await house.later(15);
    await house.tick();
    const docket = await house.db.selectFrom("docket").selectAll().executeTakeFirstOrThrow();
    expect([docket.state, docket.origin, docket.words]).toEqual([
      "waiting",
      "ask",
      "Open link without a password: grace period over for 3 findings",
    ]);
    expect((await docketView(house.app, docket.id)).preview?.tighter).toHaveLength(3);
    expect(dockLink("l1").password).toBe(false);
    await house.tick();
    expect(await house.db.selectFrom("docket").selectAll().execute()).toHaveLength(1);
    expect(await applyDocket(house.app, docket.id, ADMIN)).toBe("begun");
    await allCarriedOut(house.app);
    const { receipts } = await docketView(house.app, docket.id);
    expect(receipts.map(({ state, probe }) => [state, probe])).toEqual(
      receipts.map(() => ["done", "The address alone opens nothing: it asks who comes, or for a password."]),
    );
    expect([dockLink("l1"), dockLink("l2"), dockLink("l3")].every(({ password }) => password)).toBe(true);
  });

  test("what was mended meanwhile is asked no more", async () => {
    await house.tick();
    house.stores.dock.db.put({ ...dockLink("l1"), password: true });
    await house.later(15);
    await house.tick();
    expect(await states()).toEqual(["l1 gone", "l2 docketed", "l3 docketed"]);
  });
});

describe("a rule that is enforced", () => {
  const many = Array.from({ length: MOST_CHANGES_AN_HOUR + 30 }, (_, i) => i);
  beforeEach(async () => {
    await houseWith({ dock: many.flatMap((i) => [dockItem(`f${i}`), link(`l${i}`, `f${i}`)]) });
    await setRule("open-expiry", { mode: "enforce", graceDays: 1, parameters: { maxDays: 14 } });
    await house.tick();
    await house.later(2);
  });
  const ended = () => many.filter((i) => dockLink(`l${i}`).expiresAt !== null).length;

  test("applies its docket itself, no more than the cap within an hour; the rest waits, and an alert says so", async () => {
    expect(await house.tick()).toBe(1);
    expect(ended()).toBe(MOST_CHANGES_AN_HOUR);
    expect(await house.tick()).toBe(0);
    expect(ended()).toBe(MOST_CHANGES_AN_HOUR);
    const alerts = await house.db.selectFrom("alert").select(["severity", "words"]).execute();
    expect(alerts).toEqual([
      {
        severity: "urgent",
        words: "“Open link without a near end” wants to change more than 200 shares in an hour; 30 changes waiting",
      },
    ]);
    await house.later(1 / 20);
    await house.tick();
    expect(ended()).toBe(many.length);
  });

  test("does nothing while all acting is stopped, and goes on after", async () => {
    await stopEnforcing(house.db, ADMIN, true);
    await house.tick();
    expect(ended()).toBe(0);
    await stopEnforcing(house.db, ADMIN, false);
    await house.tick();
    expect(ended()).toBe(MOST_CHANGES_AN_HOUR);
  });
});

describe("setting a rule", () => {
  beforeEach(() => houseWith({ dock: [dockItem("f"), link("l", "f")] }));

  test("to ask takes the preview of just that setting; what is out of range names its slot; nothing is changed", async () => {
    const { db } = house;
    const ask: RuleSetting = { ...standardSetting("open-expiry"), mode: "ask" };
    await expect(changeRule(house.app, actorOf(ADMIN), "open-expiry", ask, null)).rejects.toThrow(
      "Look at the preview",
    );
    const { pass } = await previewRule(house.app, "open-expiry", { ...ask, graceDays: 7 });
    await expect(changeRule(house.app, actorOf(ADMIN), "open-expiry", ask, pass)).rejects.toThrow(
      "Look at the preview",
    );
    const wrong = (more: object) =>
      changeRule(house.app, actorOf(ADMIN), "open-expiry", { ...standardSetting("open-expiry"), ...more }, null);
    await expect(wrong({ parameters: { maxDays: -3 } })).rejects.toThrow("maxDays");
    await expect(wrong({ parameters: { maxYears: 3 } })).rejects.toThrow("maxYears");
    await expect(wrong({ graceDays: 0 })).rejects.toThrow("must be 1 to 90 days");
    await expect(wrong({ parameters: { scope: { stores: ["nowhere"] } } })).rejects.toThrow(
      "scope: There is no store nowhere.",
    );
    expect(await db.selectFrom("rule_setting").selectAll().execute()).toEqual([]);
  });

  test("where its scope meets nothing at all, that is said, and nothing is changed", async () => {
    const scope = { stores: ["dock"], labels: ["restricted"] };
    const setting = { ...standardSetting("open-expiry"), parameters: { scope } };
    await expect(changeRule(house.app, actorOf(ADMIN), "open-expiry", setting, null)).rejects.toThrow(
      "scope: The rule looks at nothing there. Nothing was changed.",
    );
    await changeRule(
      house.app,
      actorOf(ADMIN),
      "open-expiry",
      { ...setting, parameters: { scope: { stores: ["dock"] } } },
      null,
    );
    expect((await house.db.selectFrom("rule_setting").selectAll().execute()).length).toBe(1);
  });

  test("stands in the ledger with what was before, and is asked of the past as it was then", async () => {
    await setRule("open-expiry", { parameters: { maxDays: 7 } });
    const entry = await house.db
      .selectFrom("ledger")
      .select(["actor", "body"])
      .where("kind", "=", "rule-set")
      .executeTakeFirstOrThrow();
    const { before, after } = JSON.parse(entry.body);
    expect([entry.actor, before.parameters.maxDays, after.parameters.maxDays]).toEqual([ADMIN, 30, 7]);
  });
});

describe("waivers on many", () => {
  beforeEach(() => houseWith({ dock: ["f", "h", "o"].flatMap((id) => [dockItem(id), link(`l-${id}`, id)]) }));

  test("are given to all that a query finds, end by themselves, and whoever gave them is told a week before", async () => {
    const given = {
      query: "reach:open",
      rules: ["open-password" as const],
      reason: "Moving to Stacks",
      until: inDays(20),
    };
    expect(await giveWaivers(house.app, IDA, given)).toBe(3);
    expect(await giveWaivers(house.app, IDA, given)).toBe(0);
    await house.later(14);
    await house.tick();
    await house.tick();
    expect(house.mails.map(({ subject }) => subject)).toEqual(["3 of your waivers end within a week"]);
    expect(house.mails[0].text).toContain("Open link without a password: Moving to Stacks");
    await house.later(7);
    await house.tick();
    await house.tick();
    const over = await house.db.selectFrom("ledger").selectAll().where("kind", "=", "waiver-over").execute();
    expect(over).toHaveLength(3);
    expect((await allWaivers(house.app)).map(({ isOver }) => isOver)).toEqual([true, true, true]);
    expect(await giveWaivers(house.app, IDA, { ...given, until: inDays(90) })).toBe(3);
  });

  test("need an end that in the future", async () => {
    const past = { shareIds: ["l-f"], rules: null, reason: "Why not", until: inDays(-1) };
    await expect(giveWaivers(house.app, IDA, past)).rejects.toThrow("until: choose a time in the future.");
  });
});

test("two ticks at once do everything once", async () => {
  await houseWith({ dock: [dockItem("f"), link("l", "f")] });
  await setRule("open-password", { mode: "ask" });
  const both = await Promise.all([house.tick(), house.tick()]);
  expect(both.filter((alerts) => alerts === null)).toHaveLength(1);
  expect(house.mails).toHaveLength(1);
});

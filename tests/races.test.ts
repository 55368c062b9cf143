import { standardSetting } from "@/core/rules/setting";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { stage, trayOf } from "@/server/dockets/tray";
import { prepareUndo } from "@/server/dockets/undo";
import { answer } from "@/server/rules/answers";
import { letterAt } from "@/server/rules/askedAt";
import { changeRule, previewRule } from "@/server/rules/rules";
import { actorOf } from "./actor";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, inDays, link } from "./records";

/** Two who do the same thing at the same moment, often enough that one slip would show. */
const ADMIN = "admin@home.example";
const TRIES = 50;
const ids = Array.from({ length: TRIES }, (_, n) => `l${n}`);
let house: House;

jest.setTimeout(120_000);

beforeEach(async () => {
  house = await openHouse({
    stacks: [
      ...PEOPLE,
      ...ids.flatMap((id) => [file(`f${id}`, null, inStacks), link(id, `f${id}`, { createdBy: "ida" })]),
    ],
    alcoves: [],
    dock: [],
  });
}, 60_000);
afterEach(() => house.close());

const fulfilled = (outcomes: readonly PromiseSettledResult<unknown>[]) =>
  outcomes.filter(({ status }) => status === "fulfilled").length;

test(`of two answers to one question, at the same moment and ${TRIES} times, one counts`, async () => {
  const setting = { ...standardSetting("open-password"), mode: "ask" as const, graceDays: 14 };
  const { pass } = await previewRule(house.app, "open-password", setting);
  await changeRule(house.app, actorOf(ADMIN), "open-password", setting, pass);
  await house.tick();
  const token = house.mails[0].text!.match(/answer#([\w.-]+)/)![1];
  const letter = await letterAt(house.app, token, "here");
  const kept: number[] = [];
  for (const [n, subject] of ids.entries()) {
    const keep = () => answer(house.app, letter, { decision: "keep", subject, reason: "Press kit", until: inDays(60) });
    const end = () => answer(house.app, letter, { decision: "end", subject });
    const outcomes = await Promise.allSettled(n % 2 === 0 ? [keep(), end()] : [end(), keep()]);
    expect([subject, fulfilled(outcomes)]).toEqual([subject, 1]);
    const waivers = await house.db.selectFrom("waiver").select("id").where("share_id", "=", subject).execute();
    const changes = await house.db.selectFrom("docket_change").select("id").where("subject", "=", subject).execute();
    // What is kept is not ended, and what is ended is not kept.
    expect([subject, waivers.length + changes.length]).toEqual([subject, 1]);
    kept.push(waivers.length);
  }
  await allCarriedOut(house.app);
  const answered = await house.db.selectFrom("ledger").select("seq").where("kind", "=", "demand-answered").execute();
  expect([answered.length, kept.length]).toEqual([TRIES, TRIES]);
});

test(`of two who undo one docket, at the same moment and ${TRIES} times, one does`, async () => {
  await stage(
    house.app,
    ADMIN,
    ids.map((shareId) => ({ action: "revoke", shareId })),
  );
  const docketId = (await trayOf(house.app, ADMIN)).docketId!;
  expect(await applyDocket(house.app, docketId, ADMIN)).toBe("begun");
  await allCarriedOut(house.app);
  for (const subject of ids) {
    const undo = (actor: string) => prepareUndo(house.app, docketId, [subject], actor);
    const outcomes = await Promise.allSettled([undo(ADMIN), undo("other@home.example")]);
    expect([subject, fulfilled(outcomes)]).toEqual([subject, 1]);
  }
  const undos = await house.db.selectFrom("docket").select("id").where("origin", "=", "undo").execute();
  expect(undos).toHaveLength(TRIES);
});

import fc from "fast-check";
import type { LinkRecord } from "@/core/estate/records";
import type { Decision } from "@/core/rounds/decision";
import { DAY, rfc3339 } from "@/core/time/instant";
import { UTC_DATES } from "@/core/time/style";
import { Problem } from "@/server/platform/problem";
import { verifyLedger } from "@/server/records/ledger/verify";
import { decideLines, passOnLines } from "@/server/rounds/decide";
import { decidersPage } from "@/server/rounds/decidersPage";
import { finish, finishing } from "@/server/rounds/finishing";
import { makeRound } from "@/server/rounds/making";
import { type House, openHouseWith } from "./house";
import { file, inDays, link, named, NOW, person } from "./records";

process.env.LATCH_NOW = NOW;
jest.setTimeout(240_000);

/** Rounds whatever happens in between: shares end and change, people leave and decide, and the process is cut off. */
const PEOPLE = ["ida", "oda", "ivo"] as const;
const SHARES = 6;
const address = (who: string) => `${who}@home.example`;

const share = fc.nat(SHARES - 1);
const who = fc.constantFrom(...PEOPLE);
const decision: fc.Arbitrary<Decision["decision"]> = fc.constantFrom("keep", "tighten", "end");
type Step =
  | { do: "revoke" | "change" | "let-in"; share: number; who: string }
  | { do: "leave" | "finish"; who: string }
  | { do: "decide"; who: string; decision: Decision["decision"] }
  | { do: "pass-on"; who: string; to: string }
  | { do: "day" | "cut-off" };
const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({ do: fc.constantFrom("revoke" as const, "change" as const, "let-in" as const), share, who }),
  { arbitrary: fc.record({ do: fc.constantFrom("leave" as const, "finish" as const), who }), weight: 1 },
  { arbitrary: fc.record({ do: fc.constant("decide" as const), who, decision }), weight: 3 },
  fc.record({ do: fc.constant("pass-on" as const), who, to: who }),
  { arbitrary: fc.record({ do: fc.constantFrom("day" as const, "cut-off" as const) }), weight: 2 },
);

const linkOf = (i: number, more: object = {}) =>
  link(`l${i}`, `f${i}`, { address: `a${i}`, createdBy: "ida", lastUsedAt: inDays(-3 * i), ...more });

async function openOne(): Promise<House> {
  const house = await openHouseWith({
    stacks: [
      person("ivo", address("ivo")),
      ...Array.from({ length: SHARES }, (_, i) =>
        file(`f${i}`, null, { storeId: "stacks", ownerId: PEOPLE[i % PEOPLE.length], label: "confidential" }),
      ),
      ...Array.from({ length: SHARES }, (_, i) => linkOf(i)),
    ],
  });
  return house;
}

/** What is refused is refused; all else that goes wrong is a fault. */
const orRefused = (work: Promise<unknown>) =>
  work.catch((error: Error) => {
    if (!(error instanceof Problem)) throw error;
  });

class Play {
  constructor(
    private readonly house: House,
    private readonly roundId: number,
  ) {}

  async step(step: Step): Promise<void> {
    const { house } = this;
    const { db } = house.stores.stacks;
    switch (step.do) {
      case "revoke":
        db.put(linkOf(step.share, { revokedAt: house.app.clock.text() }), house.app.clock.text());
        return house.read();
      case "change":
        db.put(linkOf(step.share, { role: "edit" }), house.app.clock.text());
        return house.read();
      case "let-in":
        db.put(
          named(`l${step.share}`, `f${step.share}`, ["out@quay.example", address(step.who)], { createdBy: "ida" }),
          house.app.clock.text(),
        );
        return house.read();
      case "leave":
        for (const { db } of Object.values(house.stores))
          db.put(person(step.who, address(step.who), { status: "left" }), house.app.clock.text());
        return house.read();
      case "decide":
        return void (await orRefused(this.decide(step.who, step.decision)));
      case "pass-on":
        return void (await orRefused(this.passOn(step.who, step.to)));
      case "finish":
        return void (await orRefused(this.finish(step.who)));
      case "day":
        await house.later(1);
        await house.app.engine.ask("refresh", {});
        return void (await house.tick());
      case "cut-off":
        return this.cutOff();
    }
  }

  private at = (who: string) => ({ roundId: this.roundId, person: address(who) });

  private async decide(who: string, what: Decision["decision"]) {
    const { lines } = await decidersPage(this.house.app, this.at(who), UTC_DATES);
    const open = lines.filter(({ state }) => state === "open").slice(0, 2);
    const [way] = open[0]?.tightenings ?? [];
    const decision: Decision =
      what === "keep"
        ? { decision: "keep", until: rfc3339(this.house.app.clock.seconds() + 60 * DAY), reason: "Needed" }
        : what === "tighten" && way
          ? { decision: "tighten", way: way.key }
          : { decision: "end" };
    const shown = open.map(({ shareId, asked }) => ({ shareId, asked }));
    const { decided, not } = await decideLines(this.house.app, this.at(who), shown, decision);
    expect(decided + not.length).toBe(shown.length);
    const refused = new Set(not.map(({ shareId }) => shareId));
    for (const { shareId } of shown)
      if (this.letsIn(shareId, address(who))) expect([shareId, refused.has(shareId)]).toEqual([shareId, true]);
  }

  private letsIn(shareId: string, email: string): boolean {
    const { recipients } = this.house.stores.stacks.db.get<LinkRecord>("link", shareId)!;
    return recipients.some((one) => one.email === email);
  }

  private async passOn(who: string, to: string) {
    const { lines } = await decidersPage(this.house.app, this.at(who), UTC_DATES);
    const shares = lines.slice(0, 1).map(({ shareId }) => shareId);
    await passOnLines(this.house.app, this.at(who), { shares, to: address(to), reason: "Yours" });
  }

  private async finish(who: string) {
    const { digest } = await finishing(this.house.app, this.at(who));
    await finish(this.house.app, this.at(who), digest);
    await this.house.tick();
  }

  /** What is due ends in the middle, as where the process is killed; the next tick sees it through. */
  private async cutOff() {
    const { engine } = this.house.app;
    const { ask } = engine;
    let left = 2;
    engine.ask = ((...given: Parameters<typeof ask>) => {
      if (left-- === 0) throw new Error("cut off");
      return ask.apply(engine, given);
    }) as typeof ask;
    await this.house.tick().catch((error: Error) => expect(error.message).toBe("cut off"));
    engine.ask = ask;
    await this.house.tick();
  }
}

test("every line ends in one state, nobody decides on their own access, and nobody gets two mails a day", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(step, { maxLength: 14 }),
      fc.constantFrom("stay", "end", "end-date"),
      async (steps, undecided) => {
        const house = await openOne();
        try {
          const id = await makeRound(
            house.app,
            {
              ...{
                name: "All of it",
                note: "",
                query: "reach:open",
                order: ["owner", "maker"],
                named: null,
                by: "share",
              },
              ...{
                opens: NOW,
                closes: inDays(9),
                limitDays: 180,
                undecided,
                undecidedDays: 30,
                carriedOut: "finished",
              },
              ...{ tellManagers: false, repeat: null, zone: "UTC" },
            },
            "admin@home.example",
          );
          const found = await house.app.engine.ask("matching", { query: "reach:open" });
          await house.tick();
          const play = new Play(house, id);
          for (const one of steps) await play.step(one);
          await house.later(40);
          await house.app.engine.ask("refresh", {});
          await house.tick();
          await holds(house, id, found);
        } finally {
          await house.close();
        }
      },
    ),
    { numRuns: 8, endOnFailure: true },
  );
});

async function holds(house: House, id: number, found: string[]) {
  const { db } = house;
  const lines = await db.selectFrom("round_line").selectAll().where("round_id", "=", id).execute();
  expect(lines.map(({ share_id }) => share_id).sort()).toEqual([...found].sort());
  for (const { state, settled_at } of lines) {
    expect(["kept", "tightened", "ended", "gone", "lapsed"]).toContain(state);
    expect(settled_at).not.toBeNull();
  }
  const closed = await db.selectFrom("ledger").select("body").where("kind", "=", "round-closed").execute();
  expect(closed).toHaveLength(1);
  const body = JSON.parse(closed[0].body);
  for (const state of ["kept", "tightened", "ended", "gone", "lapsed"] as const)
    expect(body[state]).toBe(lines.filter((line) => line.state === state).length);
  const sent = await db.selectFrom("letter").select(["target", "sent_at"]).where("sent_at", "is not", null).execute();
  for (const target of new Set(sent.map((one) => one.target))) {
    const times = [...new Set(sent.filter((one) => one.target === target).map(({ sent_at }) => sent_at!))].sort(
      (a, b) => a - b,
    );
    for (let i = 1; i < times.length; i++) expect(times[i] - times[i - 1]).toBeGreaterThanOrEqual(DAY);
  }
  expect(house.mails.length).toBeLessThanOrEqual(sent.length);
  // Each change is in one docket, once.
  const changes = await db.selectFrom("docket_change").select(["share_id", "docket_id", "subject"]).execute();
  expect(new Set(changes.map(({ docket_id, subject }) => `${docket_id} ${subject}`)).size).toBe(changes.length);
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true });
}

import type { Decision } from "../core/rounds/decision";
import type { RoundAsked } from "../core/rounds/round";
import { DAY, HOUR, rfc3339, type Seconds } from "../core/time/instant";
import { UTC_DATES } from "../core/time/style";
import type { DecidedLine } from "../contract/decisions";
import type { App } from "../server/app";
import { allCarriedOut, applyDocket } from "../server/dockets/executor";
import { stage, trayOf } from "../server/dockets/tray";
import { sendNow } from "../server/messages/outbox";
import { askDue } from "../server/rounds/asking";
import { closeDue } from "../server/rounds/closing";
import { decideLines, passOnLines } from "../server/rounds/decide";
import { decidersPage } from "../server/rounds/decidersPage";
import { finish, finishing } from "../server/rounds/finishing";
import { decideLook, drawLook, lookView } from "../server/rounds/looks";
import { makeRound } from "../server/rounds/making";
import { openDue } from "../server/rounds/opening";
import { overtakeAll } from "../server/rounds/overtaking";
import { standIns, setHead } from "../server/rounds/standIns";
import { decidersOf } from "../server/rounds/view";
import type { Player } from "./player";

/** Who holds rounds in the demo. */
const ADMINISTRATOR = "thessaly.orrin@wrenmoor.example";

/** What stands in every round of the demo unless it says otherwise. */
const STANDARD: Omit<RoundAsked, "name" | "query" | "opens" | "closes"> = {
  note: "",
  order: ["owner", "space-owner", "manager", "head"],
  named: null,
  by: "share",
  limitDays: 180,
  undecided: "end-date",
  undecidedDays: 30,
  carriedOut: "finished",
  tellManagers: false,
  repeat: null,
  zone: "Europe/Lisbon",
};

/** Plans the demo's rounds: one that closed this morning, one that is open, and two that are planned. */
export function planRounds(player: Player) {
  new Rounds(player).planAll();
}

class Rounds {
  private readonly app: App;
  private readonly now: Seconds;

  constructor(private readonly player: Player) {
    [this.app, this.now] = [player.app, player.now];
  }

  planAll() {
    const { app, now } = this;
    this.plan(now - 22 * DAY, () => this.nameHeads());
    this.plan(now - 21 * DAY, () => this.holdClosed());
    this.plan(now - 5 * DAY, () => this.holdOpen());
    for (const day of [10, 3, 2]) this.plan(now - day * DAY, () => this.keepUp());
    this.plan(now - HOUR, async () => {
      await closeDue(app);
      await allCarriedOut(app);
    });
    this.plan(now - HOUR / 2, () => this.holdPlanned());
  }

  private plan(at: Seconds, act: () => Promise<unknown>) {
    this.player.plan(at, act);
  }

  /** So that nothing of a department is left to nobody. */
  private async nameHeads() {
    const heads: Record<string, string> = {
      Learning: "silas.marrowby@wrenmoor.example",
      Press: "sanne.eastermark@wrenmoor.example",
    };
    for (const { department } of (await standIns(this.app)).heads)
      if (heads[department]) await setHead(this.app, department, heads[department], ADMINISTRATOR);
  }

  /** Makes a round, opens it if its time has come, and has its mails sent. */
  private async hold(asked: Pick<RoundAsked, "name" | "query" | "opens" | "closes"> & Partial<RoundAsked>) {
    const id = await makeRound(this.app, { ...STANDARD, ...asked }, ADMINISTRATOR);
    await openDue(this.app);
    await this.mail();
    return id;
  }

  private async mail() {
    await askDue(this.app);
    await sendNow(this.app);
  }

  private async keepUp() {
    await overtakeAll(this.app);
    await this.mail();
  }

  /** One decides without looking, most carefully, one passes on, one share changes meanwhile; some are late, some never come. */
  private async holdClosed() {
    const { now } = this;
    const round = await this.hold({
      name: "What Learning shares outside",
      query: "outside:yes department:Learning state:live",
      note: "The school year has begun: what was shared for last year’s projects can mostly go.",
      opens: rfc3339(now - 21 * DAY),
      closes: rfc3339(now - HOUR),
      carriedOut: "closed",
      undecided: "stay",
      repeat: "FREQ=MONTHLY;INTERVAL=6;BYDAY=1MO;COUNT=6",
    });
    const [unlooked, passing, receiving, ...others] = await this.deciders(round);
    this.plan(now - 19 * DAY, () => this.decideAll(round, unlooked, 1, () => keep(now + 150 * DAY, "Needed")));
    this.plan(now - 18 * DAY, () => this.passOn(round, passing, receiving));
    for (const [at, person] of [receiving, ...others.slice(0, 26)].entries()) {
      const when = at > 18 ? now - 36 * HOUR + at * 240 : now - (17 - (at % 9)) * DAY + at * 240;
      this.plan(when, () => this.decideAll(round, person, 12 + ((at * 7) % 31), careful));
    }
    this.plan(now - 4 * DAY, () => this.lowerOne(round, others.slice(18, 40)));
    this.plan(now - HOUR / 2, () => this.lookAgain(round));
  }

  private async holdOpen() {
    const { now } = this;
    const round = await this.hold({
      name: "Confidential and restricted, shared outside",
      query: "outside:yes state:live label:confidential,restricted",
      note: "Before the season’s audit: which of these are still needed?",
      opens: rfc3339(now - 5 * DAY),
      closes: rfc3339(now + 9 * DAY),
      carriedOut: "closed",
      tellManagers: true,
    });
    const people = (await this.deciders(round)).filter((_, at) => at % 3 === 1).slice(0, 24);
    for (const [at, person] of people.entries())
      this.plan(now - (4 - (at % 4)) * DAY + at * 300, () =>
        this.decideAll(round, person, 9 + ((at * 5) % 26), careful),
      );
  }

  private holdPlanned() {
    const { now } = this;
    return this.hold({
      name: "Private mailboxes, by person",
      query: "party:personal state:live",
      by: "person",
      opens: rfc3339(now + 12 * DAY),
      closes: rfc3339(now + 26 * DAY),
      undecided: "end",
    });
  }

  private async deciders(round: number): Promise<string[]> {
    const all = [];
    for (let from = 0; ; from += 100) {
      const { total, deciders } = await decidersOf(this.app.db, round, from);
      all.push(...deciders.map(({ address }) => address).filter((address) => address !== ""));
      if (from + deciders.length >= total) return all;
    }
  }

  /** Somebody decides one line after the other, from now on. */
  private async decideAll(
    roundId: number,
    person: string,
    secondsEach: number,
    choose: (line: DecidedLine, now: Seconds) => Decision,
  ) {
    const at = { roundId, person };
    const from = this.app.clock.seconds();
    const { lines } = await decidersPage(this.app, at, UTC_DATES);
    for (const [i, line] of lines.filter(({ state }) => state === "open").entries()) {
      this.player.at(from + (i + 1) * secondsEach);
      const shown = [{ shareId: line.shareId, asked: line.asked }];
      await decideLines(this.app, at, shown, choose(line, this.app.clock.seconds()));
    }
    const { digest } = await finishing(this.app, at);
    await finish(this.app, at, digest);
  }

  private async passOn(roundId: number, person: string, to: string) {
    const { lines } = await decidersPage(this.app, { roundId, person }, UTC_DATES);
    const shares = lines.slice(0, 2).map(({ shareId }) => shareId);
    await passOnLines(
      this.app,
      { roundId, person },
      { shares, to, reason: "The workshops are yours since September." },
    );
  }

  /** An administrator lowers a share about which somebody is still to decide: they are asked anew, with both versions. */
  private async lowerOne(roundId: number, people: readonly string[]) {
    for (const person of people) {
      const { lines } = await decidersPage(this.app, { roundId, person }, UTC_DATES);
      const line = lines.find(({ sentence, state }) => state === "open" && sentence.includes("and change"));
      if (!line) continue;
      await stage(
        this.app,
        ADMINISTRATOR,
        [{ action: "set-role", shareId: line.shareId, role: "view" }],
        "Lowered to looking only",
      );
      const { docketId } = await trayOf(this.app, ADMINISTRATOR);
      await applyDocket(this.app, docketId!, ADMINISTRATOR);
      return allCarriedOut(this.app);
    }
  }

  /** An administrator looks again at some of what was kept, and finds that much of it was kept too easily. */
  private async lookAgain(round: number) {
    const look = await drawLook(this.app.db, round, { percent: 20, confidence: 900 }, ADMINISTRATOR);
    const { lines } = await lookView(this.app, look);
    for (const { shareId, suggest } of lines.slice(0, -2)) {
      const decision = suggest === "end" ? "end" : "keep";
      await decideLook(this.app.db, look, [shareId], decision, ADMINISTRATOR);
    }
  }
}

const keep = (until: Seconds, reason: string): Decision => ({ decision: "keep", until: rfc3339(until), reason });

/** Mostly as suggested; now and then somebody knows better. */
function careful({ suggest, suggestedUntil, tightenings, shareId }: DecidedLine, now: Seconds): Decision {
  const isKnownBetter = shareId.charCodeAt(shareId.length - 1) % 7 === 0;
  if (suggest === "end" && !isKnownBetter) return { decision: "end" };
  if (suggest === "tighten" && tightenings.length > 0 && !isKnownBetter)
    return { decision: "tighten", way: tightenings[0].key };
  return keep(Math.min(suggestedUntil ?? Infinity, now + 120 * DAY), isKnownBetter ? "The school still uses it." : "");
}

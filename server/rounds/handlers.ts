import type { decideOperations, myDecisionsOperations, mySharesOperations } from "@/contract/decisions";
import type { roundsOperations } from "@/contract/rounds";
import { seconds } from "@/core/time/instant";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { subjectOf } from "../platform/signed";
import { remindNow } from "./asking";
import { closeRound, stopRound } from "./closing";
import { decideLines, passOnLines } from "./decide";
import { type AsDecider, decidersPage, myRounds } from "./decidersPage";
import { finish, finishing, showToDecider } from "./finishing";
import { decideLook, drawLook, lookView } from "./looks";
import { extendRound, forecast, makeRound } from "./making";
import { handOver } from "./handingOver";
import { openRound } from "./opening";
import { roundOf } from "./round";
import type { Rounding } from "./rounding";
import { deputiesOf, endDeputy, nameDeputy, setHead, standIns } from "./standIns";
import { decidersOf, decisionsOf, roundLines, roundView } from "./view";

/** A number in the address. @throws {Problem} where it is none */
function numberIn(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new Problem("unknown", "There is nothing at this address.");
  return Number(text);
}

export const roundsHandlers: Handlers<Rounding, typeof roundsOperations> = {
  rounds: ({ db }) => roundLines(db),
  round: ({ db }, { params }) => roundView(db, numberIn(params.id)),
  deciders: ({ db }, { params, query }) => decidersOf(db, numberIn(params.id), query.from),
  roundLines: ({ db }, { params, query }) => decisionsOf(db, numberIn(params.id), query),
  forecastRound: (app, { body }) => forecast(app, body),
  async makeRound(app, { body, actor }) {
    const id = await makeRound(app, body, actor.email);
    const round = await roundOf(app.db, id);
    // In the background: its page shows how far it has come.
    if (round.opens_at <= app.clock.seconds()) openRound(app, round).catch((error) => console.error(error));
    return { id };
  },
  async remindRound(app, { params, body, actor }) {
    return { people: await remindNow(app, numberIn(params.id), body.people, actor.email) };
  },
  async extendRound(app, { params, body, actor }) {
    await extendRound(app, numberIn(params.id), seconds(body.closes), actor.email);
    return {};
  },
  handOverLines: (app, { params, body, actor }) => handOver(app, numberIn(params.id), body, actor.email),
  async closeRound(app, { params, actor }) {
    await closeRound(app, numberIn(params.id), actor.email);
    return {};
  },
  async stopRound(app, { params, actor }) {
    await stopRound(app, numberIn(params.id), actor.email);
    return {};
  },
  async drawLook({ db }, { params, body, actor }) {
    return { id: await drawLook(db, numberIn(params.id), body, actor.email) };
  },
  lookLines: (app, { params }) => lookView(app, numberIn(params.id)),
  async decideLook({ db }, { params, body, actor }) {
    await decideLook(db, numberIn(params.id), body.shares, body.decision, actor.email);
    return {};
  },
  standIns: (app) => standIns(app),
  async setHead(app, { body, actor }) {
    await setHead(app, body.department, body.person, actor.email);
    return {};
  },
  async nameDeputy(app, { body: { person, deputy, from, until }, actor }) {
    await nameDeputy(app, { person, deputy, from: seconds(from), until: seconds(until) }, actor.email);
    return {};
  },
  async endDeputy({ db }, { params, actor }) {
    await endDeputy(db, numberIn(params.id), actor.email);
    return {};
  },
};

/** What a decider can do once it is known who they are. @template B what the body says of that */
function decidingHandlers<B>(who: (app: Platform, asked: { body: B; actor: { email: string } | null }) => AsDecider) {
  type Given<More> = { body: B & More; actor: { email: string } | null };
  return {
    page: (app: Rounding, asked: Given<{ dates: Parameters<typeof decidersPage>[2] }>) =>
      decidersPage(app, who(app, asked), asked.body.dates),
    decide: (
      app: Rounding,
      asked: Given<{ lines: Parameters<typeof decideLines>[2]; decision: Parameters<typeof decideLines>[3] }>,
    ) => decideLines(app, who(app, asked), asked.body.lines, asked.body.decision),
    passOn: (app: Rounding, asked: Given<Parameters<typeof passOnLines>[2]>) =>
      passOnLines(app, who(app, asked), asked.body),
    finishing: (app: Rounding, asked: Given<object>) => finishing(app, who(app, asked)),
    async finish(app: Rounding, asked: Given<{ digest: string }>) {
      await finish(app, who(app, asked), asked.body.digest);
      return {};
    },
    async showPassphrase(app: Rounding, asked: Given<{ change: string }>) {
      return { passphrase: await showToDecider(app, who(app, asked), asked.body.change) };
    },
  };
}

/** The address in a mail says who it is for and which round. @throws {Problem} if it is forged or no longer valid */
function byAddress(app: Platform, { body }: { body: { token: string } }): AsDecider {
  const subject = subjectOf(app, "round", body.token);
  if (subject === null)
    throw new Problem("gone", "This address no longer works. The newest mail about the round has one that does.");
  const [roundId, person] = JSON.parse(subject) as [number, string];
  return { roundId, person };
}

export const decideHandlers: Handlers<Rounding, typeof decideOperations> = decidingHandlers(byAddress);

export const myDecisionsHandlers: Handlers<Rounding, typeof myDecisionsOperations> = decidingHandlers<{
  round: number;
}>((_, { body, actor }) => ({ roundId: body.round, person: actor!.email.toLowerCase() }));

export const mySharesHandlers: Handlers<Rounding, typeof mySharesOperations> = {
  myRounds: ({ db }, { actor }) => myRounds(db, actor.email.toLowerCase()),
  myDeputies: ({ db }, { actor }) => deputiesOf(db, actor.email.toLowerCase()),
  async nameMyDeputy(app, { body: { deputy, from, until }, actor }) {
    const given = { person: actor.email, deputy, from: seconds(from), until: seconds(until) };
    await nameDeputy(app, given, actor.email);
    return {};
  },
  async endMyDeputy({ db }, { params, actor }) {
    await endDeputy(db, numberIn(params.id), actor.email, actor.email.toLowerCase());
    return {};
  },
};

import type { peopleOperations } from "@/contract/people";
import { writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { Actor, Handlers } from "../platform/serving";
import {
  accounts,
  endSessionsOf,
  invite,
  removeAccount,
  resetFactors,
  resetPassword,
  self,
  setDates,
  setRole,
  setSelf,
} from "./accounts";
import { type Founding, makeFirstAdministrator } from "./firstRun";
import { signIns } from "./people";
import { policy, setPolicy } from "./policy";
import { choosePassword, welcomed } from "./welcome";

const WORDS = {
  "wrong-code": "That code is wrong. It’s in the terminal where the application was started.",
  "not-first": "There is an administrator already. Sign in instead.",
};

export const peopleHandlers: Handlers<Founding, typeof peopleOperations> = {
  people: async ({ db }) => ({ people: await signIns(db) }),
  async firstRun(app, { body: { code, ...person }, network }) {
    const result = await makeFirstAdministrator(app, code, person, network);
    if (result !== "made") throw new Problem("not-allowed", WORDS[result]);
    return {};
  },

  accounts: async ({ db, settings }) => ({
    accounts: await accounts(db),
    policy: await policy(db),
    hasSingleSignOn: settings.singleSignOn !== undefined,
  }),
  invite: (app, { actor, body }) => invite(app, body, actor.email),
  async setRole({ db }, { actor, params, body }) {
    await setRole(db, params.id, body.role, actor.email);
    return {};
  },
  async removeAccount({ db }, { actor, params }) {
    await removeAccount(db, params.id, actor.email);
    return {};
  },
  resetPassword: (app, { actor, params }) => resetPassword(app, params.id, actor.email),
  async resetFactors({ db }, { actor, params }) {
    await resetFactors(db, params.id, actor.email);
    return {};
  },
  endSessionsOf: async ({ db }, { actor, params }) => ({ ended: await endSessionsOf(db, params.id, actor.email) }),
  async setPolicy({ db }, { actor, body }) {
    if (body.passwordsOff && actor.by !== "single-sign-on")
      throw new Problem("conflict", "Sign in with single sign-on yourself first, so that it is known to work.");
    await writing(db, (tx) => setPolicy(tx, body, actor.email));
    return {};
  },

  self: ({ db }, { actor }) => self(db, actor),
  async setSelf({ db }, { actor, body }) {
    await setSelf(db, actor, body);
    return {};
  },
  async setDates({ db }, { actor, body }) {
    await setDates(db, actor, body);
    return {};
  },
  endOwnSession: async ({ db }, { actor, body }) => ({ ended: await endOwn(db, actor, body.id) }),

  welcome: (app, { body: { token }, network }) => welcomed(app, token, network),
  async choosePassword(app, { body: { token, password }, network }) {
    await choosePassword(app, token, password, network);
    return {};
  },
};

function endOwn(db: Founding["db"], { userId, sessionId, email }: Actor, id: string | null) {
  return endSessionsOf(db, userId, email, id === null ? { except: sessionId } : { only: id });
}

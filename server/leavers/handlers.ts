import type { leaversOperations } from "@/contract/leavers";
import { seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import { headsOfDepartments } from "../rounds";
import type { Handlers } from "../platform/serving";
import { lastDaySet, setLastDay } from "./lastDays";
import { endOwn, ownCounts } from "./own";

export const leaversHandlers: Handlers<Asking, typeof leaversOperations> = {
  leavers: async ({ engine }, { past }) => ({ leavers: await engine.ask("leavers", {}, past) }),
  async leaver({ engine, db }, { query: { address }, past }) {
    const sheet = await engine.ask("leaver", { address, heads: await headsOfDepartments(db) }, past);
    if (!sheet)
      throw new Problem("unknown", `${address} hasn’t left, isn’t suspended, and no last day of theirs is known.`);
    const lastDay = (await lastDaySet(db, address)) ?? null;
    return { sheet, own: await ownCounts(db, sheet.leaver.address), lastDay };
  },
  async endOwn(app, { actor, body: { address, ...shown } }) {
    await endOwn(app.db, address, shown, actor.email);
    await app.engine.ask("refresh", {});
    return ownCounts(app.db, address);
  },
  async setLastDay(app, { actor, body: { address, day, reason } }) {
    await setLastDay(app.db, { address, day: seconds(day), reason }, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async dropLastDay(app, { actor, body: { address } }) {
    await setLastDay(app.db, { address, day: null, reason: "" }, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
};

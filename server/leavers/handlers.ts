import type { leaversOperations } from "@/contract/leavers";
import { LEAVER_ASKABLE } from "@/core/leavers/asking";
import { leaversCsv } from "@/core/leavers/table";
import { type ListAsked, listPage } from "@/core/query/listed";
import { type Seconds, seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import { headsOfDepartments } from "../rounds";
import type { Handlers } from "../platform/serving";
import { lastDaySet, setLastDay } from "./lastDays";
import { endOwn, ownCounts } from "./own";

export const leaversHandlers: Handlers<Asking, typeof leaversOperations> = {
  leavers: (app, { query: { q, ...page }, past }) => foundLeavers(app, { query: q, ...page }, past),
  async leaversFile(app, { query: { q }, past }) {
    const { page } = await foundLeavers(app, { query: q, from: 0, count: Infinity }, past);
    return { type: "text/csv; charset=utf-8", name: "leavers.csv", body: leaversCsv(page) };
  },
  async leaver({ engine, db }, { query: { address }, past }) {
    const sheet = await engine.ask("leaver", { address, heads: await headsOfDepartments(db) }, past);
    if (!sheet) throw new Problem("unknown", `${address} hasn’t left, isn’t suspended and has no known last day.`);
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

async function foundLeavers({ engine, clock }: Asking, asked: ListAsked, past: Seconds | undefined) {
  return listPage(await engine.ask("leavers", {}, past), asked, LEAVER_ASKABLE, past ?? clock.seconds());
}

import type { engagementsOperations } from "@/contract/engagements";
import { engagementAskable } from "@/core/engagements/asking";
import { engagementsCsv } from "@/core/engagements/table";
import { type ListAsked, listPage } from "@/core/query/listed";
import { type Seconds, seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { askedAt, extendAsked, letEnd } from "./asking";
import { engagementDates } from "./dates";
import { graceDays } from "./due";
import { changeEngagement, endEngagement, extendEngagement, extensionsOf, keptOf, makeEngagement } from "./engagements";

export const engagementsHandlers: Handlers<Asking, typeof engagementsOperations> = {
  engagements: (app, { query: { q, ...page }, past }) => foundEngagements(app, { query: q, ...page }, past),
  async engagementsFile(app, { query: { q }, past }) {
    const { page } = await foundEngagements(app, { query: q, from: 0, count: Infinity }, past);
    return { type: "text/csv; charset=utf-8", name: "projects.csv", body: engagementsCsv(page) };
  },
  async engagement({ engine, db }, { query: { id }, past }) {
    const sheet = await engine.ask("engagementSheet", { id }, past);
    if (!sheet) throw new Problem("unknown", "No such project is known.");
    const kept = (await keptOf(db)).get(id) ?? null;
    return { ...sheet, kept, extensions: await extensionsOf(db, id), graceDays: await graceDays(db) };
  },
  async makeEngagement(app, { actor, body }) {
    const id = await makeEngagement(app.db, body, actor.email);
    await app.engine.ask("refresh", {});
    return { id };
  },
  async changeEngagement(app, { actor, body }) {
    await changeEngagement(app.db, body, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async extendEngagement(app, { actor, body: { id, ends, reason } }) {
    await extendEngagement(app.db, { id, ends: seconds(ends), reason }, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async endEngagement(app, { actor, body: { id } }) {
    await endEngagement(app.db, id, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async engagementDates(app) {
    return { type: "text/calendar; charset=utf-8", name: "projects.ics", body: await engagementDates(app) };
  },
  engagementAsked: (app, { body: { token }, network }) => askedAt(app, token, network),
  engagementExtended: (app, { body: { ends, ...body }, network }) =>
    extendAsked(app, { ...body, ends: seconds(ends) }, network),
  engagementLetEnd: (app, { body: { token }, network }) => letEnd(app, token, network),
};

async function foundEngagements({ db, engine, clock }: Asking, asked: ListAsked, past: Seconds | undefined) {
  const kept = await keptOf(db);
  const told = await engine.ask("engagements", {}, past);
  const lines = told.map((one) => ({ ...one, responsible: kept.get(one.id)?.responsible ?? null }));
  return listPage(lines, asked, engagementAskable(past ?? clock.seconds()), past ?? clock.seconds());
}

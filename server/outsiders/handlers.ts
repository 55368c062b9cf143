import type { OrganisationsAsked, outsidersOperations } from "@/contract/outsiders";
import { organisationsCsv } from "@/core/outsiders/table";
import { seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { leaveNote } from "./notes";
import { lookAlikes, organisation, parties } from "./outsiders";
import { saySame } from "./sameFirms";
import { dropStance, setStance } from "./stances";

export const outsidersHandlers: Handlers<Asking, typeof outsidersOperations> = {
  organisations: ({ engine }, { query: { from, count, ...asked }, past }) =>
    engine.ask("organisations", { ...questionOf(asked), from, count }, past),
  async organisationsFile({ engine }, { query, past }) {
    const { page } = await engine.ask("organisations", { ...questionOf(query), from: 0, count: Infinity }, past);
    return { type: "text/csv; charset=utf-8", name: "organisations.csv", body: organisationsCsv(page) };
  },
  organisation: (app, { query: { domain }, past }) => organisation(app, domain, past),
  parties: async (app) => ({ parties: await parties(app) }),
  lookAlikes: (app, { query, past }) => lookAlikes(app, query, past),
  async setStance(app, { actor, body: { until, ...body } }) {
    await setStance(app.db, { ...body, until: until === null ? null : seconds(until) }, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async dropStance(app, { actor, body: { domain } }) {
    await dropStance(app.db, domain, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
  async leaveOrganisationNote(app, { actor, body }) {
    await organisation(app, body.domain);
    await leaveNote(app.db, body, actor.email);
    return {};
  },
  async saySame(app, { actor, body: { domains, isSame } }) {
    await saySame(app.db, domains, isSame, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
};

/** What the address leaves out narrows nothing. */
function questionOf({ q, by, reversed }: OrganisationsAsked) {
  return { query: q, by, reversed: reversed ?? false };
}

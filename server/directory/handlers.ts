import type { directoryOperations, InsidersAsked } from "@/contract/directory";
import { insidersCsv } from "@/core/directory/insiders";
import type { Reads } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { knownSources, setBelief } from "../records/belief";
import { connections } from "../stores/connections";
import type { Listing } from "./atWork";
import { leftAfterDays, setLeftAfterDays } from "./leftAfter";

export const directoryHandlers: Handlers<Listing, typeof directoryOperations> = {
  sources: ({ db }) => sourcesTold(db),
  async setBelief({ db, engine }, { actor, body: { order } }) {
    await setBelief(db, order, actor.email);
    await engine.ask("refresh", {});
    return sourcesTold(db);
  },
  async setLeftAfter({ db, engine }, { actor, body: { days } }) {
    await setLeftAfterDays(db, days, actor.email);
    await engine.ask("refresh", {});
    return sourcesTold(db);
  },
  lookAtList: ({ lists }, { body: given, actor }) => lists.ask({ task: "look", given }, actor.email),
  async readList({ lists, engine }, { actor, body: { digest, inactive, ...given } }) {
    const { email } = actor;
    // Of one that is stopped, something may have been read as well.
    return lists
      .ask({ task: "take", given, said: { digest, inactive }, actor: email }, email)
      .finally(() => engine.ask("refresh", {}));
  },
  listNow: async ({ lists }, { actor }) => ({ step: lists.stepOf(actor.email) }),
  async stopList({ lists }, { actor }) {
    await lists.stop(actor.email);
    return {};
  },
  insiders: ({ engine }, { query: { from, count, ...asked }, past }) =>
    engine.ask("insiderPage", { ...questionOf(asked), from, count }, past),
  async insidersFile({ engine }, { query, past }) {
    const { page } = await engine.ask("insiderPage", { ...questionOf(query), from: 0, count: Infinity }, past);
    return { type: "text/csv; charset=utf-8", name: "insiders.csv", body: insidersCsv(page) };
  },
  async person({ engine }, { query: { address }, past }) {
    const told = await engine.ask("personTold", { address }, past);
    if (!told) throw new Problem("unknown", `Nobody with the address ${address} is known.`);
    return told;
  },
};

async function sourcesTold(db: Reads) {
  const names = new Map((await connections(db)).map(({ id, name }) => [id, name]));
  const sources = await knownSources(db);
  return {
    sources: sources.map((one) => ({ ...one, title: names.get(one.name) ?? one.name })),
    leftAfterDays: await leftAfterDays(db),
  };
}

/** Filters that the address leaves out don't apply. */
function questionOf({ q, by, reversed }: InsidersAsked) {
  return { query: q, by, reversed: reversed ?? false };
}

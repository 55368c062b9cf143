import { normaliseDomain } from "@/core/estate/address";
import { byBelief } from "@/core/estate/believed";
import type { PartyRecord } from "@/core/estate/records";
import { byText } from "@/core/text/text";
import { beliefIn } from "../records/belief";
import { bodiesNow } from "../records/facts";
import type { OpenLeft, OrganisationTold, PartyTold, StanceTold } from "@/contract/outsiders";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import { notesOn } from "./notes";
import { sameFirms } from "./sameFirms";
import { stancesSet } from "./stances";

/** What there is to know of one organisation. @throws {Problem} where nothing is */
export async function organisation(app: Asking, domain: string, past?: Seconds): Promise<OrganisationTold> {
  const found = await app.engine.ask("organisation", { domain }, past);
  if (!found)
    throw new Problem(
      "unknown",
      `Nobody at ${domain || "a private mailbox"} is known here, and no stance is set on it.`,
    );
  const { open, ...sheet } = found.sheet;
  return {
    organisation: found.organisation,
    sheet,
    notes: await notesOn(app.db, domain, past),
    stances: await stancesTold(app, [...new Set([...sheet.domains, found.organisation.domain])], past),
    open: await openLeft(app, sheet.domains, open, past),
  };
}

async function stancesTold({ db }: Asking, domains: readonly string[], past?: Seconds): Promise<StanceTold[]> {
  return (await stancesSet(db, domains, past)).map(({ domain, stance, reason, set_by, set_at, until }) => {
    return { domain, stance, reason, setBy: set_by, setAt: set_at, until };
  });
}

/** Every stance that holds, by domain: what was set here before what stores and files say. */
export async function parties(app: Asking): Promise<PartyTold[]> {
  const { db } = app;
  const told = await bodiesNow<PartyRecord>(db, "party");
  const first = new Map<string, PartyTold>();
  for (const { source, record } of told.sort(byBelief(await beliefIn(db)))) {
    const domain = normaliseDomain(record.domain);
    if (!first.has(domain)) first.set(domain, { domain, stance: record.stance, source, set: null });
  }
  for (const set of await stancesTold(app, [...first.keys()]))
    first.set(set.domain, { domain: set.domain, stance: set.stance, source: null, set });
  return [...first.values()].sort((a, b) => byText(a.domain, b.domain));
}

/** Open links that people of some domains have used, and those on what they reach by name. */
async function openLeft(app: Asking, organisations: string[], on: string[], past?: Seconds): Promise<OpenLeft[]> {
  const used = new Set(await app.engine.ask("usedBy", { organisations }));
  const rows = await app.engine.ask("rows", { ids: [...new Set([...used, ...on])] }, past);
  return rows
    .filter(({ way, state }) => way === "open" && state === "live")
    .map(({ id, itemName, place }) => ({ id, item: itemName, place, used: used.has(id) }))
    .sort((a, b) => Number(b.used) - Number(a.used));
}

/** Pairs of domains that can be taken for each other, and those of which somebody has said that they are one firm's. */
export async function lookAlikes(app: Asking, page: { from: number; count: number }, past?: Seconds) {
  const same = await sameFirms(app.db, past === undefined ? null : rfc3339(past));
  return { ...(await app.engine.ask("lookAlikes", { same, ...page }, past)), same };
}

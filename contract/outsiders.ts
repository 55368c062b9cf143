import { z } from "zod";
import { PERSON_STATES, STANCES } from "@/core/estate/records";
import type { OrganisationSheet } from "@/core/outsiders/organisation";
import { type Organisation, ORGANISATION_COLUMNS } from "@/core/outsiders/organisations";
import { LIKENESSES } from "@/core/outsiders/lookAlikes";
import type { LookAlikePair, PairSide } from "@/core/outsiders/pairs";
import { LEVELS } from "@/core/rules/risk";
import { listOrder, listPage, listQuery, paging } from "./listing";
import { operations } from "./operation";
import { noteBody } from "./share";
import { reachedItem } from "./waysIn";

const organisation: z.ZodType<Organisation> = z.object({
  domain: z.string(),
  stance: z.enum(STANCES).nullable(),
  people: z.number(),
  shares: z.number(),
  files: z.number(),
  folders: z.number(),
  labels: z.array(z.number()),
  since: z.number().nullable(),
  lastUsed: z.number().nullable(),
  makers: z.number(),
  engagements: z.number(),
  findings: z.number(),
  risk: z.enum(LEVELS).nullable(),
});

const sheet: z.ZodType<Omit<OrganisationSheet, "open">> = z.object({
  projects: z.array(z.object({ id: z.string(), name: z.string(), ends: z.number() })),
  domains: z.array(z.string()),
  people: z.array(
    z.object({
      address: z.string(),
      name: z.string(),
      status: z.enum(PERSON_STATES),
      shares: z.number(),
      items: z.number(),
    }),
  ),
  labels: z.array(z.number()),
  items: z.array(reachedItem),
});

/** A stance that was set here, with who set it and why; its end and its beginning as instants. */
const stanceTold = z.object({
  domain: z.string(),
  stance: z.enum(STANCES),
  reason: z.string(),
  setBy: z.string(),
  setAt: z.number(),
  until: z.number().nullable(),
});
export type StanceTold = z.infer<typeof stanceTold>;

/** A stance that holds: as it was set here, or as a store or a file says. */
const party = z.object({
  domain: z.string(),
  stance: z.enum(STANCES),
  source: z.string().nullable(),
  set: stanceTold.nullable(),
});
export type PartyTold = z.infer<typeof party>;

/** An open link by which an organisation's people can still come in once they are cut off by name. */
const openLeft = z.object({
  id: z.string(),
  item: z.string(),
  place: z.array(z.string()),
  /** Their people are known to have used it; else it only sits on something that they reach by name. */
  used: z.boolean(),
});
export type OpenLeft = z.infer<typeof openLeft>;

const organisationTold = z.object({
  organisation,
  sheet,
  /** Those that were set here on its domains. */
  stances: z.array(stanceTold),
  notes: z.array(z.object({ author: z.string(), at: z.string(), text: z.string() })),
  open: z.array(openLeft),
});
export type OrganisationTold = z.infer<typeof organisationTold>;

const side: z.ZodType<PairSide> = z.object({
  domain: z.string(),
  isHome: z.boolean(),
  organisation: organisation.nullable(),
});
const pair: z.ZodType<LookAlikePair> = z.object({ likeness: z.enum(LIKENESSES), sides: z.tuple([side, side]) });

const domain = z.string().trim().min(1).max(253);

/** What the list of organisations is asked for by, as it stands in an address. */
const asked = { ...listQuery, ...listOrder(ORGANISATION_COLUMNS, "sensitive") };
export type OrganisationsAsked = z.output<z.ZodObject<typeof asked>>;

export const outsidersOperations = operations({
  organisations: {
    method: "GET",
    path: "/api/outsiders",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object({ ...asked, ...paging }),
    answer: listPage(organisation),
  },
  organisationsFile: {
    method: "GET",
    path: "/api/outsiders/file",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object(asked),
    answer: "file",
  },
  organisation: {
    method: "GET",
    path: "/api/outsiders/one",
    may: "read",
    tellsOutsiders: true,
    past: true,
    /** Empty for private mailboxes. */
    query: z.object({ domain: z.string().trim().max(253) }),
    answer: organisationTold,
  },
  lookAlikes: {
    method: "GET",
    path: "/api/outsiders/look-alikes",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z.object(paging),
    answer: z.object({ found: z.number(), pairs: z.array(pair), same: z.array(z.tuple([z.string(), z.string()])) }),
  },
  /** Every stance that holds, whoever says so. */
  parties: {
    method: "GET",
    path: "/api/outsiders/parties",
    may: "read",
    tellsOutsiders: true,
    answer: z.object({ parties: z.array(party) }),
  },
  setStance: {
    method: "PUT",
    path: "/api/outsiders/stance",
    may: "change",
    fresh: true,
    body: z.object({
      domain,
      stance: z.enum(STANCES),
      reason: z.string().trim().min(1, "Give a reason: it is recorded in the ledger.").max(500),
      until: z.iso.datetime({ precision: 0 }).nullable(),
    }),
    answer: z.object({}),
  },
  dropStance: {
    method: "DELETE",
    path: "/api/outsiders/stance",
    may: "change",
    fresh: true,
    body: z.object({ domain }),
    answer: z.object({}),
  },
  leaveOrganisationNote: {
    method: "POST",
    path: "/api/outsiders/notes",
    may: "change",
    body: z.object({ domain, ...noteBody.shape }),
    answer: z.object({}),
  },
  saySame: {
    method: "PUT",
    path: "/api/outsiders/same-firm",
    may: "change",
    body: z.object({ domains: z.tuple([domain, domain]), isSame: z.boolean() }),
    answer: z.object({}),
  },
});

import { z } from "zod";
import { operations } from "./operation";
import { someItems } from "./preview";
import { type Exposure } from "@/core/access/exposure";
import {
  type Cut,
  type Found,
  type ItemWays,
  type PathWays,
  type ReachWays,
  type Step,
  type Ways,
  type NamedItem,
  type NamedPath,
  type NamedPerson,
} from "@/core/access/ways";
import { changeSchema } from "@/core/changes/change";
import { type SubjectWords } from "@/core/changes/subject";
import { KINDS, LABELS, PERSON_STATES, ROLES } from "@/core/estate/records";
import { type CheapestCut, type CutChange, type CutSet, type Loss, type OtherLoss } from "@/core/preview/cheapestCut";

const personParts = { address: z.string(), name: z.string(), insider: z.boolean(), organisation: z.string() };
const namedPerson: z.ZodType<NamedPerson> = z.object(personParts);

export const namedItem: z.ZodType<NamedItem> = z.object({
  id: z.string(),
  name: z.string(),
  kind: z.enum(KINDS),
  label: z.enum(LABELS),
  place: z.array(z.string()),
});

const found: z.ZodType<Found> = z.object({
  people: z.array(z.object({ ...personParts, status: z.enum(PERSON_STATES) })),
  organisations: z.array(z.string()),
  items: z.array(namedItem),
});

const exposure: z.ZodType<Exposure> = z.object({
  open: z.boolean(),
  openKeyed: z.boolean(),
  house: z.boolean(),
  insiders: z.number(),
  outsiders: z.number(),
  organisations: z.array(z.string()),
  outsideRole: z.enum(ROLES).nullable(),
  outsideDownload: z.boolean(),
  outsideUntil: z.number(),
});

const itemWays: z.ZodType<ItemWays> = z.object({
  kind: z.literal("item"),
  item: namedItem,
  labelFrom: z.string(),
  outside: exposure.nullable(),
  organisation: z.string().nullable(),
  people: z.array(
    z.object({
      address: z.string(),
      name: z.string(),
      insider: z.boolean(),
      organisation: z.string(),
      role: z.enum(ROLES),
      download: z.boolean(),
      until: z.number(),
    }),
  ),
  crowd: z.array(
    z.object({ share: z.string(), words: z.string(), role: z.enum(ROLES), download: z.boolean(), until: z.number() }),
  ),
});

/** An item, and what somebody may do there. */
export const reachedItem = z.object({
  id: z.string(),
  name: z.string(),
  kind: z.enum(KINDS),
  label: z.enum(LABELS),
  place: z.array(z.string()),
  role: z.enum(ROLES),
  download: z.boolean(),
  until: z.number(),
});

const reachWays: z.ZodType<ReachWays> = z.object({
  kind: z.literal("reach"),
  who: z.union([namedPerson, z.object({ organisation: z.string(), people: z.array(namedPerson) })]),
  count: z.number(),
  items: z.array(reachedItem),
});

const cut: z.ZodType<Cut> = z.union([
  z.object({ action: z.literal("leave-group"), groupId: z.string(), address: z.string() }),
  z.object({ action: z.literal("stop-inheriting"), itemId: z.string() }),
  z.object({ action: z.literal("drop-recipient"), shareId: z.string(), address: z.string() }),
  z.object({ action: z.literal("revoke"), shareId: z.string() }),
]);

const step: z.ZodType<Step> = z.object({
  kind: z.enum(["folder", "person", "group", "item", "share"]),
  id: z.string(),
  words: z.string(),
  cut: cut.nullable(),
  end: cut.nullable(),
});

const namedPath: z.ZodType<NamedPath> = z.object({
  share: z.string(),
  steps: z.array(step),
  role: z.enum(ROLES),
  download: z.boolean(),
  until: z.number(),
});

const pathWays: z.ZodType<PathWays> = z.object({
  kind: z.literal("paths"),
  person: namedPerson,
  item: namedItem,
  paths: z.array(namedPath),
});

const ways: z.ZodType<Ways> = z.union([itemWays, reachWays, pathWays]);

const subjectWords: z.ZodType<SubjectWords> = z.object({
  storeId: z.string().nullable(),
  itemName: z.string(),
  audience: z.string(),
});

const loss: z.ZodType<Loss> = z.object({ insiders: z.number(), outsiders: z.number() });

const cutChange: z.ZodType<CutChange> = z.object({ about: subjectWords, change: changeSchema, loss: loss });

const cutSet: z.ZodType<CutSet> = z.object({ changes: z.array(cutChange), loss: loss });

const otherLoss: z.ZodType<OtherLoss> = z.object({ who: z.string(), address: z.string().nullable(), loses: someItems });

const cheapestCut: z.ZodType<CheapestCut> = z.object({
  cheapest: cutSet.nullable(),
  next: z.array(cutSet),
  isExact: z.boolean(),
  stays: z.array(z.string()),
  losses: z.array(otherLoss),
});

const name = z.string().min(1).max(500);

export const waysInOperations = operations({
  waysIn: {
    method: "GET",
    path: "/api/ways",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z
      .object({ item: name, person: name, organisation: name })
      .partial()
      .refine((one) => one.item ?? one.person ?? one.organisation, {
        error: "name an item, a person or an organisation",
      }),
    answer: ways,
  },
  /** People, organisations and items whose names have some text in them. */
  find: {
    method: "GET",
    path: "/api/ways/find",
    may: "read",
    past: true,
    query: z.object({
      text: z.string().max(200),
      /** Only people who can be made owners. */
      owners: z.stringbool().default(false),
    }),
    answer: found,
  },
  cheapestCut: {
    method: "GET",
    path: "/api/ways/cut",
    may: "read",
    tellsOutsiders: true,
    past: true,
    query: z
      .object({
        item: name,
        person: name.optional(),
        organisation: name.optional(),
        below: z.stringbool().default(false),
      })
      .refine((one) => one.person ?? one.organisation, { error: "name a person or an organisation" }),
    answer: cheapestCut,
  },
});

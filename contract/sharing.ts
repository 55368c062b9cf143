import { z } from "zod";
import { changeSchema } from "@/core/changes/change";
import { KINDS, LABELS } from "@/core/estate/records";
import { RULE_IDS } from "@/core/rules/list";
import { REQUEST_STATES, type ShareRequest } from "@/core/sharing/request";
import { freeRequestsSchema, templatesSchema } from "@/core/sharing/templates";
import { wishSchema } from "@/core/sharing/wish";
import { writtenLines } from "@/core/text/written";
import { toldIn } from "./dates";
import { digest } from "./dockets";
import { operations } from "./operation";

const instant = z.iso.datetime({ precision: 0 });
const sentence = writtenLines.max(2_000);
const waiver = z.object({ rule: z.enum(RULE_IDS), reason: sentence.min(3, "Say why."), until: instant });

/** What a share would be, were it made as somebody wishes. */
const outlook = z.object({
  item: z.object({
    id: z.string(),
    name: z.string(),
    kind: z.enum(KINDS),
    place: z.array(z.string()),
    label: z.enum(LABELS),
    labelFrom: z.string(),
  }),
  changes: z.array(changeSchema),
  instead: z.array(z.string()),
  cannot: z.array(z.object({ why: z.string(), instead: z.string() })),
  makeAt: z.number(),
  breaks: z.array(
    z.object({
      ...{ rule: z.enum(RULE_IDS), title: z.string(), reason: z.string(), items: z.array(z.string()) },
      ...{ own: z.boolean(), canWaive: z.boolean() },
    }),
  ),
  sentences: z.array(z.string()),
  files: z.number(),
  labels: z.record(z.enum(LABELS), z.number()),
  folder: z.string().nullable(),
  addresses: z.array(
    z.object({
      address: z.string(),
      name: z.string().nullable(),
      insider: z.boolean(),
      isNew: z.boolean(),
      cautions: z.array(z.string()),
    }),
  ),
  after: z.object({ anyone: z.boolean(), insiders: z.number(), outsiders: z.number() }),
  /** Whether an administrator has to approve it, where somebody else asks. */
  needsApproval: z.boolean(),
  /** By which what is made is what was shown. */
  digest,
});
export type OutlookTold = z.infer<typeof outlook>;

const request: z.ZodType<ShareRequest> = z.object({
  ...{ id: z.string(), wish: wishSchema, itemName: z.string(), why: z.string() },
  ...{ askedBy: z.string(), askedAt: z.number(), state: z.enum(REQUEST_STATES), waivers: z.array(waiver) },
  ...{ word: z.string().nullable(), decidedBy: z.string().nullable(), decidedAt: z.number().nullable() },
  ...{ dueAt: z.number().nullable(), docketId: z.string().nullable(), shares: z.array(z.string()) },
});

/** The sentence as it begins for an item, or to take the place of a share. */
const beginning = z.object({
  wish: wishSchema.extend({ to: z.union([z.literal("anyone"), z.array(z.string())]) }),
  itemName: z.string(),
  /** What else a folder gives away; null where it is none. */
  folder: z.string().nullable(),
});

const asking = z.object({ item: z.string().min(1).max(500), replaces: z.string().min(1).max(500).optional() });
const looked = z.object({ wish: wishSchema });
const sent = { wish: wishSchema, digest, why: sentence };

export const sharingOperations = operations({
  /** The sentence as the template of the item's label has it; in place of a share, as that is, made strict. */
  beginShare: { method: "GET", path: "/api/sharing/begin", may: "change", query: asking, answer: beginning },
  /** What a share would be; nothing is made. */
  lookAtShare: {
    method: "POST",
    path: "/api/sharing/look",
    may: "change",
    query: toldIn,
    body: looked,
    answer: outlook,
  },
  makeShare: {
    method: "POST",
    path: "/api/sharing",
    may: "change",
    body: z.object({ ...sent, waivers: z.array(waiver).max(RULE_IDS.length) }),
    answer: z.object({ id: z.string(), docketId: z.string().nullable() }),
  },
  shareRequests: { method: "GET", path: "/api/sharing", may: "read", tellsOutsiders: true, answer: z.array(request) },
  shareRequest: {
    method: "GET",
    path: "/api/sharing/requests/:id",
    may: "read",
    tellsOutsiders: true,
    answer: request,
  },
  /** What it would be if it were approved now. */
  lookAtRequest: {
    method: "GET",
    path: "/api/sharing/requests/:id/look",
    may: "read",
    tellsOutsiders: true,
    query: toldIn,
    answer: outlook,
  },
  approveRequest: {
    method: "POST",
    path: "/api/sharing/requests/:id/approval",
    may: "change",
    body: z.object({ digest, waivers: z.array(waiver).max(RULE_IDS.length) }),
    answer: z.object({ docketId: z.string().nullable() }),
  },
  refuseRequest: {
    method: "POST",
    path: "/api/sharing/requests/:id/refusal",
    may: "change",
    body: z.object({ word: sentence.min(3, "Say why, so that they can ask better.") }),
    answer: z.object({}),
  },
  /** The link that was made as a QR code, for what anyone may open. */
  shareCode: {
    method: "GET",
    path: "/api/sharing/requests/:id/code",
    may: "change",
    query: z.object({ format: z.enum(["png", "svg"]) }),
    answer: "file",
  },
  sharingSettings: {
    method: "GET",
    path: "/api/sharing/settings",
    may: "read",
    answer: z.object({ templates: templatesSchema, free: freeRequestsSchema, words: z.string() }),
  },
  /** What the mail to those whom a share is for says in our own words; empty for none. */
  setShareWords: {
    method: "PUT",
    path: "/api/sharing/words",
    may: "change",
    body: z.object({ words: writtenLines.max(1_000) }),
    answer: z.object({}),
  },
  setTemplates: {
    method: "PUT",
    path: "/api/sharing/templates",
    may: "change",
    body: templatesSchema,
    answer: z.object({}),
  },
  /** Which requests are approved by themselves. */
  setFreeRequests: {
    method: "PUT",
    path: "/api/sharing/free",
    may: "change",
    fresh: true,
    body: z.object({ free: freeRequestsSchema }),
    answer: z.object({}),
  },
});

/** Whoever asks, of what they own. */
export const askingOperations = operations({
  /** Items of their own by name. */
  myItems: {
    method: "GET",
    path: "/api/my-sharing/items",
    may: "own",
    query: z.object({ text: z.string().max(200) }),
    answer: z.array(z.object({ id: z.string(), name: z.string(), place: z.string() })),
  },
  beginMyShare: {
    method: "GET",
    path: "/api/my-sharing/begin",
    may: "own",
    query: asking.pick({ item: true }),
    answer: beginning,
  },
  lookAtMyShare: {
    method: "POST",
    path: "/api/my-sharing/look",
    may: "own",
    query: toldIn,
    body: looked,
    answer: outlook,
  },
  askForShare: {
    method: "POST",
    path: "/api/my-sharing",
    may: "own",
    body: z.object({ ...sent, why: sentence.min(3, "Say what it is for.") }),
    answer: z.object({ id: z.string(), state: z.enum(REQUEST_STATES) }),
  },
  myRequests: { method: "GET", path: "/api/my-sharing", may: "own", answer: z.array(request) },
  withdrawRequest: {
    method: "DELETE",
    path: "/api/my-sharing/:id",
    may: "own",
    answer: z.object({}),
  },
});

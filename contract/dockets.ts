import { z } from "zod";
import { writtenLine, writtenLines } from "@/core/text/written";
import { mailAddress } from "@/core/estate/mailAddress";
import { intentSchema } from "@/core/changes/intent";
import { approvalSchema, approvalViewSchema } from "@/core/preview/approval";
import { operations } from "./operation";
import { preview } from "./preview";
import { type HandWork } from "@/core/changes/byHand";
import { changeSchema } from "@/core/changes/change";
import { type StandingOrder } from "@/core/changes/standingOrder";
import {
  CHANGE_STATES,
  DOCKET_ORIGINS,
  DOCKET_STATES,
  type DocketProgress,
  type StagedChange,
} from "@/core/changes/states";
import {
  TOLD,
  type NoticesView,
  type SentNotice,
  type Telling,
  type ToldLine,
  type ToldPerson,
} from "@/core/changes/telling";
import { type DocketView, type Receipt, type TrayView } from "@/core/preview/docketView";

const stagedChange: z.ZodType<StagedChange> = z.object({
  subject: z.string(),
  itemName: z.string(),
  audience: z.string(),
  change: changeSchema,
});

const docketProgress: z.ZodType<DocketProgress> = z.object({
  docketId: z.string(),
  state: z.enum(DOCKET_STATES),
  counts: z.record(z.enum(CHANGE_STATES), z.number()),
  unchecked: z.number(),
  held: z.array(z.object({ store: z.string(), why: z.string(), since: z.string() })),
});

/** SHA-256, in hexadecimal. */
export const digest = z.string().regex(/^[0-9a-f]{64}$/);

const trayView: z.ZodType<TrayView> = z.object({
  docketId: z.string().nullable(),
  changes: z.array(stagedChange),
  preview: preview.nullable(),
  digest: digest.nullable(),
  name: z.string().nullable(),
  needsReason: z.boolean(),
  running: docketProgress.nullable(),
});

const receipt: z.ZodType<Receipt> = z.object({
  state: z.enum(CHANGE_STATES),
  tries: z.number(),
  sentAt: z.string().nullable(),
  answeredAt: z.string().nullable(),
  answer: z.string().nullable(),
  probe: z.string().nullable(),
  isChecked: z.boolean(),
  request: z.string(),
  response: z.string().nullable(),
  undone: z.object({ docketId: z.string(), isOver: z.boolean() }).nullable(),
  passphrase: z.string().nullable(),
  tell: z.array(z.string()),
  subject: z.string(),
  itemName: z.string(),
  audience: z.string(),
  change: changeSchema,
});

const docketView: z.ZodType<DocketView> = z.object({
  progress: docketProgress,
  origin: z.enum(DOCKET_ORIGINS),
  madeBy: z.string(),
  name: z.string().nullable(),
  reason: z.string().nullable(),
  needsReason: z.boolean(),
  undoes: z.string().nullable(),
  askedBy: z.string().nullable(),
  reasons: z.array(z.string()),
  approvedBy: z.string().nullable(),
  passphrases: z.number(),
  found: z.number(),
  receipts: z.array(receipt),
  preview: preview.nullable(),
  digest: digest.nullable(),
});

const toldLine: z.ZodType<ToldLine> = z.object({
  itemName: z.string(),
  place: z.string(),
  words: z.string(),
  newLink: z.string().nullable(),
});

const toldPerson: z.ZodType<ToldPerson> = z.object({ address: z.string(), name: z.string(), lines: z.array(toldLine) });

const telling: z.ZodType<Telling> = z.object({ owners: z.array(toldPerson), recipients: z.array(toldPerson) });

const sentNotice: z.ZodType<SentNotice> = z.object({
  audience: z.enum(TOLD),
  address: z.string(),
  state: z.enum(["waiting", "sent", "aside"]),
});

const noticesView: z.ZodType<NoticesView> = z.object({
  telling,
  name: z.string().nullable(),
  reason: z.string().nullable(),
  sent: z.array(sentNotice),
});

const handWork: z.ZodType<HandWork> = z.object({
  subject: z.string(),
  owner: z.string(),
  where: z.string(),
  itemName: z.string(),
  audience: z.string(),
  words: z.string(),
});

const standingOrder: z.ZodType<StandingOrder> = z.object({
  id: z.number(),
  shareId: z.string(),
  itemName: z.string(),
  on: z.string(),
  by: z.string(),
});

/** A docket in the list of those that are applied, were, or wait. */
const docketLine = z.object({
  id: z.string(),
  state: z.enum(DOCKET_STATES),
  origin: z.enum(DOCKET_ORIGINS),
  madeBy: z.string(),
  /** What it is called or, where nobody put it together by hand, what it is for. */
  name: z.string().nullable(),
  reason: z.string().nullable(),
  appliedAt: z.string().nullable(),
});
export type DocketLine = z.infer<typeof docketLine>;

const handedOver = z.object({
  /** By name; empty where nobody known owns the item. */
  owner: z.string(),
  where: z.string(),
  itemName: z.string(),
  audience: z.string(),
  passphrase: z.string(),
});
export type HandedOver = z.infer<typeof handedOver>;

export const MOST_NAME = 120;

const move = { method: "POST", may: "change", answer: z.object({}) } as const;

export const docketsOperations = operations({
  tray: { method: "GET", path: "/api/tray", may: "read", answer: trayView },
  stage: {
    method: "POST",
    path: "/api/tray",
    may: "change",
    body: z.object({
      changes: z.array(intentSchema).min(1).max(20_000),
      /** The query that found what they are about: a docket can be called after it. */
      query: z.string().max(2_000).optional(),
    }),
    mostBytes: 8_000_000,
    /** What was left out: subjects that aren't in the estate, and how many intents of each kind that hold already. */
    answer: z.object({ unknown: z.array(z.string()), left: z.record(z.string(), z.number()) }),
  },
  unstage: {
    method: "DELETE",
    path: "/api/tray",
    may: "change",
    /** Null removes everything. */
    body: z.object({ subjects: z.array(z.string()).nullable() }),
    mostBytes: 4_000_000,
    answer: z.object({}),
  },
  dockets: {
    method: "GET",
    path: "/api/dockets",
    may: "read",
    answer: z.object({ dockets: z.array(docketLine) }),
  },
  docket: {
    method: "GET",
    path: "/api/dockets/:id",
    may: "read",
    tellsOutsiders: true,
    query: z.object({
      state: z.enum(CHANGE_STATES).nullable().default(null),
      from: z.coerce.number().int().min(0).default(0),
    }),
    answer: docketView,
  },
  docketNews: {
    method: "GET",
    path: "/api/dockets/:id/events",
    may: "read",
    answer: { events: docketProgress },
  },
  applyDocket: {
    method: "POST",
    path: "/api/dockets/:id/apply",
    may: "change",
    /** What somebody has said yes to: the changes that were shown, and how many ended shares these open again. */
    body: z.object({
      digest,
      reopened: z.int().min(0).default(0),
      /** What to call it, and why it is applied. */
      name: writtenLine.max(MOST_NAME, `A name has at most ${MOST_NAME} characters.`).optional(),
      reason: writtenLines.max(1_000, "A reason has at most 1,000 characters.").optional(),
    }),
    answer: z.object({ applied: z.enum(["begun", "asked"]) }),
  },
  pauseDocket: { ...move, path: "/api/dockets/:id/pause" },
  resumeDocket: { ...move, path: "/api/dockets/:id/resume" },
  retryDocket: { ...move, path: "/api/dockets/:id/retry" },
  dropDocket: { ...move, path: "/api/dockets/:id/drop" },
  takeOverDocket: { ...move, path: "/api/dockets/:id/take-over" },
  stopDocket: { ...move, path: "/api/dockets/:id/stop" },
  undoDocket: {
    method: "POST",
    path: "/api/dockets/:id/undo",
    may: "change",
    /** Null undoes all that was done. */
    body: z.object({ subjects: z.array(z.string()).max(20_000).nullable() }),
    mostBytes: 4_000_000,
    answer: z.object({
      docketId: z.string(),
      not: z.array(z.object({ subject: z.string(), itemName: z.string(), why: z.string() })),
    }),
  },
  docketNotices: {
    method: "GET",
    path: "/api/dockets/:id/notices",
    may: "read",
    tellsOutsiders: true,
    answer: noticesView,
  },
  sendNotices: {
    method: "POST",
    path: "/api/dockets/:id/notices",
    may: "change",
    body: z.object({
      audience: z.enum(TOLD),
      subject: writtenLine.min(1).max(200),
      head: writtenLines.min(1).max(5_000),
      addresses: z.array(mailAddress).min(1).max(5_000),
    }),
    mostBytes: 2_000_000,
    answer: z.object({ count: z.number() }),
  },
  handWork: {
    method: "GET",
    path: "/api/dockets/:id/by-hand",
    may: "read",
    tellsOutsiders: true,
    answer: z.object({ work: z.array(handWork) }),
  },
  handWorkTable: {
    method: "GET",
    path: "/api/dockets/:id/by-hand.csv",
    may: "read",
    tellsOutsiders: true,
    answer: "file",
  },
  sayDone: {
    method: "POST",
    path: "/api/dockets/:id/by-hand",
    may: "change",
    body: z.object({ subject: z.string().min(1).max(600) }),
    answer: z.object({}),
  },
  /** The passphrase that a change set, once, for whoever hands it over. */
  showPassphrase: {
    method: "POST",
    path: "/api/passphrases/:id",
    may: "change",
    answer: z.object({ passphrase: z.string() }),
  },
  /** All that wait of a docket, once, for one sheet by owner. */
  showPassphrases: {
    method: "POST",
    path: "/api/dockets/:id/passphrases",
    may: "change",
    fresh: true,
    answer: z.object({ sheet: z.array(handedOver) }),
  },
  orders: { method: "GET", path: "/api/orders", may: "read", answer: z.object({ orders: z.array(standingOrder) }) },
  dropOrder: {
    method: "DELETE",
    path: "/api/orders",
    may: "change",
    fresh: true,
    body: z.object({ id: z.int() }),
    answer: z.object({}),
  },
  approval: { method: "GET", path: "/api/approval", may: "read", answer: approvalViewSchema },
  /** What loosens it waits until another administrator agrees. */
  setApproval: {
    method: "PUT",
    path: "/api/approval",
    may: "change",
    fresh: true,
    body: approvalSchema,
    answer: approvalViewSchema,
  },
  agreeToApproval: {
    method: "POST",
    path: "/api/approval/proposed",
    may: "change",
    fresh: true,
    body: approvalSchema,
    answer: approvalViewSchema,
  },
  dropProposedApproval: {
    method: "DELETE",
    path: "/api/approval/proposed",
    may: "change",
    fresh: true,
    body: approvalSchema,
    answer: approvalViewSchema,
  },
});

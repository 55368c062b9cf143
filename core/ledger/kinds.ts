import { z } from "zod";
import { STANCES } from "../estate/records";
import { mailAddress } from "../estate/mailAddress";
import { approvalSchema } from "../preview/approval";
import { changeSchema } from "../changes/change";
import { CHANGE_STATES } from "../changes/states";
import { TOLD } from "../changes/telling";
import { LIST_KINDS } from "../directory/list";
import { LINE_STATES, DECISIONS as LINE_DECISIONS } from "../rounds/line";
import { DECISIONS } from "../rules/answer";
import { RULE_IDS } from "../rules/list";
import { ruleSettingSchema } from "../rules/setting";
import { SEVERITIES } from "../rules/severity";
import { weighingSchema } from "../advice/weighing";
import { detail } from "./details";

const instant = z.iso.datetime({ precision: 0 });
const count = z.int().nonnegative();
const words = z.string();
/** Words that can name somebody outside. */
const told = detail(z.string());
const toldOrNone = detail(z.string().nullable());
const toldOrNot = detail(z.string().optional());
const docket = z.string();
const shareId = z.string();
const rule = z.enum(RULE_IDS);
const nothing = z.strictObject({});
/** What whoever applies a docket calls it, and why; entries of before dockets had names have neither. */
const toldLately = detail(z.string().nullable().optional());
const named = { name: toldLately, reason: toldLately };
const ofRequest = { request: words };
const ofRound = { round: z.int(), name: told };
const ofDocket = z.strictObject({ docket });
const outcome = z.strictObject({ docket, change: detail(changeSchema), answer: told, probe: toldOrNone });
const ofWatch = z.strictObject({ watch: words, on: z.boolean(), severity: z.enum(SEVERITIES) });
const ofAlert = z.strictObject({ alert: z.int(), what: told, share: shareId.nullable(), note: toldOrNone });
const engagement = {
  ...{ engagement: words, name: told, organisations: detail(z.array(words)), items: z.array(words) },
  ...{ starts: instant, ends: instant, responsible: words },
};
/** Of which kind it is, and where it is: a folder, an address. */
const ofWitness = z.strictObject({ witness: words, to: told });
const ofSchedule = z.strictObject({ report: words, every: words, to: words });
const exported = { format: words };

/**
 * All that the ledger tells of, and what an entry of each kind says. Each is written as it happened, in the past tense;
 * what is not on this list is not written.
 */
export const KINDS = {
  "person-added": z.strictObject({ email: mailAddress, role: words }),
  "person-invited": z.strictObject({ email: mailAddress, role: words }),
  "person-removed": z.strictObject({ email: mailAddress, role: words }),
  "role-changed": z.strictObject({ email: mailAddress, role: words }),
  // Entries of before the dates had settings of their own have a zone.
  "own-account-set": z.strictObject({ name: words, zone: words.optional() }),
  "own-dates-set": z.strictObject({ zone: words, style: words, weekStart: z.int() }),
  "password-reset": z.strictObject({ email: mailAddress }),
  "password-chosen": nothing,
  "password-changed": nothing,
  "factors-removed": z.strictObject({ email: mailAddress }),
  "codes-added": nothing,
  "codes-removed": nothing,
  "recovery-codes-made": nothing,
  "passkey-added": nothing,
  "passkey-removed": nothing,
  "sessions-ended": z.strictObject({ email: mailAddress, ended: count }),
  "sign-in-unlocked": z.strictObject({ email: mailAddress }),
  "sign-in-policy-set": z.strictObject({ factorFor: z.array(words), passwordsOff: z.boolean() }),
  /** By what: left out before there was more than a password. */
  "signed-in": z.strictObject({ by: words.optional() }),
  "sign-in-refused": z.strictObject({ by: words.optional() }),

  "share-requested": z.strictObject({ ...ofRequest, wish: told, why: told }),
  "share-request-approved": z.strictObject({ ...ofRequest, waived: z.array(rule), due: instant.nullable() }),
  "share-request-refused": z.strictObject({ ...ofRequest, word: told }),
  "share-request-withdrawn": z.strictObject(ofRequest),
  "share-request-failed": z.strictObject({ ...ofRequest, why: told }),
  "share-made": z.strictObject({ ...ofRequest, docket, shareId, waived: z.array(rule) }),
  "share-sent": z.strictObject({ ...ofRequest, people: count }),
  "share-code-shown": z.strictObject({ ...ofRequest, format: words }),
  "share-words-set": z.strictObject({ words: told }),
  "share-templates-set": z.strictObject({ templates: words }),
  "free-requests-set": z.strictObject({ labels: z.array(words), maxDays: z.int().nullable(), named: z.boolean() }),
  "links-cleared": z.strictObject({ month: words, docket: docket.nullable(), links: count }),
  "clearing-set": z.strictObject({ on: z.boolean(), most: count }),

  "label-rule-set": z.strictObject({ label: words, on: words, of: words, items: count }),
  "label-rule-ended": z.strictObject({ label: words, on: words, of: words }),
  "house-named": z.strictObject({ before: words, name: words }),
  "home-domains-set": z.strictObject({ before: z.array(words), domains: z.array(words) }),
  /** A report that a store exported was imported; `stopped` before its end. */
  "report-imported": z.strictObject({
    ...{ name: words, file: words, mapping: words },
    ...{ rows: count, skipped: count, changed: count, ended: count, ticked: count },
    stopped: z.boolean(),
  }),
  "mapping-removed": z.strictObject({ mapping: words }),
  "file-imported": z.strictObject({
    ...{ name: words, as: words },
    ...{ records: count, changed: count, events: count },
    /** How many changes to be done by hand it showed as done. */
    ticked: count,
  }),
  "store-connected": z.strictObject({ store: words, name: words, url: words }),
  "store-disconnected": z.strictObject({ store: words, name: words }),
  "store-read-again": z.strictObject({ store: words, name: words }),
  "store-read": z.strictObject({ store: words, changed: count, first: z.boolean() }),
  "register-exported": z.strictObject({ ...exported, query: told, shares: count, at: instant.nullable() }),
  "trail-exported": z.strictObject({ ...exported, search: told, events: count }),

  "estate-exported": nothing,

  "address-shown": z.strictObject({ shareId }),
  "note-left": z.strictObject({ shareId, text: told }),
  "rule-set": z.strictObject({ rule, before: ruleSettingSchema, after: ruleSettingSchema }),
  "enforcing-stopped": nothing,
  "enforcing-goes-on": nothing,
  "demand-answered": z.strictObject({
    ...{ subject: words, rules: z.array(rule), decision: z.enum(DECISIONS) },
    ...{ reason: toldOrNot, until: instant.optional() },
  }),
  "waivers-given": z.strictObject({
    /** Null where the shares were named. */
    query: toldOrNone,
    findings: z.array(z.strictObject({ shareId, rule })),
    ...{ reason: told, until: instant },
  }),
  "waivers-ended": z.strictObject({ waivers: z.array(z.strictObject({ id: z.int(), shareId, rule })) }),
  "waiver-over": z.strictObject({ id: z.int(), shareId, rule }),

  "docket-approval-asked": z.strictObject({ docket, ...named, changes: count, reasons: detail(z.array(words)) }),
  "docket-applied": z.strictObject({ docket, ...named, changes: detail(z.array(changeSchema)) }),
  "docket-dropped": ofDocket,
  "docket-paused": ofDocket,
  "docket-resumed": ofDocket,
  "docket-stopped": ofDocket,
  "docket-retried": ofDocket,
  "docket-done": z.strictObject({ docket, ...each(CHANGE_STATES, count) }),
  "docket-taken-over": z.strictObject({ docket, changes: count }),
  "docket-undo-prepared": z.strictObject({
    ...{ docket, by: docket, changes: count },
    /** What can't be undone, and why. */
    not: detail(z.array(z.strictObject({ subject: words, itemName: words, why: words }))),
  }),
  "docket-told": z.strictObject({ docket, audience: z.enum(TOLD), subject: told, people: count }),
  "change-done": outcome,
  "change-failed": outcome,
  "change-set-aside": outcome,
  "change-by-hand": outcome,
  "passphrase-shown": z.strictObject({ change: words, shareId }),
  "approval-set": approvalSchema,
  "approval-loosening-asked": approvalSchema,
  "approval-loosening-dropped": approvalSchema,
  "approval-loosened": approvalSchema.extend({ askedBy: words }),
  "weighing-set": z.strictObject({ before: weighingSchema, after: weighingSchema }),
  "standing-order-given": z.strictObject({ shareId, itemName: told, on: instant }),
  "standing-order-dropped": z.strictObject({ shareId }),

  "round-made": z.strictObject({ ...ofRound, query: told, opens: instant, closes: instant, repeat: words.nullable() }),
  /** How many lines it has, and SHA-256 of their shares' ids, sorted, each followed by a line end. */
  "round-opened": z.strictObject({ ...ofRound, query: told, lines: count, shares: words, deciders: count }),
  "round-extended": z.strictObject({ ...ofRound, before: instant, closes: instant }),
  "round-reminded": z.strictObject({ ...ofRound, people: count }),
  "round-stopped": z.strictObject({ ...ofRound, ...each(LINE_STATES, count) }),
  /** How many lines ended in which state, and SHA-256 of each share's id, a space and its state, sorted, each followed by a line end. */
  "round-closed": z.strictObject({
    ...{ ...ofRound, ...each(LINE_STATES, count), outcome: words },
    ...{ early: z.boolean(), docket: docket.nullable() },
  }),
  "lines-decided": z.strictObject({
    ...{ ...ofRound, shares: z.array(shareId), decision: z.enum(LINE_DECISIONS) },
    ...{ until: instant.optional(), way: toldOrNot, reason: toldOrNot },
  }),
  "lines-passed-on": z.strictObject({ ...ofRound, shares: z.array(shareId), from: words, to: words, reason: told }),
  /** What is no longer asked since the share is over, and what is asked anew since it has changed. */
  "lines-overtaken": z.strictObject({ ...ofRound, gone: count, changed: count, moved: count }),
  "round-finished": z.strictObject({ ...ofRound, lines: count, docket: docket.nullable() }),
  /** Written before anything is drawn, so that anyone can draw it again. */
  "look-drawn": z.strictObject({
    ...{ ...ofRound, look: z.int(), seed: words, of: count, size: count, percent: count, confidence: words },
  }),
  "look-decided": z.strictObject({
    ...ofRound,
    look: z.int(),
    shares: z.array(shareId),
    decision: z.enum(LINE_DECISIONS),
  }),
  "deputy-named": z.strictObject({ person: words, deputy: words, from: instant, until: instant }),
  "deputy-ended": z.strictObject({ person: words, deputy: words }),
  "department-head-set": z.strictObject({ department: words, person: words.nullable() }),

  "organisation-note-left": z.strictObject({ domain: told, text: told }),
  "engagement-made": z.strictObject(engagement),
  "engagement-changed": z.strictObject(engagement),
  "engagement-extended": z.strictObject({
    ...{ engagement: words, name: told, before: instant, until: instant, reason: told },
  }),
  "engagement-ended": z.strictObject({ engagement: words, name: told, before: instant }),
  /** Whoever answers for it has said that it may end as it stands. */
  "engagement-let-end": z.strictObject({ engagement: words, name: told, ends: instant }),
  "last-day-set": z.strictObject({ person: words, before: instant.nullable(), day: instant.nullable(), reason: told }),
  /** Nothing is left of somebody who left; so many days after. */
  "leaver-settled": z.strictObject({ person: words, days: count }),
  "belief-set": z.strictObject({ before: z.array(words), order: z.array(words) }),
  "left-after-set": z.strictObject({ before: count, days: count }),
  "directory-read": z.strictObject({
    ...{ directory: words, list: z.enum(LIST_KINDS), file: words },
    ...{ joins: count, returns: count, leaves: count, suspended: count, lastDay: count, changes: count },
  }),
  /** So many would have been left inactive that nothing was read. */
  "directory-held": z.strictObject({
    ...{ directory: words, list: z.enum(LIST_KINDS), file: words, inactive: count, active: count },
  }),
  "stance-set": z.strictObject({
    ...{ domain: told, before: z.enum(STANCES).nullable(), stance: z.enum(STANCES) },
    ...{ reason: told, until: instant.nullable() },
  }),
  /** By somebody, or by itself on its day. */
  "stance-ended": z.strictObject({ domain: told, stance: z.enum(STANCES) }),
  "same-firm-said": z.strictObject({ domains: detail(z.array(words)) }),
  "same-firm-unsaid": z.strictObject({ domains: detail(z.array(words)) }),

  /** The new key's id, which tells nothing of it. */
  "key-rotated": z.strictObject({ key: words, resealed: count }),
  "ledger-key-changed": z.strictObject({ before: words, key: words }),
  "witness-added": ofWitness,
  "witness-removed": ofWitness,
  /** SHA-256 of its manifest; the entry is the last one that it holds. */
  "pack-made": z.strictObject({ manifest: words, from: words, to: words, scope: told, files: count }),
  "detail-erased": z.strictObject({ entry: z.int(), reason: told }),
  /** Somebody asked who stands behind a pseudonym of the pack of an entry. */
  "pseudonym-looked-up": z.strictObject({ pack: z.int(), pseudonym: words }),
  "report-scheduled": ofSchedule,
  "report-unscheduled": ofSchedule,
  /** What an auditor looked at that names outsiders: an operation of ours, and what was asked of it. */
  "read-by-auditor": z.strictObject({ what: words, asked: told }),
  "older-keys-forgotten": z.strictObject({ forgotten: count }),
  "channels-set": z.strictObject({ channels: z.array(words) }),
  "watch-made": ofWatch,
  "watch-changed": ofWatch,
  "watch-dropped": z.strictObject({ watch: words }),
  "alert-settled": ofAlert,
  "alert-reopened": ofAlert,
  "alert-assigned": z.strictObject({ alert: z.int(), what: told, to: words.nullable() }),
} as const satisfies Record<string, z.ZodObject>;

export type LedgerKind = keyof typeof KINDS;
export type LedgerBody<K extends LedgerKind> = z.input<(typeof KINDS)[K]>;

function each<K extends string, V>(keys: readonly K[], value: V) {
  return Object.fromEntries(keys.map((key) => [key, value])) as Record<K, V>;
}

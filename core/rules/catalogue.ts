import { z } from "zod";
import { sharesOn, storeAt } from "../estate/estate";
import { LABELS } from "../estate/records";
import { filesReached, isAtOrBelow, labelsIn } from "../estate/tree";
import { DAY, NEVER } from "../time/instant";
import { isLiveShare, isLiveSlot, leadsOutside } from "../access/live";
import { isIntakeLink, isNamedOutside, isOpenLink, type Judged, type Judging, type Moment } from "./judging";
import { stanceOf } from "./parties";
import { itemsWithBypassedBlocks, itemsWithManyLinks } from "./items";
import { knownSkeletons, lookedLike } from "./lookAlike";
import { SEVERITIES } from "./severity";
import { RULE_WORDS, type RuleId } from "./ruleWords";
import { itemScopeSchema, scopeSchema } from "./scope";

/** One rule: its parameters with their defaults, and which shares or items break it. */
export interface RuleDefinition<P extends z.ZodObject = z.ZodObject> {
  parameters: P;
  /** The shares that it looks at, whether they break it or not; where it doesn't say, those that lead outside. */
  looksAt?: (judged: Judged, moment: Moment) => boolean;
  /** A rule on shares says which break it; a rule on items names the positions. */
  breaks?: (judged: Judged, moment: Moment, parameters: z.infer<P>) => boolean;
  items?: (judging: Judging, parameters: z.infer<P>) => number[];
}

/** To a rule's own parameters come where it runs, and how much it matters. */
function rule<P extends z.ZodObject>(id: RuleId, definition: RuleDefinition<P>): RuleDefinition {
  const scope = definition.items ? itemScopeSchema : scopeSchema;
  const severity = z.enum(SEVERITIES).default(RULE_WORDS[id].severity);
  const parameters = definition.parameters.extend({ scope: scope.optional(), severity });
  return { ...definition, parameters } as unknown as RuleDefinition;
}

const days = (standard: number) => z.number().positive().default(standard);
const labels = (...standard: (typeof LABELS)[number][]) => z.array(z.enum(LABELS)).default(standard);
const none = z.strictObject({});

const endsLaterThan = ({ share }: Judged, { t }: Moment, maxDays: number) =>
  share.ends === NEVER || share.ends > t + maxDays * DAY;
const labelled = (judged: Judged, wanted: readonly string[]) => judged.worst !== null && wanted.includes(judged.worst);
const tellsLastUse = (judged: Judged, { estate }: Moment) =>
  storeAt(estate, judged.share.position).capabilities.lastUse;
const isUseTold = (judged: Judged, moment: Moment) => judged.outside && tellsLastUse(judged, moment);
const outsiderOfStance = (judged: Judged, { estate }: Moment, stance: string) =>
  isNamedOutside(judged) && judged.outsiders.some((index) => stanceOf(estate, estate.people[index]) === stance);
const isUnrevokedLink = ({ share }: Judged, { t }: Moment) => share.isLink && share.revoked > t;

/** The rules, by id. */
export const RULES: Record<RuleId, RuleDefinition> = {
  "open-expiry": rule("open-expiry", {
    parameters: z.strictObject({ maxDays: days(30) }),
    looksAt: isOpenLink,
    breaks: (one, moment, { maxDays }) => isOpenLink(one) && endsLaterThan(one, moment, maxDays),
  }),
  "open-password": rule("open-password", {
    parameters: z.strictObject({ labels: labels("internal", "confidential", "restricted") }),
    looksAt: isOpenLink,
    breaks: (one, _, { labels }) =>
      isOpenLink(one) && one.share.isLink && !one.share.hasPassword && labelled(one, labels),
  }),
  "open-edit": rule("open-edit", {
    parameters: none,
    looksAt: isOpenLink,
    breaks: (one) => isOpenLink(one) && one.share.role === "edit",
  }),
  "open-forbidden": rule("open-forbidden", {
    parameters: z.strictObject({ labels: labels("restricted") }),
    looksAt: isOpenLink,
    breaks: (one, _, { labels }) => isOpenLink(one) && labelled(one, labels),
  }),
  "outside-download": rule("outside-download", {
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    breaks: (one, _, { labels }) => one.outside && one.share.download && labelled(one, labels),
  }),
  "outside-expiry": rule("outside-expiry", {
    // PCI DSS v4 7.2.4: access is reviewed at least every six months.
    parameters: z.strictObject({ maxDays: days(180) }),
    looksAt: isNamedOutside,
    breaks: (one, moment, { maxDays }) => isNamedOutside(one) && endsLaterThan(one, moment, maxDays),
  }),
  "outside-manage": rule("outside-manage", {
    parameters: none,
    breaks: (one) => isNamedOutside(one) && one.share.role === "manage",
  }),
  "party-denied": rule("party-denied", {
    parameters: none,
    breaks: (one, moment) => outsiderOfStance(one, moment, "denied"),
  }),
  "personal-mailbox": rule("personal-mailbox", {
    parameters: none,
    breaks: (one, moment) => outsiderOfStance(one, moment, "personal"),
  }),
  dormant: rule("dormant", {
    // CIS Controls v8, safeguard 5.3: 45 days of inactivity (said there of accounts).
    parameters: z.strictObject({ days: days(45) }),
    looksAt: (one, moment) => isUseTold(one, moment) && one.share.lastUsed !== null,
    breaks: (one, moment, { days }) =>
      one.outside &&
      one.share.lastUsed !== null &&
      one.share.lastUsed < moment.t - days * DAY &&
      tellsLastUse(one, moment),
  }),
  "never-used": rule("never-used", {
    parameters: z.strictObject({ days: days(14) }),
    looksAt: (one, moment) => isUseTold(one, moment) && one.share.lastUsed === null,
    breaks: (one, moment, { days }) =>
      one.outside && one.share.lastUsed === null && one.share.made < moment.t - days * DAY && tellsLastUse(one, moment),
  }),
  "sharer-left": rule("sharer-left", {
    parameters: none,
    breaks: (one, { estate }) => {
      const hasLeft = (index: number) => index >= 0 && estate.people[index].status === "left";
      return one.outside && (hasLeft(one.share.maker) || hasLeft(estate.ownerAt(one.share.position)));
    },
  }),
  "engagement-over": rule("engagement-over", {
    parameters: z.strictObject({ graceDays: z.number().nonnegative().default(7) }),
    breaks: (one, { estate, t }, { graceDays }) =>
      one.outside &&
      estate.engagements.some(
        (engagement) =>
          engagement.ends + graceDays * DAY <= t &&
          isAtOrBelow(estate.tree, one.share.position, engagement.positions) &&
          (one.share.audience === "open" ||
            one.outsiders.some((index) => engagement.organisations.has(estate.people[index].organisation))),
      ),
  }),
  "folder-wide": rule("folder-wide", {
    parameters: none,
    breaks: (one, { estate: { tree } }) => {
      const { position } = one.share;
      const end = tree.end[position];
      if (!one.outside || tree.kindAt(position) === "file") return false;
      return tree.foldersBefore[end] > tree.foldersBefore[position + 1] || labelsIn(tree, position, end) > 1;
    },
  }),
  "outsider-in-group": rule("outsider-in-group", {
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    breaks: (one, _, { labels }) => one.outside && one.share.group >= 0 && labelled(one, labels),
  }),
  "block-bypassed": rule("block-bypassed", {
    parameters: none,
    items: itemsWithBypassedBlocks,
  }),
  "link-pile": rule("link-pile", {
    parameters: z.strictObject({ max: z.int().nonnegative().default(5) }),
    items: (judging, { max }) => itemsWithManyLinks(judging, max),
  }),
  "house-listed": rule("house-listed", {
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    looksAt: (one) => one.live && one.share.audience === "house",
    breaks: (one, _, { labels }) =>
      one.live && one.share.audience === "house" && one.share.isLink && one.share.isListed && labelled(one, labels),
  }),
  "intake-password": rule("intake-password", {
    parameters: none,
    looksAt: isIntakeLink,
    breaks: (one) => isIntakeLink(one) && one.share.isLink && !one.share.hasPassword,
  }),
  "intake-window": rule("intake-window", {
    parameters: z.strictObject({ maxDays: days(30) }),
    looksAt: isIntakeLink,
    breaks: (one, moment, { maxDays }) => isIntakeLink(one) && endsLaterThan(one, moment, maxDays),
  }),
  "intake-mixed": rule("intake-mixed", {
    parameters: none,
    looksAt: isIntakeLink,
    breaks: (one, moment) => isIntakeLink(one) && isMixedIntake(one, moment),
  }),
  "broken-target": rule("broken-target", {
    parameters: none,
    looksAt: isUnrevokedLink,
    breaks: (one, moment) => isUnrevokedLink(one, moment) && !moment.estate.tree.live[one.share.position],
  }),
  "spent-link": rule("spent-link", {
    parameters: none,
    looksAt: isUnrevokedLink,
    breaks: (one, moment) =>
      isUnrevokedLink(one, moment) &&
      moment.estate.tree.live[one.share.position] === 1 &&
      (one.share.expires <= moment.t || one.share.spent),
  }),
  "look-alike": rule("look-alike", {
    parameters: none,
    breaks: (one, moment) =>
      isNamedOutside(one) &&
      one.outsiders.some((index) => lookedLike(moment.estate.people[index].organisation, skeletonsAt(moment))),
  }),
  "weak-password": rule("weak-password", {
    // NIST SP 800-63B-4, 3.1.1.2: 15 characters where a password stands alone, and a comparison with a blocklist.
    parameters: z.strictObject({ minLength: z.int().min(1).max(128).default(15) }),
    looksAt: (one) => one.live && one.share.hasPassword,
    breaks: (one, _, { minLength }) =>
      one.live &&
      one.share.hasPassword &&
      (one.share.hasCommonPassword || (one.share.passwordLength > 0 && one.share.passwordLength < minLength)),
  }),
  "reused-password": rule("reused-password", {
    parameters: none,
    breaks: (one, moment) => one.live && one.share.passwordMark > 0 && linksWithPassword(one, moment) > 1,
  }),
  "outside-edit-folder": rule("outside-edit-folder", {
    parameters: none,
    breaks: (one, { estate }) =>
      one.outside &&
      estate.tree.kindAt(one.share.position) !== "file" &&
      (one.share.role === "edit" || one.share.role === "manage"),
  }),
  "open-many": rule("open-many", {
    parameters: z.strictObject({ maxFiles: z.int().positive().default(50) }),
    looksAt: isOpenLink,
    breaks: (one, { estate: { tree } }, { maxFiles }) =>
      isOpenLink(one) && filesReached(tree, one.share.position) > maxFiles,
  }),
  "store-abroad": rule("store-abroad", {
    /** A store that doesn't say where it is isn't judged; nor is any where no region is named. */
    parameters: z.strictObject({ regions: z.array(z.string().min(1)).default([]) }),
    breaks: (one, { estate }, { regions }) => {
      const { region } = storeAt(estate, one.share.position);
      return one.outside && regions.length > 0 && !!region && !regions.includes(region);
    },
  }),
};

/** Whether a rule looks at a share. */
export function isLookedAt(rule: RuleId, judged: Judged, moment: Moment): boolean {
  return RULES[rule].looksAt?.(judged, moment) ?? judged.outside;
}

/** Whether a rule is of open links alone: one that is made for named people keeps it. */
export function isOfOpenLinks(rule: RuleId): boolean {
  return RULES[rule].looksAt === isOpenLink;
}

const SKELETONS = new WeakMap<Moment, Map<string, string>>();

/** Worked out once for all shares that are judged together. */
function skeletonsAt(moment: Moment): Map<string, string> {
  let known = SKELETONS.get(moment);
  if (!known) SKELETONS.set(moment, (known = knownSkeletons(moment.estate)));
  return known;
}

const MARKED = new WeakMap<Moment, Map<number, number>>();

/** How many live links have the password of this one. */
function linksWithPassword({ share }: Judged, moment: Moment): number {
  let counts = MARKED.get(moment);
  if (!counts) {
    counts = new Map();
    const { shares } = moment.estate;
    for (let slot = 0; slot < shares.count; slot++) {
      const mark = shares.passwordMark[slot];
      if (mark > 0 && isLiveSlot(moment.estate, slot, moment.t)) counts.set(mark, (counts.get(mark) ?? 0) + 1);
    }
    MARKED.set(moment, counts);
  }
  return counts.get(share.passwordMark) ?? 0;
}

function isMixedIntake(intake: Judged, { estate, t }: Moment): boolean {
  const at = intake.share.position;
  if (estate.tree.holdsFolder[at] === 1) return true;
  return sharesOn(estate, at).some(
    (other) =>
      other.role !== "deposit" &&
      isLiveShare(estate, other, t) &&
      (other.audience === "house" || leadsOutside(estate, other.slot)),
  );
}

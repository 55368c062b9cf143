import { z } from "zod";
import { sharesOn, storeAt } from "../estate/estate";
import { LABELS } from "../estate/records";
import { isAtOrBelow, labelsIn } from "../estate/tree";
import { DAY } from "../time/instant";
import { isLiveShare, leadsOutside } from "../access/live";
import { isIntakeLink, isNamedOutside, isOpenLink, type Judged, type Judging, type Moment } from "./judging";
import { stanceOf } from "./parties";
import { itemsWithBypassedBlocks, itemsWithManyLinks } from "./items";

/** One rule: its parameters with their defaults, and which shares or items break it. */
export interface RuleDefinition<P extends z.ZodObject = z.ZodObject> {
  /** What the finding says, in a few words. */
  title: string;
  parameters: P;
  /** A rule on shares says which break it; a rule on items names the positions. */
  breaks?: (judged: Judged, moment: Moment, parameters: z.infer<P>) => boolean;
  items?: (judging: Judging, parameters: z.infer<P>) => number[];
}

function rule<P extends z.ZodObject>(definition: RuleDefinition<P>): RuleDefinition {
  return definition as unknown as RuleDefinition;
}

const days = (standard: number) => z.number().positive().default(standard);
const labels = (...standard: (typeof LABELS)[number][]) => z.array(z.enum(LABELS)).default(standard);
const none = z.strictObject({});

const endsLaterThan = (judged: Judged, { t }: Moment, maxDays: number) => judged.share.expires > t + maxDays * DAY;
const labelled = (judged: Judged, wanted: readonly string[]) => judged.worst !== null && wanted.includes(judged.worst);
const tellsLastUse = (judged: Judged, { estate }: Moment) =>
  storeAt(estate, judged.share.position).capabilities.lastUse;
const outsiderOfStance = (judged: Judged, { estate }: Moment, stance: string) =>
  isNamedOutside(judged) && judged.outsiders.some((index) => stanceOf(estate, estate.people[index]) === stance);
const isUnrevokedLink = ({ share }: Judged, { t }: Moment) => share.isLink && share.revoked > t;

/** The rules, by id. Their order is the order in which they are shown. */
export const RULES = {
  "open-expiry": rule({
    title: "Open link without a near end",
    parameters: z.strictObject({ maxDays: days(30) }),
    breaks: (one, moment, { maxDays }) => isOpenLink(one) && endsLaterThan(one, moment, maxDays),
  }),
  "open-password": rule({
    title: "Open link without a password",
    parameters: z.strictObject({ labels: labels("internal", "confidential", "restricted") }),
    breaks: (one, _, { labels }) =>
      isOpenLink(one) && one.share.isLink && !one.share.hasPassword && labelled(one, labels),
  }),
  "open-edit": rule({
    title: "Anyone may edit",
    parameters: none,
    breaks: (one) => isOpenLink(one) && one.share.role === "edit",
  }),
  "open-forbidden": rule({
    title: "Restricted files behind an open link",
    parameters: z.strictObject({ labels: labels("restricted") }),
    breaks: (one, _, { labels }) => isOpenLink(one) && labelled(one, labels),
  }),
  "outside-download": rule({
    title: "Outsiders can download",
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    breaks: (one, _, { labels }) => one.outside && one.share.download && labelled(one, labels),
  }),
  "outside-expiry": rule({
    title: "Outside share without a near end",
    // PCI DSS v4 7.2.4: access is reviewed at least every six months.
    parameters: z.strictObject({ maxDays: days(180) }),
    breaks: (one, moment, { maxDays }) => isNamedOutside(one) && endsLaterThan(one, moment, maxDays),
  }),
  "outside-manage": rule({
    title: "An outsider may manage",
    parameters: none,
    breaks: (one) => isNamedOutside(one) && one.share.role === "manage",
  }),
  "party-denied": rule({
    title: "Shared with a denied organisation",
    parameters: none,
    breaks: (one, moment) => outsiderOfStance(one, moment, "denied"),
  }),
  "personal-mailbox": rule({
    title: "Shared with a private mailbox",
    parameters: none,
    breaks: (one, moment) => outsiderOfStance(one, moment, "personal"),
  }),
  dormant: rule({
    title: "Not used for long",
    // CIS Controls v8, safeguard 5.3: 45 days of inactivity (said there of accounts).
    parameters: z.strictObject({ days: days(45) }),
    breaks: (one, moment, { days }) =>
      one.outside &&
      one.share.lastUsed !== null &&
      one.share.lastUsed < moment.t - days * DAY &&
      tellsLastUse(one, moment),
  }),
  "never-used": rule({
    title: "Never used",
    parameters: z.strictObject({ days: days(14) }),
    breaks: (one, moment, { days }) =>
      one.outside && one.share.lastUsed === null && one.share.made < moment.t - days * DAY && tellsLastUse(one, moment),
  }),
  "sharer-left": rule({
    title: "Its maker or owner has left",
    parameters: none,
    breaks: (one, { estate }) => {
      const hasLeft = (index: number) => index >= 0 && estate.people[index].status === "left";
      return one.outside && (hasLeft(one.share.maker) || hasLeft(estate.ownerAt(one.share.position)));
    },
  }),
  "engagement-over": rule({
    title: "The work it was for is over",
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
  "folder-wide": rule({
    title: "A whole folder is shared",
    parameters: none,
    breaks: (one, { estate: { tree } }) => {
      const { position } = one.share;
      const end = tree.end[position];
      if (!one.outside || tree.kindAt(position) === "file") return false;
      return tree.foldersBefore[end] > tree.foldersBefore[position + 1] || labelsIn(tree, position, end) > 1;
    },
  }),
  "outsider-in-group": rule({
    title: "A group with an outsider in it",
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    breaks: (one, _, { labels }) => one.outside && one.share.group >= 0 && labelled(one, labels),
  }),
  "block-bypassed": rule({
    title: "A download block that another share undoes",
    parameters: none,
    items: itemsWithBypassedBlocks,
  }),
  "link-pile": rule({
    title: "Too many links on one item",
    parameters: z.strictObject({ max: z.int().nonnegative().default(5) }),
    items: (judging, { max }) => itemsWithManyLinks(judging, max),
  }),
  "house-listed": rule({
    title: "Found by the whole house in search",
    parameters: z.strictObject({ labels: labels("confidential", "restricted") }),
    breaks: (one, _, { labels }) =>
      one.live && one.share.audience === "house" && one.share.isLink && one.share.isListed && labelled(one, labels),
  }),
  "intake-password": rule({
    title: "Intake link without a password",
    parameters: none,
    breaks: (one) => isIntakeLink(one) && one.share.isLink && !one.share.hasPassword,
  }),
  "intake-window": rule({
    title: "Intake link without a near end",
    parameters: z.strictObject({ maxDays: days(30) }),
    breaks: (one, moment, { maxDays }) => isIntakeLink(one) && endsLaterThan(one, moment, maxDays),
  }),
  "intake-mixed": rule({
    title: "Intake folder holds or shares other things",
    parameters: none,
    breaks: (one, moment) => isIntakeLink(one) && isMixedIntake(one, moment),
  }),
  "broken-target": rule({
    title: "Its target is gone",
    parameters: none,
    breaks: (one, moment) => isUnrevokedLink(one, moment) && !moment.estate.tree.live[one.share.position],
  }),
  "spent-link": rule({
    title: "Ended or used up",
    parameters: none,
    breaks: (one, moment) =>
      isUnrevokedLink(one, moment) &&
      moment.estate.tree.live[one.share.position] === 1 &&
      (one.share.expires <= moment.t || one.share.spent),
  }),
} satisfies Record<string, RuleDefinition>;

export type RuleId = keyof typeof RULES;
export const RULE_IDS = Object.keys(RULES) as RuleId[];

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

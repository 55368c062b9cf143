import { z } from "zod";
import type { Latch } from "../changes/latches";
import { storeAt } from "../estate/estate";
import { LABELS, type Stance } from "../estate/records";
import { DAY, NEVER } from "../time/instant";
import { isNamedOutside, type Judged, type Moment } from "./judged";
import { itemScopeSchema, scopeSchema } from "./scope";
import { SEVERITIES, type Severity } from "./severity";
import type { Wanted } from "./wanted";

/** How the shares that a rule looks at differ: by a figure with a threshold in the rule, or by their labels. */
export interface Measure {
  /** What they are spread by, as the end of a sentence. */
  title: string;
  figure?: {
    /** The parameter with the threshold, and its default. */
    slot: string;
    standard: number;
    /** Null where a share has none. */
    of: (one: Judged, moment: Moment) => number | null;
    /** What those without one are called. */
    none: string;
  };
}

/** When a share may start or stop breaking a rule without anybody acting: by a slot, in days. */
export type Turn = { beforeEnd: string } | { afterUse: string } | { afterMade: string } | { afterWork: string };

interface Words {
  /** What the finding says, in a few words. */
  title: string;
  /** What must hold, as a sentence with [a parameter] in brackets. */
  sentence: string;
  /** Lists of findings begin with the most pressing. */
  severity: Severity;
  /** Whether it is off until somebody turns it on. */
  isExtra?: true;
}

/** A rule on shares. */
interface ShareRule<P> {
  /** The shares that it looks at, whether they break it or not; by default those that lead outside. */
  looksAt?: (judged: Judged, moment: Moment) => boolean;
  breaks: (judged: Judged, moment: Moment, parameters: P) => boolean;
  /** Why a share breaks it, in words with the figures that make it so. */
  reason: (judged: Judged, moment: Moment, parameters: P) => string;
  /** Remedies short of ending the share, the mildest first. */
  remedies?: (judged: Judged, moment: Moment, parameters: P) => Wanted[];
  measure?: Measure;
  /** The latch that has to be shut for its findings. */
  latch?: Latch;
  turn?: Turn;
  items?: undefined;
}

/** A rule on items, which names their positions in the tree, by the shares in some slots. */
interface ItemRule<P> {
  items: (moment: Moment, slots: ArrayLike<number>, parameters: P) => number[];
  /** Remedies: on the shares that cause the finding. */
  itemRemedies: (position: number, moment: Moment, parameters: P) => Wanted[];
  breaks?: undefined;
}

export type Rule<P = Record<string, unknown>> = Words & { parameters: z.ZodType<P> } & (ShareRule<P> | ItemRule<P>);

/** Defines a rule. Scope and severity are added to its own parameters. */
export function rule<P extends z.ZodObject>(
  given: Words & { parameters: P } & (ShareRule<z.infer<P>> | ItemRule<z.infer<P>>),
): Rule {
  const scope = given.items ? itemScopeSchema : scopeSchema;
  const severity = z.enum(SEVERITIES).default(given.severity);
  const parameters = given.parameters.extend({ scope: scope.optional(), severity });
  return { ...given, parameters } as unknown as Rule;
}

// Parts that several rules are made of.

export const none = z.strictObject({});
export const days = (standard: number) => z.number().positive().default(standard);
export const labels = (...standard: (typeof LABELS)[number][]) => z.array(z.enum(LABELS)).default(standard);

export const endsLaterThan = ({ share }: Judged, { t }: Moment, maxDays: number) =>
  share.ends === NEVER || share.ends > t + maxDays * DAY;
export const labelled = (judged: Judged, wanted: readonly string[]) =>
  judged.worst !== null && wanted.includes(judged.worst);
export const isUnrevokedLink = ({ share }: Judged, { t }: Moment) => share.isLink && share.revoked > t;
/** Whether its store tells when an outside share was last used. */
export const isUseTold = (judged: Judged, { estate }: Moment) =>
  judged.outside && storeAt(estate, judged.share.position).capabilities.lastUse;
export const hasOutsiderOf = (judged: Judged, moment: Moment, stance: Stance) =>
  isNamedOutside(judged) && judged.outsiders.some((index) => moment.stanceOf(moment.estate.people[index]) === stance);

export const endReason = ({ share }: Judged, { dayWords }: Moment, maxDays: number) =>
  `${share.ends === NEVER ? "No end date" : `Ends on ${dayWords(share.ends)}`}; ${maxDays} days are allowed.`;
export const daysAgo = (at: number, { t }: Moment) => `${Math.floor((t - at) / DAY)} days ago`;
/** Of the organisations that a share is for, those with a certain stance. */
export function organisationsOf({ share }: Judged, moment: Moment, stance: Stance): string {
  if (share.audience !== "people") return "";
  const people = [...share.people].map((index) => moment.estate.people[index]);
  const found = people.filter((person) => !person.insider && moment.stanceOf(person) === stance);
  return [...new Set(found.map((person) => person.organisation))].join(", ");
}

export const daysUntilEnd = (standard: number): Measure => ({
  title: "the days until they end",
  figure: {
    slot: "maxDays",
    standard,
    of: ({ share }, { t }) => (share.ends === NEVER ? null : (share.ends - t) / DAY),
    none: "No end",
  },
});

import { z } from "zod";
import { isMailAddress } from "../estate/mailAddress";
import { writtenLine, writtenLines } from "../text/written";
import { countWords } from "../text/words";
import { isZone } from "../time/zoned";
import { DAY, HOUR, seconds, type Seconds } from "../time/instant";
import { KEPT_DAYS } from "../advice/kept";
import { DECIDERS } from "./decider";
import { whyNotRecurring } from "./recurrence";

/**
 * `planned`: it opens on its day. `opening`: its lines are being recorded. `open`: deciders are asked.
 * `closing`: lines that nobody decided are dealt with. `closed`. `stopped`: nothing more was carried out.
 */
export const ROUND_STATES = ["planned", "opening", "open", "closing", "closed", "stopped"] as const;
export type RoundState = (typeof ROUND_STATES)[number];

/** What happens to a share that nobody decided about. */
export const UNDECIDED = ["stay", "end-date", "lock", "end"] as const;
export type Undecided = (typeof UNDECIDED)[number];

/** When decisions are carried out: once their decider has finished, when the round closes, or once an administrator has looked. */
export const CARRYING = ["finished", "closed", "looked"] as const;
export type CarryingOut = (typeof CARRYING)[number];

/** Whether each share is one question, or everything that one outsider or organisation has. */
export const QUESTIONS = ["share", "person"] as const;

const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-12T17:00:00Z" });
const days = (most: number) =>
  z.int("must be a whole number of days").min(1, "must be at least 1 day").max(most, `must be at most ${most} days`);

/** A round as it is asked for. Instants are in UTC; days are 24 hours. */
export const roundSchema = z.strictObject({
  name: writtenLine.min(3, "Name: give it a short name.").max(120),
  /** The message to deciders. */
  note: writtenLines.max(2_000),
  /** Which shares it is about: a query of the register. */
  query: z.string().max(4_000),
  /** Whom to ask: the first of these who can decide. */
  order: z.array(z.enum(DECIDERS)).min(1, "Ask: choose at least one kind of decider.").max(DECIDERS.length),
  /** Who `named` is; null where nobody is named. */
  named: z
    .string()
    .trim()
    .toLowerCase()
    .refine(isMailAddress, { error: "must be an e-mail address such as ada@quay.example" })
    .nullable(),
  by: z.enum(QUESTIONS),
  opens: instant,
  closes: instant,
  /** For how long a decider can keep a share at most; PCI DSS v4, 7.2.4, wants access reviewed every six months. */
  limitDays: days(KEPT_DAYS),
  undecided: z.enum(UNDECIDED),
  /** How long a share stays if it gets an end date because nobody decided. */
  undecidedDays: days(KEPT_DAYS),
  carriedOut: z.enum(CARRYING),
  /** Whether managers of those who have decided less than half get a copy three days before the close. */
  tellManagers: z.boolean(),
  /** Null where it is held once. */
  repeat: z.string().trim().toUpperCase().max(200).nullable(),
  /** The time zone in which it repeats. */
  zone: z.string().refine(isZone, { error: "must be a time zone such as Europe/Berlin" }),
});
export type RoundAsked = z.infer<typeof roundSchema>;

const SHORTEST: Seconds = HOUR;
const LONGEST_DAYS = 180;

/** What is wrong with a round's dates or deciders, and what to do about it, or null. */
export function whyNotHeld(
  round: Pick<RoundAsked, "order" | "named" | "opens" | "closes" | "repeat" | "zone">,
  now: Seconds,
): string | null {
  const [opens, closes] = [seconds(round.opens), seconds(round.closes)];
  if (new Set(round.order).size < round.order.length) return "Ask: each kind of decider can be listed once.";
  if (round.order.includes("named") && round.named === null) return "Ask: name the person who decides.";
  if (closes <= opens) return "Closes: choose a time after it opens.";
  if (closes <= now) return "Closes: choose a time in the future.";
  if (closes - Math.max(opens, now) < SHORTEST) return "Closes: give people at least an hour to decide.";
  if (closes - opens > LONGEST_DAYS * DAY)
    return `Closes: a round is open for ${countWords(LONGEST_DAYS, "day")} at most.`;
  if (round.repeat === null) return null;
  return whyNotRecurring({ rule: round.repeat, zone: round.zone, first: opens }, closes - opens);
}

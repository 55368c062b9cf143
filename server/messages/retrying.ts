import { DAY, HOUR, type Seconds } from "@/core/time/instant";

/** After this long without success a message is set aside, and the Desk says so. */
const GIVE_UP_AFTER_S = DAY;
const FIRST_PAUSE_S = 10;
const LONGEST_PAUSE_S = HOUR;

/** What becomes of a message that was sent, or failed: it is tried again less and less often. */
export function afterSending(message: { tries: number; due_at: Seconds }, error: string | null, now: Seconds) {
  if (error === null) return { state: "sent" as const, sent_at: now, error: null };
  const tries = message.tries + 1;
  const pause = Math.min(FIRST_PAUSE_S * 2 ** (tries - 1), LONGEST_PAUSE_S);
  if (now - message.due_at >= GIVE_UP_AFTER_S) return { state: "aside" as const, tries, error };
  return { tries, error, next_at: now + pause };
}

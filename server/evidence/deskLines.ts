import type { DeskLine } from "@/contract/desk";
import { countWords } from "@/core/text/words";
import { DAY, seconds } from "@/core/time/instant";
import type { Platform } from "../platform/platform";
import { lastCheckpoint } from "../records/ledger/checkpoints";
import { witnesses } from "./witnesses";

/** If no witness takes a checkpoint for this long, days of the ledger could be rewritten unnoticed. */
const LATE_S = 2 * DAY;

/** What the Desk says about the ledger's proof: witnesses that haven't taken a checkpoint for days. */
export async function witnessLines(app: Platform): Promise<DeskLine[]> {
  const last = await lastCheckpoint(app.db);
  if (!last) return [];
  const late = (await witnesses(app)).filter(
    ({ sentSize, sentAt, addedAt, error }) =>
      error !== null && sentSize < last.size && app.clock.seconds() - seconds(sentAt ?? addedAt) > LATE_S,
  );
  if (late.length === 0) return [];
  const words = `${countWords(late.length, "witness hasn’t", "witnesses haven’t")} taken a checkpoint of the ledger for more than two days.`;
  return [{ words, href: "/ledger/witnesses", isPressing: true }];
}

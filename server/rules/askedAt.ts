import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { subjectOf } from "../platform/signed";

/**
 * The letter that an address was made for. An address that is right is never counted: whoever tries wrong ones shuts
 * nobody out.
 * @throws {Problem} where it was not made by us, or holds no longer
 */
export async function letterAt(app: Platform, token: string, network: string): Promise<number> {
  const letter = subjectOf(app, "answer", token);
  if (letter !== null) return Number(letter);
  await app.limits.count([["guess", network]]);
  throw new Problem(
    "gone",
    "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
  );
}

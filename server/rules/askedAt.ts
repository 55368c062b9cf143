import { Problem } from "../platform/problem";
import type { WrongTries } from "../platform/wrongTries";
import { subjectOf } from "../messages/signed";
import type { Platform } from "../platform/platform";

/** Far more than anybody mistypes, far fewer than it takes to guess. */
export const MOST_WRONG_ADDRESSES = 60;

/** What is needed to answer a letter. */
export interface Answering extends Platform {
  readonly wrongAddresses: WrongTries;
}

/** The letter that an address was made for. @throws {Problem} where it was not made by us, or holds no longer */
export function letterAt(app: Answering, token: string): number {
  app.wrongAddresses.check();
  const letter = subjectOf(app, "answer", token);
  if (letter !== null) return Number(letter);
  app.wrongAddresses.add();
  throw new Problem(
    "gone",
    "This address no longer holds. The newest letter has the right one; or ask whoever runs Tight Latch.",
  );
}

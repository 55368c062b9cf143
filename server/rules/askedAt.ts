import { Problem } from "../platform/problem";
import { WrongTries } from "../platform/wrongTries";
import { subjectOf } from "../messages/signed";

/** Far more than anybody mistypes, far fewer than it takes to guess. */
const tries = new WrongTries(60);

/** The letter that an address was made for. @throws {Problem} where it was not made by us, or holds no longer */
export function letterAt(token: string): number {
  tries.check();
  const letter = subjectOf("answer", token);
  if (letter !== null) return Number(letter);
  tries.add();
  throw new Problem(
    "gone",
    "This address no longer holds. The newest letter has the right one; or ask whoever runs Tight Latch.",
  );
}

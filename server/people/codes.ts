import { runningSeconds } from "../platform/clock";
import type { Db } from "../platform/db/open";

/** Longer than a code is accepted (RFC 6238): its own half minute and the one on either side. */
const USED_FOR_S = 180;

/** Marks a second-factor code as used before it is checked. @returns false if it was used already */
export async function takeCode(db: Db, userId: string, code: string): Promise<boolean> {
  const at = runningSeconds();
  const taken = await db
    .insertInto("used_code")
    .values({ user_id: userId, code, at })
    .onConflict((conflict) =>
      conflict
        .columns(["user_id", "code"])
        .doUpdateSet({ at })
        .where("used_code.at", "<", at - USED_FOR_S),
    )
    .returning("at")
    .executeTakeFirst();
  return taken !== undefined;
}

export async function forgetCodes(db: Db): Promise<void> {
  await db
    .deleteFrom("used_code")
    .where("at", "<", runningSeconds() - USED_FOR_S)
    .execute();
}

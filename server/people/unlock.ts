import type { Platform } from "../platform/platform";
import { writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";

/** Forgets the attempts counted against an account's password and codes. */
export async function unlockSignIn(app: Platform, { id, email }: { id: string; email: string }, actor: string) {
  await app.limits.forgive([
    ["account", email],
    ["code", id],
  ]);
  await writing(app.db, async (tx) => {
    await tx
      .updateTable("twoFactor")
      .set({ failedVerificationCount: 0, lockedUntil: null })
      .where("userId", "=", id)
      .execute();
    await appendWithin(tx, actor, "sign-in-unlocked", { email });
  });
}

import { z } from "zod";
import { SIGN_IN_IDLE_MINUTES, SIGNED_IN_BY, type SignedInBy } from "@/contract/signIn";
import { runningSeconds } from "../platform/clock";
import type { Db, Reads } from "../platform/db/open";

/** Uses of a session are recorded no more often than this. */
const NOTE_EVERY_S = 60;

/** What we store about a session besides what the sign-in package does. */
interface Begun {
  by: SignedInBy;
}

export async function beginSession(db: Db, id: string, by: SignedInBy): Promise<void> {
  await db.updateTable("session").set({ by, usedAt: runningSeconds() }).where("id", "=", id).execute();
}

/**
 * How somebody signed in to a session; null if it has ended for lack of use.
 * @param isUse whether a person is using the page: its own requests don't count
 */
export async function goOn(db: Db, id: string, isUse: boolean): Promise<Begun | null> {
  const session = await db.selectFrom("session").select(["by", "usedAt"]).where("id", "=", id).executeTakeFirst();
  if (!session) return null;
  const now = runningSeconds();
  // A session begun in any other way (by a test, for example) counts as one by password.
  const usedAt = session.usedAt ?? now;
  if (now - usedAt > SIGN_IN_IDLE_MINUTES * 60) {
    await db.deleteFrom("session").where("id", "=", id).execute();
    return null;
  }
  if (isUse && (session.usedAt === null || now - usedAt >= NOTE_EVERY_S))
    await db.updateTable("session").set({ usedAt: now }).where("id", "=", id).execute();
  return { by: z.enum(SIGNED_IN_BY).parse(session.by ?? "password") };
}

/** Somebody's sessions, the latest first. */
export function sessionsOf(db: Reads, userId: string) {
  return db
    .selectFrom("session")
    .select(["id", "by", "usedAt", "createdAt", "ipAddress", "userAgent"])
    .where("userId", "=", userId)
    .where("expiresAt", ">", new Date().toISOString())
    .orderBy("createdAt", "desc")
    .execute();
}

/** Ends somebody's sessions. @param which one of them, or all but one; all if left out @returns how many */
export async function endSessions(
  db: Reads,
  userId: string,
  which: { only?: string; except?: string } = {},
): Promise<number> {
  let ending = db.deleteFrom("session").where("userId", "=", userId);
  if (which.only !== undefined) ending = ending.where("id", "=", which.only);
  if (which.except !== undefined) ending = ending.where("id", "!=", which.except);
  return Number((await ending.executeTakeFirst()).numDeletedRows);
}

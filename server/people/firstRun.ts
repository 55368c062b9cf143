import { createHash, randomInt, timingSafeEqual } from "node:crypto";
import type { NewPerson } from "@/contract/people";
import { type Db, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { addPersonWithin, hasPeople, passwordHash } from "./people";

/** The code for making the first administrator: 66 bits, too many to guess. */
export class FirstRun {
  readonly code = Array.from({ length: 5 }, () => String(randomInt(10_000)).padStart(4, "0")).join("-");
}

/** What is needed for the first run. */
export interface Founding extends Platform {
  readonly firstRun: FirstRun;
}

/** The one-time code that makes the first administrator; null once there is somebody. */
export async function firstRunCode({ db, firstRun }: { db: Db; firstRun: FirstRun }): Promise<string | null> {
  return (await hasPeople(db)) ? null : firstRun.code;
}

export type FirstRunResult = "made" | "wrong-code" | "not-first";

/**
 * Makes the first administrator for whoever read the code in the terminal. The right code is never counted: whoever
 * tries wrong ones shuts nobody out.
 * @throws {Problem} where wrong ones were given too often from one network
 */
export async function makeFirstAdministrator(
  app: Founding,
  given: string,
  person: NewPerson,
  network: string,
): Promise<FirstRunResult> {
  if (await hasPeople(app.db)) return "not-first";
  if (!isSame(given.trim(), app.firstRun.code)) {
    await app.limits.count([["guess", network]]);
    return "wrong-code";
  }
  // Checked within the transaction, so that nobody else can become the first meanwhile.
  return writing(app.db, async (tx) => {
    if (await hasPeople(tx)) return "not-first";
    const password = await passwordHash(app, person);
    await addPersonWithin(app, tx, { ...person, password, role: "administrator" }, "first run");
    return "made";
  });
}

/** Hashes are compared, so that the time taken says nothing about the code or its length. */
function isSame(given: string, code: string): boolean {
  const [a, b] = [given, code].map((text) => createHash("sha256").update(text).digest());
  return timingSafeEqual(a, b);
}

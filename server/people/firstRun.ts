import { randomInt, timingSafeEqual } from "node:crypto";
import type { Db } from "../platform/db/open";
import { addPerson, hasPeople, type NewPerson } from "./people";

const MOST_TRIES = 10;
const shared = globalThis as { latchFirstRun?: { code: string; tries: number } };

/** The one-time code that makes the first administrator; null once there is somebody. */
export async function firstRunCode(db: Db): Promise<string | null> {
  if (await hasPeople(db)) return null;
  shared.latchFirstRun ??= { code: newCode(), tries: 0 };
  return shared.latchFirstRun.code;
}

function newCode(): string {
  return Array.from({ length: 3 }, () => String(randomInt(10_000)).padStart(4, "0")).join("-");
}

export type FirstRunResult = "made" | "wrong-code" | "too-many-tries" | "not-first";

/** Makes the first administrator for whoever read the code in the terminal. */
export async function makeFirstAdministrator(db: Db, given: string, person: NewPerson): Promise<FirstRunResult> {
  const code = await firstRunCode(db);
  const state = shared.latchFirstRun;
  if (code === null || !state) return "not-first";
  if (state.tries >= MOST_TRIES) return "too-many-tries";
  if (!sameCode(given.trim(), code)) {
    state.tries++;
    return "wrong-code";
  }
  await addPerson(db, person, "administrator", "first run");
  delete shared.latchFirstRun;
  return "made";
}

function sameCode(given: string, code: string): boolean {
  const a = Buffer.from(given.padEnd(code.length).slice(0, code.length));
  return timingSafeEqual(a, Buffer.from(code)) && given.length === code.length;
}

import { randomInt, timingSafeEqual } from "node:crypto";
import type { Platform } from "../platform/platform";
import type { NewPerson } from "@/contract/people";
import { addPerson, hasPeople } from "./people";

const MOST_TRIES = 10;
/** The code by which the first administrator is made, and how often it was given wrongly. */
export class FirstRun {
  readonly code = newCode();
  tries = 0;
}

/** What is needed for the first run. */
export interface Founding extends Platform {
  readonly firstRun: FirstRun;
}

/** The one-time code that makes the first administrator; null once there is somebody. */
export async function firstRunCode({ db, firstRun }: Founding): Promise<string | null> {
  return (await hasPeople(db)) ? null : firstRun.code;
}

function newCode(): string {
  return Array.from({ length: 3 }, () => String(randomInt(10_000)).padStart(4, "0")).join("-");
}

export type FirstRunResult = "made" | "wrong-code" | "too-many-tries" | "not-first";

/** Makes the first administrator for whoever read the code in the terminal. */
export async function makeFirstAdministrator(app: Founding, given: string, person: NewPerson): Promise<FirstRunResult> {
  const { firstRun } = app;
  const code = await firstRunCode(app);
  if (code === null) return "not-first";
  if (firstRun.tries >= MOST_TRIES) return "too-many-tries";
  if (!sameCode(given.trim(), code)) {
    firstRun.tries++;
    return "wrong-code";
  }
  await addPerson(app, person, "administrator", "first run");
  return "made";
}

function sameCode(given: string, code: string): boolean {
  const a = Buffer.from(given.padEnd(code.length).slice(0, code.length));
  return timingSafeEqual(a, Buffer.from(code)) && given.length === code.length;
}

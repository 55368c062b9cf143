import { join, resolve } from "node:path";
import { z } from "zod";
import { BadSettings } from "./badSettings";
import { ownFolder } from "./ownFiles";

const secret = z.string().min(32, "must have at least 32 characters; leave it out for a key file");

/** What can be set from outside. docs/settings.md lists the same. */
const environment = z.object({
  /** Folder of the database and the key file. */
  LATCH_DATA: z.string().default(".latch"),
  /** Folder of the log files that are set under Estate; left out, it is `logs` in LATCH_DATA. */
  LATCH_LOGS: z.string().optional(),
  LATCH_PORT: z.coerce.number().int().min(1).max(65_535).default(4310),
  /** The address that people use; cookies and sign-in hold to it. */
  LATCH_URL: z.url().optional(),
  /** Fixes the clock, for tests and pictures. */
  LATCH_NOW: z.iso.datetime().optional(),
  /** What all keys are derived from; without it a key file is made at first start. */
  LATCH_SECRET: secret.optional(),
  /** The one before, until `latch rotate-key` has sealed everything anew. */
  LATCH_OLDER_SECRET: secret.optional(),
  /** Seconds between readings; 0 reads only when told to. */
  LATCH_READ_EVERY: z.coerce.number().int().min(0).default(30),
  /** Seconds between looks whether something has happened; 0 leaves it to the readings. */
  LATCH_WATCH_EVERY: z.coerce.number().int().min(0).default(1),
});

export interface Settings {
  data: string;
  logs: string;
  port: number;
  url: string;
  now: Date | undefined;
  secret: string | undefined;
  olderSecret?: string;
  readEverySeconds: number;
  watchEverySeconds: number;
}

/** The settings, and the folder of the data made where it isn't there. @throws {BadSettings} naming each that is wrong */
export function settingsFrom(environmentOfProcess: NodeJS.ProcessEnv): Settings {
  const parsed = environment.safeParse(environmentOfProcess);
  if (!parsed.success)
    throw new BadSettings(parsed.error.issues.map((issue) => `${issue.path.join(".")}: ${issue.message}`).join("; "));
  const { data } = parsed;
  const folder = resolve(/*turbopackIgnore: true*/ process.cwd(), data.LATCH_DATA);
  ownFolder(folder);
  return {
    data: folder,
    logs: data.LATCH_LOGS ? resolve(/*turbopackIgnore: true*/ process.cwd(), data.LATCH_LOGS) : join(folder, "logs"),
    port: data.LATCH_PORT,
    url: data.LATCH_URL ?? `http://127.0.0.1:${data.LATCH_PORT}`,
    now: data.LATCH_NOW ? new Date(data.LATCH_NOW) : undefined,
    secret: data.LATCH_SECRET,
    olderSecret: data.LATCH_OLDER_SECRET,
    readEverySeconds: data.LATCH_READ_EVERY,
    watchEverySeconds: data.LATCH_WATCH_EVERY,
  };
}

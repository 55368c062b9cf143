import { statSync } from "node:fs";
import { join, resolve, sep } from "node:path";
import { z } from "zod";
import { BadSettings } from "./badSettings";
import { isLoopback } from "./loopback";
import { ownFolder } from "./ownFiles";
import { isRange } from "./peers";

const secret = z.string().min(32, "must have at least 32 characters; leave it out for a key file");

/** Several, with commas. */
const names = z.string().transform((text) =>
  text
    .split(",")
    .map((one) => one.trim().toLowerCase())
    .filter((one) => one !== ""),
);

/** What can be set from outside. docs/settings.md lists the same. */
const environment = z.object({
  /** Folder of the database and the key file. */
  LATCH_DATA: z.string().default(".latch"),
  /** Folder of the log files that are set under Estate; left out, it is `logs` in LATCH_DATA. */
  LATCH_LOGS: z.string().optional(),
  /** Folder that holds checkpoints of the ledger where whoever can write the data can't; there is none without it. */
  LATCH_WITNESSES: z.string().optional(),
  /** Proxies that are believed in what they say of whom they let through: addresses and ranges, with commas. */
  LATCH_PROXIES: names
    .default([])
    .refine((all) => all.every(isRange), "must be addresses or ranges with commas, such as 127.0.0.1,10.0.0.0/8"),
  LATCH_PORT: z.coerce.number().int().min(1).max(65_535).default(4310),
  /** The address that people use; cookies and sign-in hold to it. */
  LATCH_URL: z.url().optional(),
  /** Fixes the clock, for tests and pictures. */
  LATCH_NOW: z.iso.datetime().optional(),
  /** What all keys are derived from; without it a key file is made at first start. */
  LATCH_SECRET: secret.optional(),
  /** The one before, until `latch rotate-key` has sealed everything anew. */
  LATCH_OLDER_SECRET: secret.optional(),
  /** Single sign-on by OpenID Connect: all of these, or none. */
  LATCH_SSO_ISSUER: z.url().optional(),
  LATCH_SSO_CLIENT: z.string().optional(),
  LATCH_SSO_SECRET: z.string().optional(),
  LATCH_SSO_DOMAINS: names.optional(),
  LATCH_SSO_NAME: z.string().default("single sign-on"),
  LATCH_SSO_ROLE_CLAIM: z.string().optional(),
  /** More changes than this at once need a sign-in of the last quarter of an hour. */
  LATCH_FRESH_ABOVE: z.coerce.number().int().min(0).default(50),
  /** Lets the keys of stores go over plain http off this machine, where the way there is safe otherwise. */
  LATCH_PLAIN_STORES: z.enum(["yes", "no"]).default("no"),
  /** Seconds between readings; 0 reads only when told to. */
  LATCH_READ_EVERY: z.coerce.number().int().min(0).default(30),
  /** Seconds between looks whether something has happened; 0 leaves it to the readings. */
  LATCH_WATCH_EVERY: z.coerce.number().int().min(0).default(1),
});

/** A provider by which people sign in, by OpenID Connect. */
export interface SingleSignOn {
  /** What people call it. */
  name: string;
  issuer: string;
  client: string;
  secret: string;
  /** Whose addresses it is believed about. */
  domains: string[];
  /** Which of its claims says what somebody is here; without it, that is said under People. */
  roleClaim: string | undefined;
}

export interface Settings {
  data: string;
  logs: string;
  /** Where checkpoints of the ledger are kept besides. */
  witnesses?: string;
  port: number;
  proxies: string[];
  url: string;
  now: Date | undefined;
  secret: string | undefined;
  olderSecret?: string;
  singleSignOn?: SingleSignOn;
  /** Who applies more changes than this must have signed in within the last minutes. */
  freshAbove: number;
  /** Stores may be asked over plain http off this machine. */
  plainStores?: boolean;
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
    witnesses: witnessFolder(data.LATCH_WITNESSES, folder),
    logs: data.LATCH_LOGS ? resolve(/*turbopackIgnore: true*/ process.cwd(), data.LATCH_LOGS) : join(folder, "logs"),
    port: data.LATCH_PORT,
    proxies: data.LATCH_PROXIES,
    url: data.LATCH_URL ?? `http://localhost:${data.LATCH_PORT}`,
    now: data.LATCH_NOW ? new Date(data.LATCH_NOW) : undefined,
    secret: data.LATCH_SECRET,
    olderSecret: data.LATCH_OLDER_SECRET,
    singleSignOn: singleSignOnOf(data),
    freshAbove: data.LATCH_FRESH_ABOVE,
    plainStores: data.LATCH_PLAIN_STORES === "yes",
    readEverySeconds: data.LATCH_READ_EVERY,
    watchEverySeconds: data.LATCH_WATCH_EVERY,
  };
}

/** A witness that whoever can write the data can write as well would be none. @throws {BadSettings} */
function witnessFolder(given: string | undefined, data: string): string | undefined {
  if (given === undefined) return undefined;
  const folder = resolve(/*turbopackIgnore: true*/ process.cwd(), given);
  const within = (one: string, other: string) => one === other || one.startsWith(other + sep);
  if (within(folder, data) || within(data, folder))
    throw new BadSettings("LATCH_WITNESSES: must be a folder outside LATCH_DATA, best on another machine’s disk.");
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
    throw new BadSettings(`LATCH_WITNESSES: there is no folder ${folder}. Make it first.`);
  return folder;
}

function singleSignOnOf(data: z.output<typeof environment>): SingleSignOn | undefined {
  const { LATCH_SSO_ISSUER: issuer, LATCH_SSO_CLIENT: client, LATCH_SSO_SECRET: secret, LATCH_SSO_DOMAINS } = data;
  const given = [issuer, client, secret, LATCH_SSO_DOMAINS];
  if (given.every((one) => one === undefined)) return undefined;
  if (!issuer || !client || !secret || !LATCH_SSO_DOMAINS)
    throw new BadSettings("LATCH_SSO_ISSUER, _CLIENT, _SECRET and _DOMAINS are set together, or none of them.");
  const { hostname, protocol } = new URL(issuer);
  if (protocol !== "https:" && !isLoopback(hostname))
    throw new BadSettings("LATCH_SSO_ISSUER: must begin with https: what it says could be changed on the way.");
  return {
    ...{ issuer, client, secret, name: data.LATCH_SSO_NAME },
    ...{ domains: LATCH_SSO_DOMAINS, roleClaim: data.LATCH_SSO_ROLE_CLAIM },
  };
}

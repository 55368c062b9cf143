import { z } from "zod";
import { writtenLine } from "@/core/text/written";
import { mailAddress } from "@/core/estate/mailAddress";
import { dateSettings } from "./dates";
import { operations } from "./operation";
import { ROLES } from "./roles";
import { SIGNED_IN_BY } from "./signIn";

/** Somebody who can sign in. */
const signIn = z.object({ name: z.string(), email: z.string() });
export type SignIn = z.infer<typeof signIn>;

/** Shorter ones are refused: NIST SP 800-63B-4 asks for 15 characters where a password stands alone, for 8 else. */
export const MIN_PASSWORD = 15;
export const MIN_PASSWORD_WITH_FACTOR = 8;

const personName = writtenLine.min(1, "Give a name.").max(100, "A name has at most 100 characters.");
const password = z.string().max(128, "A password has at most 128 characters.");
const role = z.enum(ROLES);

export const newPerson = z.object({
  name: personName,
  email: mailAddress.toLowerCase(),
  password: password.min(MIN_PASSWORD, `A password has at least ${MIN_PASSWORD} characters.`),
});
export type NewPerson = z.infer<typeof newPerson>;

export const invitation = newPerson.omit({ password: true }).extend({ role });
export type Invitation = z.infer<typeof invitation>;

/** Somebody who can sign in, as administrators see them. */
const account = z.object({
  id: z.string(),
  ...{ name: z.string(), email: z.string(), role },
  hasPassword: z.boolean(),
  hasCodes: z.boolean(),
  passkeys: z.int(),
  /** How many places they are signed in at. */
  sessions: z.int(),
  lastSignedIn: z.string().nullable(),
});
export type Account = z.infer<typeof account>;

/** How people have to sign in. */
export const signInPolicy = z.object({
  /** Whoever has one of these roles can do nothing without a second factor but add one. */
  factorFor: z.array(role),
  /** Nobody signs in by password: only by single sign-on, and by passkey. */
  passwordsOff: z.boolean(),
});
export type SignInPolicy = z.infer<typeof signInPolicy>;

/** An address by which somebody chooses a password, once, and until when it holds. */
const welcome = z.object({
  address: z.string(),
  until: z.string(),
  isMailed: z.boolean(),
  mailProblem: z.string().nullable(),
});
export type Welcome = z.infer<typeof welcome>;

const session = z.object({
  id: z.string(),
  by: z.enum(SIGNED_IN_BY),
  /** From where, and by what, as the browser told it. */
  ...{ address: z.string(), browser: z.string() },
  ...{ startedAt: z.string(), usedAt: z.string() },
  isThis: z.boolean(),
});

/** What somebody sees of their own account. */
const self = z.object({
  ...{ name: z.string(), email: z.string(), role, dates: dateSettings.nullable() },
  ...{ hasPassword: z.boolean(), hasCodes: z.boolean(), needsFactor: z.boolean() },
  passkeys: z.array(z.object({ id: z.string(), name: z.string(), addedAt: z.string() })),
  sessions: z.array(session),
});
export type Self = z.infer<typeof self>;

const token = z.string().max(500);
const nothing = z.object({});

export const peopleOperations = operations({
  people: { method: "GET", path: "/api/people", may: "read", answer: z.object({ people: z.array(signIn) }) },
  /** The one request that needs no sign-in: it needs the code instead, and works once. */
  firstRun: {
    method: "POST",
    path: "/api/first-run",
    may: "anybody",
    body: newPerson.extend({ code: z.string().max(50) }),
    answer: nothing,
  },

  accounts: {
    method: "GET",
    path: "/api/accounts",
    may: "read",
    answer: z.object({ accounts: z.array(account), policy: signInPolicy, hasSingleSignOn: z.boolean() }),
  },
  invite: { method: "POST", path: "/api/accounts", may: "change", fresh: true, body: invitation, answer: welcome },
  setRole: {
    method: "PUT",
    path: "/api/accounts/:id/role",
    may: "change",
    fresh: true,
    body: z.object({ role }),
    answer: nothing,
  },
  removeAccount: { method: "DELETE", path: "/api/accounts/:id", may: "change", fresh: true, answer: nothing },
  /** Ends their password and their sessions; they choose another by the address that is answered. */
  resetPassword: { method: "POST", path: "/api/accounts/:id/password", may: "change", fresh: true, answer: welcome },
  /** Ends their passkeys, codes and sessions. */
  resetFactors: { method: "DELETE", path: "/api/accounts/:id/factors", may: "change", fresh: true, answer: nothing },
  endSessionsOf: {
    method: "DELETE",
    path: "/api/accounts/:id/sessions",
    may: "change",
    answer: z.object({ ended: z.int() }),
  },
  setPolicy: { method: "PUT", path: "/api/accounts", may: "change", fresh: true, body: signInPolicy, answer: nothing },

  self: { method: "GET", path: "/api/self", may: "own", answer: self },
  setSelf: {
    method: "PUT",
    path: "/api/self",
    may: "own",
    body: z.object({ name: personName }),
    answer: nothing,
  },
  /** How one wants to be told times. */
  setDates: { method: "PUT", path: "/api/self/dates", may: "own", body: dateSettings, answer: nothing },
  endOwnSession: {
    method: "DELETE",
    path: "/api/self/sessions",
    may: "own",
    /** One of them, or null for all but this one. */
    body: z.object({ id: z.string().max(100).nullable() }),
    answer: z.object({ ended: z.int() }),
  },

  /** For whom an address to choose a password was made. */
  welcome: { method: "POST", path: "/api/welcome", may: "anybody", body: z.object({ token }), answer: signIn },
  choosePassword: {
    method: "PUT",
    path: "/api/welcome",
    may: "anybody",
    body: z.object({ token, password }),
    answer: nothing,
  },
});

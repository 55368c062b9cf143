import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { operations } from "./operation";

/** Somebody who can sign in. */
const signIn = z.object({ name: z.string(), email: z.string() });
export type SignIn = z.infer<typeof signIn>;

/** Shorter ones are refused: NIST SP 800-63B-4 asks for 15 characters where a password stands alone. */
export const MIN_PASSWORD = 15;

export const newPerson = z.object({
  name: z.string().trim().min(1, "Give a name."),
  email: mailAddress.toLowerCase(),
  password: z.string().min(MIN_PASSWORD, `A password has at least ${MIN_PASSWORD} characters.`).max(128),
});
export type NewPerson = z.infer<typeof newPerson>;

export const peopleOperations = operations({
  people: { method: "GET", path: "/api/people", may: "read", answer: z.object({ people: z.array(signIn) }) },
  /** The one request that needs no sign-in: it needs the code instead, and works once. */
  firstRun: {
    method: "POST",
    path: "/api/first-run",
    may: "anybody",
    body: newPerson.extend({ code: z.string().max(50) }),
    answer: z.object({}),
  },
});

import { ALLOWED, type Permission } from "@/contract/operation";
import { FRESH_MINUTES } from "@/contract/signIn";
import type { SignInRole } from "@/contract/roles";
import { runningSeconds } from "./clock";
import { Problem } from "./problem";
import type { Actor } from "./serving";

/** Whether they have signed in so lately that what is large or loosens something may be theirs to do. */
export function isFresh({ signedInAt }: Pick<Actor, "signedInAt">): boolean {
  return runningSeconds() - signedInAt <= FRESH_MINUTES * 60;
}

/** @throws {Problem} where they have to sign in again first */
export function checkFresh(actor: Pick<Actor, "signedInAt">): void {
  if (!isFresh(actor)) throw new Problem("sign-in-again", "Sign in again to do this: you last signed in too long ago.");
}

/** Whether somebody who has signed in may do something. */
export function may({ role }: { role: SignInRole }, permission: Permission): boolean {
  return (ALLOWED[permission] as readonly SignInRole[]).includes(role);
}

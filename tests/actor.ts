import type { SignInRole } from "@/contract/roles";
import type { Actor } from "@/server/platform/serving";

/** Somebody who has just signed in. */
export function actorOf(email: string, role: SignInRole = "administrator"): Actor {
  return {
    ...{ email, name: "Ada", role, dates: null, userId: "u", sessionId: "s" },
    ...{ by: "password", signedInAt: Date.now() / 1_000, lacksFactor: false },
  };
}

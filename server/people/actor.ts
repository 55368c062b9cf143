import { z } from "zod";
import { ROLES } from "@/contract/roles";
import type { Actor } from "../platform/serving";
import type { Auth } from "./auth";

/** Whoever sent these headers, if they have signed in. */
export async function actorFrom(auth: Auth, headers: Headers): Promise<Actor | null> {
  const session = await auth.api.getSession({ headers });
  if (!session) return null;
  const role = z.enum(ROLES).parse(session.user.role);
  return { email: session.user.email, name: session.user.name, role };
}

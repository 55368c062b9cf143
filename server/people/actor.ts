import { z } from "zod";
import { dateSettings } from "@/contract/dates";
import { ROLES } from "@/contract/roles";
import { IDLE_HEADER } from "@/contract/signIn";
import type { Platform } from "../platform/platform";
import type { Actor } from "../platform/serving";
import type { Auth } from "./auth";
import { needsFactor } from "./policy";
import { goOn } from "./sessions";

/** Requests from a page that nobody has touched for longer count as the page's own, not a person's. */
const STILL_THERE_S = 60;

/** The time zone and format that somebody has chosen; null if they haven't. */
function datesOf({
  zone,
  dateStyle,
  weekStart,
}: {
  zone: string;
  dateStyle?: string | null;
  weekStart?: number | null;
}) {
  return dateStyle ? dateSettings.parse({ zone, style: dateStyle, weekStart }) : null;
}

/** Whoever sent these headers, if they have signed in. */
export async function actorFrom(app: Platform, auth: Auth, headers: Headers): Promise<Actor | null> {
  const found = await auth.api.getSession({ headers });
  if (!found) return null;
  const session = await goOn(app.db, found.session.id, Number(headers.get(IDLE_HEADER) ?? 0) <= STILL_THERE_S);
  if (!session) return null;
  const { user } = found;
  const role = z.enum(ROLES).parse(user.role);
  return {
    ...{ email: user.email, name: user.name, role, dates: datesOf(user) },
    ...{ userId: user.id, sessionId: found.session.id },
    by: session.by,
    signedInAt: Math.floor(found.session.createdAt.getTime() / 1_000),
    lacksFactor: session.by === "password" && (await needsFactor(app.db, role)),
  };
}

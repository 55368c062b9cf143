import { z } from "zod";
import { bodyOf, checkOrigin, refusal, RequestError } from "@/server/auth/guard";
import { database } from "@/server/db/open";
import { subjectOf } from "@/server/notices/signed";
import { alertEvents } from "@/server/reading/keeper";
import { markSeen } from "@/server/trail/alerts";

const given = z.object({ token: z.string().max(500) });

/** Marks one alert as seen, for whoever holds the mail that offers it; nothing is told of the alert. */
export async function POST(request: Request): Promise<Response> {
  try {
    checkOrigin(request);
    const { token } = await bodyOf(request, given);
    const alert = subjectOf("see-alert", token);
    if (alert === null) throw new RequestError(410, "This address no longer holds. Sign in to see the alert.");
    await markSeen(await database(), Number(alert));
    alertEvents.emit("alerts");
    return Response.json({});
  } catch (error) {
    return refusal(error);
  }
}

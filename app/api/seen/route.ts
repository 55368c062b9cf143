import { z } from "zod";
import { bodyOf, checkOrigin, refusal } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { theApp } from "@/server/theApp";
import { subjectOf } from "@/server/messages/signed";
import { markSeen } from "@/server/trail/alerts";

const given = z.object({ token: z.string().max(500) });

/** Marks one alert as seen, for whoever holds the mail that offers it; nothing is told of the alert. */
export async function POST(request: Request): Promise<Response> {
  try {
    const app = await theApp();
    checkOrigin(app, request);
    const { token } = await bodyOf(request, given);
    const alert = subjectOf(app, "see-alert", token);
    if (alert === null) throw new Problem("gone", "This address no longer holds. Sign in to see the alert.");
    await markSeen(app.db, Number(alert));
    app.alertEvents.emit("alerts");
    return Response.json({});
  } catch (error) {
    return refusal(error);
  }
}

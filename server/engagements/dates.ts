import ical, { ICalCalendarMethod } from "ical-generator";
import type { Asking } from "../engine/client";

/** The ends of all engagements that aren't over, as a calendar (RFC 5545). Times are in UTC, so that no calendar needs the rules of a zone. */
export async function engagementDates(app: Asking): Promise<string> {
  const calendar = ical({ name: "Projects", method: ICalCalendarMethod.PUBLISH });
  for (const { id, name, organisations, ends } of await app.engine.ask("engagements", {}))
    if (ends > app.clock.seconds())
      calendar.createEvent({
        id: `engagement-${id}@tight-latch`,
        stamp: new Date(app.clock.text()),
        start: new Date(ends * 1_000),
        end: new Date(ends * 1_000),
        summary: `Ends: ${name}`,
        description: organisations.join(", "),
        url: `${app.settings.url}/people/project?id=${encodeURIComponent(id)}`,
      });
  // The package leaves the last line without its end.
  return `${calendar.toString().trimEnd()}\r\n`;
}

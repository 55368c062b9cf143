import ical, { ICalCalendarMethod } from "ical-generator";
import { RULES } from "@/core/rules/list";
import { standingOrders } from "../dockets/standingOrders";
import type { Platform } from "../platform/platform";
import { ownEngagements } from "../engagements";
import { roundsNow } from "../rounds";
import { waiversEnding } from "../rules";

/**
 * The days on which something ends by itself, as a calendar (RFC 5545): waivers, until which a share may break a rule,
 * standing orders, which revoke a share on a day, rounds, after which nobody decides any more, and engagements.
 * Times are in UTC, so that no calendar needs the rules of a zone.
 */
export async function datesToCome(app: Platform): Promise<string> {
  const calendar = ical({ name: "Tight Latch", method: ICalCalendarMethod.PUBLISH });
  for (const { id, shareId, rule, reason, until } of await waiversEnding(app.db))
    calendar.createEvent({
      id: `waiver-${id}@tight-latch`,
      stamp: new Date(app.clock.text()),
      start: new Date(until),
      end: new Date(until),
      summary: `A waiver ends: ${RULES[rule].title}`,
      description: reason,
      url: `${app.settings.url}/register?share=${encodeURIComponent(shareId)}`,
    });
  for (const { id, share_id, item_name, on_at } of await standingOrders(app.db))
    calendar.createEvent({
      id: `order-${id}@tight-latch`,
      stamp: new Date(app.clock.text()),
      start: new Date(on_at),
      end: new Date(on_at),
      summary: `A standing order revokes a share of ${item_name}`,
      url: `${app.settings.url}/register?share=${encodeURIComponent(share_id)}`,
    });
  for (const { id, name, closes, open } of await roundsNow(app.db))
    calendar.createEvent({
      id: `round-${id}@tight-latch`,
      stamp: new Date(app.clock.text()),
      start: new Date(closes * 1_000),
      end: new Date(closes * 1_000),
      summary: `A round closes: ${name}`,
      description: `${open} still to decide.`,
      url: `${app.settings.url}/rounds/${id}`,
    });
  for (const { row, record } of await ownEngagements(app.db))
    if (record.endsAt > app.clock.text())
      calendar.createEvent({
        id: `engagement-${row.id}@tight-latch`,
        stamp: new Date(app.clock.text()),
        start: new Date(record.endsAt),
        end: new Date(record.endsAt),
        summary: `A project ends: ${record.name}`,
        description: record.organisations.join(", "),
        url: `${app.settings.url}/people/project?id=${encodeURIComponent(row.id)}`,
      });
  // The package leaves the last line without its end.
  return `${calendar.toString().trimEnd()}\r\n`;
}

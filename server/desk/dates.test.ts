import type { App } from "@/server/app";
import { appIn } from "@/tests/app";
import ICAL from "ical.js";
import { NOW } from "@/tests/records";
import { datesToCome } from "./dates";
import type { Db } from "../platform/db/open";

let app: App;
let db: Db;

beforeEach(async () => {
  app = await appIn();
  ({ db } = app);
});
afterEach(() => app.close());

const waiver = (share: string, until: string, ended: string | null, reason: string) =>
  db
    .insertInto("waiver")
    .values({
      share_id: share,
      rule: "open-password",
      reason,
      given_by: "imre",
      given_at: NOW,
      until,
      ended_at: ended,
    })
    .execute();

test("a standing order is a date to come, until it is done or dropped", async () => {
  for (const state of ["standing", "dropped"] as const) {
    const order = {
      share_id: state,
      item_name: "Plan; v2.pdf",
      on_at: "2026-10-09T00:00:00Z",
      made_by: "imre",
      made_at: NOW,
    };
    await db
      .insertInto("standing_order")
      .values({ ...order, state, ended_at: null, docket_id: null })
      .execute();
  }
  const events = new ICAL.Component(ICAL.parse(await datesToCome(app))).getAllSubcomponents("vevent");
  expect(events.map((one) => new ICAL.Event(one).summary)).toEqual([
    "A standing order revokes a share of Plan; v2.pdf",
  ]);
});

test("the ends of waivers are a calendar that another package reads back", async () => {
  const odd = "Press kit; on purpose, \\ and “all” of it\nsaid in two lines, ".repeat(3);
  await waiver("l1", "2026-11-01T08:30:00Z", null, odd);
  await waiver("l2", "2026-10-20T00:00:00Z", null, "Soon");
  await waiver("over", "2026-10-01T00:00:00Z", null, "Over");
  await waiver("ended", "2026-12-01T00:00:00Z", NOW, "Ended early");
  const text = await datesToCome(app);
  expect(text.endsWith("END:VCALENDAR\r\n")).toBe(true);
  for (const line of text.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  const events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents("vevent").map((one) => new ICAL.Event(one));
  expect(events.map((event) => event.startDate.toJSDate().toISOString())).toEqual([
    "2026-10-20T00:00:00.000Z",
    "2026-11-01T08:30:00.000Z",
  ]);
  expect(events[1].description).toBe(odd);
  expect(events[0].component.getFirstPropertyValue("url")).toContain("/register?share=l2");
  expect(new Set(events.map(({ uid }) => uid)).size).toBe(2);
});

test("without anything to come the calendar is empty, and still one", async () => {
  const calendar = new ICAL.Component(ICAL.parse(await datesToCome(app)));
  expect([calendar.name, calendar.getAllSubcomponents("vevent")]).toEqual(["vcalendar", []]);
});

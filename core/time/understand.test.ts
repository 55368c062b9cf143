import fc from "fast-check";
import { rfc3339, seconds } from "./instant";
import { DATE_STYLES, dayIn, momentIn, type DateSettings } from "./style";
import { type CalendarDay, dayEnd, dayStart, understand } from "./understand";

const NOW = seconds("2026-11-23T09:14:00Z");
const BERLIN: DateSettings = { zone: "Europe/Berlin", style: "day-first", weekStart: 1 };

/** What a text means, as a day or as an instant. */
function meant(text: string, { toward = "future" as "future" | "past", dates = BERLIN, now = NOW } = {}) {
  const found = understand(text, { now, dates, toward });
  if (found === null) return null;
  return found.kind === "moment" ? rfc3339(found.at) : dayText(found);
}

const dayText = ({ year, month, day }: CalendarDay) =>
  [String(year).padStart(4, "0"), String(month).padStart(2, "0"), String(day).padStart(2, "0")].join("-");

test.each([
  ["12 Dec", "2026-12-12"],
  ["2026-12-12", "2026-12-12"],
  ["12.12.2026", "2026-12-12"],
  ["2026-12-12 14:00", "2026-12-12T13:00:00Z"],
  ["Dec 12, 2026, 2:00 pm", "2026-12-12T13:00:00Z"],
  ["2026-12-12T14:00:00Z", "2026-12-12T14:00:00Z"],
  ["in 14 days", "2026-12-07"],
  ["in 2 hours", "2026-11-23T11:14:00Z"],
  ["tomorrow", "2026-11-24"],
  ["tomorrow at 5pm", "2026-11-24T16:00:00Z"],
  ["  friday ", "2026-11-27"],
  ["last friday", "2026-11-20"],
  ["1 Oct", "2027-10-01"],
  ["end of month", "2026-11-30"],
  ["the end of next month", "2026-12-31"],
  ["end of next week", "2026-12-06"],
  ["end of quarter", "2026-12-31"],
  ["end of the year", "2026-12-31"],
])("%s is %s, on a Monday in November", (text, means) => {
  expect(meant(text)).toBe(means);
});

test.each([
  "31 Feb",
  "2026-02-31",
  "25:00",
  "12 Dec foo",
  "ask Ann by 12 Dec",
  "1 Jan - 3 Jan",
  "soon",
  "",
  "in 9999999 days",
])("%s is not understood", (text) => {
  expect(meant(text)).toBeNull();
});

test("what has been is meant where it is asked for: a weekday, and a day of a year", () => {
  expect(["friday", "sunday", "1 Oct", "24 Dec", "2 weeks ago"].map((text) => meant(text, { toward: "past" }))).toEqual(
    [...["2026-11-20", "2026-11-22", "2026-10-01", "2025-12-24", "2026-11-09"]],
  );
});

test("3/4 is in the order of the style, and a week begins when the person says", () => {
  expect(DATE_STYLES.map((style) => meant("3/4/2027", { dates: { ...BERLIN, style } }))).toEqual([
    ...["2027-04-03", "2027-03-04", "2027-04-03"],
  ]);
  const inSundays = { ...BERLIN, weekStart: 0 as const };
  expect(meant("end of week", { dates: inSundays })).toBe("2026-11-28");
});

test("today is the day by the person's own clocks", () => {
  const late = seconds("2026-11-23T23:30:00Z");
  const on = (zone: string) => meant("today", { now: late, dates: { ...BERLIN, zone } });
  expect([on("Europe/Berlin"), on("UTC"), on("America/New_York")]).toEqual(["2026-11-24", "2026-11-23", "2026-11-23"]);
});

test("days on which clocks are changed are 23 and 25 hours long, and a span of hours keeps its length", () => {
  // From memory: the tz database has Berlin at UTC+2 from 29 March to 25 October 2026, and at UTC+1 else.
  const span = (day: CalendarDay) => [dayStart(day, BERLIN.zone), dayEnd(day, BERLIN.zone)].map(rfc3339);
  expect(span({ year: 2026, month: 3, day: 29 })).toEqual(["2026-03-28T23:00:00Z", "2026-03-29T21:59:59Z"]);
  expect(span({ year: 2026, month: 10, day: 25 })).toEqual(["2026-10-24T22:00:00Z", "2026-10-25T22:59:59Z"]);
  const before = seconds("2026-10-25T00:30:00Z");
  expect(meant("in 3 hours", { now: before })).toBe("2026-10-25T03:30:00Z");
});

const INSTANT = fc.integer({ min: seconds("1970-01-02T00:00:00Z") / 60, max: seconds("2090-01-01T00:00:00Z") / 60 });
const ZONE = fc.constantFrom("UTC", "Europe/Berlin", "America/New_York", "Asia/Kathmandu", "Pacific/Auckland");

test("what is written in a person's style is read back as the same", () => {
  fc.assert(
    fc.property(INSTANT, ZONE, fc.constantFrom(...DATE_STYLES), (minutes, zone, style) => {
      const dates = { ...BERLIN, zone, style };
      const at = minutes * 60;
      const moment = understand(momentIn(dates, at), { now: NOW, dates, toward: "future" });
      // An hour that comes twice in autumn can't be told apart by its name.
      fc.pre(moment?.kind !== "moment" || Math.abs(moment.at - at) !== 3_600);
      const day = understand(dayIn(dates, at), { now: NOW, dates, toward: "future" });
      expect(moment).toEqual({ kind: "moment", at });
      expect(day?.kind === "day" && dayStart(day, zone) <= at && at <= dayEnd(day, zone)).toBe(true);
    }),
  );
});

import { rfc3339, seconds } from "../time/instant";
import { nextDue } from "./schedule";

const due = (...[every, after, zone]: [...Parameters<typeof asked>]) => rfc3339(asked(every, after, zone));
const asked = (every: "week" | "month", after: string, zone: string) => nextDue(every, seconds(after), zone);

test("a month's report is due on the first at seven by the clocks of whoever set it up", () => {
  expect(due("month", "2026-11-30T12:00:00Z", "UTC")).toBe("2026-12-01T07:00:00Z");
  expect(due("month", "2026-12-01T06:59:59Z", "UTC")).toBe("2026-12-01T07:00:00Z");
  expect(due("month", "2026-12-01T07:00:00Z", "UTC")).toBe("2027-01-01T07:00:00Z");
  // In Lisbon summer time holds until 25 October 2026.
  expect(due("month", "2026-09-15T00:00:00Z", "Europe/Lisbon")).toBe("2026-10-01T06:00:00Z");
  expect(due("month", "2026-10-15T00:00:00Z", "Europe/Lisbon")).toBe("2026-11-01T07:00:00Z");
});

test("a week's report is due on Monday", () => {
  expect(due("week", "2026-11-30T06:00:00Z", "UTC")).toBe("2026-11-30T07:00:00Z");
  expect(due("week", "2026-11-30T08:00:00Z", "UTC")).toBe("2026-12-07T07:00:00Z");
  // There it is Monday already.
  expect(due("week", "2026-11-29T20:00:00Z", "Pacific/Auckland")).toBe("2026-12-06T18:00:00Z");
});

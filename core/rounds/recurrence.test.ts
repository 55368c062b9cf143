import fc from "fast-check";
import { rrulestr } from "rrule";
import { DAY, rfc3339, seconds } from "../time/instant";
import { nextOpening, occurrencesOf, recurrenceWords, whyNotRecurring } from "./recurrence";

const days = (rule: string, first: string, zone = "America/New_York") =>
  occurrencesOf({ rule, zone, first: seconds(first) }).map((at) => rfc3339(at));

// RFC 5545, section 3.8.5.3: each begins on 2 September 1997, 9:00 in New York, unless it says otherwise.
test.each<[string, string, string, string[]]>([
  [
    "Monthly on the first Friday for 10 occurrences",
    "FREQ=MONTHLY;COUNT=10;BYDAY=1FR",
    "1997-09-05T13:00:00Z",
    [
      "09-05T13",
      "10-03T13",
      "11-07T14",
      "12-05T14",
      "01-02T14",
      "02-06T14",
      "03-06T14",
      "04-03T14",
      "05-01T13",
      "06-05T13",
    ],
  ],
  [
    "Every other month on the first and last Sunday of the month for 10 occurrences",
    "FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU",
    "1997-09-07T13:00:00Z",
    [
      "09-07T13",
      "09-28T13",
      "11-02T14",
      "11-30T14",
      "01-04T14",
      "01-25T14",
      "03-01T14",
      "03-29T14",
      "05-03T13",
      "05-31T13",
    ],
  ],
  [
    "Monthly on the second-to-last Monday of the month for 6 months",
    "FREQ=MONTHLY;COUNT=6;BYDAY=-2MO",
    "1997-09-22T13:00:00Z",
    ["09-22T13", "10-20T13", "11-17T14", "12-22T14", "01-19T14", "02-16T14"],
  ],
  [
    "Yearly in June and July for 10 occurrences",
    "FREQ=YEARLY;COUNT=10;BYMONTH=6,7",
    "1997-06-10T13:00:00Z",
    Array.from({ length: 5 }, () => ["06-10T13", "07-10T13"]).flat(),
  ],
  [
    "The last work day of the month",
    "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=3",
    "1997-09-30T13:00:00Z",
    ["09-30T13", "10-31T14", "11-28T14"],
  ],
])("%s, as RFC 5545 has it", (_, rule, first, wanted) => {
  expect(days(rule, first).map((text) => text.slice(5, 13))).toEqual(wanted);
});

const rules = fc
  .record({
    freq: fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
    interval: fc.integer({ min: 1, max: 7 }),
    count: fc.integer({ min: 2, max: 12 }),
    byDay: fc.constantFrom("", ";BYDAY=MO,TH", ";BYDAY=FR"),
  })
  // Every 7 days never comes to another day of the week, and the other package looks for one up to the year 9999.
  .filter(({ freq, interval, byDay }) => freq !== "DAILY" || interval < 7 || byDay === "");

test("another package finds the same days", () => {
  fc.assert(
    fc.property(rules, fc.integer({ min: 0, max: 4_000 }), ({ freq, interval, count, byDay }, day) => {
      const first = seconds("2026-01-01T09:00:00Z") + day * DAY;
      const rule = `FREQ=${freq};INTERVAL=${interval};COUNT=${count}${byDay}`;
      const start = rfc3339(first).replaceAll(/[-:]/g, "");
      const other = rrulestr(`DTSTART:${start}\nRRULE:${rule}`).all();
      expect(days(rule, rfc3339(first), "UTC")).toEqual(other.map((date: Date) => rfc3339(date.getTime() / 1_000)));
    }),
    { numRuns: 60 },
  );
});

test("the hour stays by the clocks of the zone when they are put forward", () => {
  expect(days("FREQ=MONTHLY;INTERVAL=6;COUNT=3", "2026-12-07T08:00:00Z", "Europe/Berlin")).toEqual([
    ...["2026-12-07T08:00:00Z", "2027-06-07T07:00:00Z", "2027-12-07T08:00:00Z"],
  ]);
});

test("the next opening is the first after an instant; what can't be held is said, with what to do", () => {
  const recurring = { rule: "FREQ=MONTHLY;COUNT=3", zone: "UTC", first: seconds("2026-10-05T08:00:00Z") };
  expect(nextOpening(recurring, recurring.first)).toBe(seconds("2026-11-05T08:00:00Z"));
  expect(nextOpening(recurring, seconds("2026-12-05T08:00:00Z"))).toBeNull();
  expect(whyNotRecurring(recurring, 14 * DAY)).toBeNull();
  expect(whyNotRecurring(recurring, 30 * DAY)).toBeNull();
  expect(whyNotRecurring(recurring, 30 * DAY + 1)).toContain("open again on 5 Dec 2026");
  expect(whyNotRecurring({ ...recurring, rule: "FREQ=MONTHLY;COUNT=1" }, DAY)).toContain("only once");
  expect(recurrenceWords({ ...recurring, rule: "FREQ=MONTHLY;INTERVAL=6;BYDAY=1MO;COUNT=6" })).toBe(
    "every 6 months on 1st Monday, 6 times in all",
  );
});

import { seconds } from "../time/instant";
import { dayBegan, whenToTell } from "./telling";

const at = seconds;
const telling = (zone: string, quiet: { from: string; to: string } | null = null) => ({ mostADay: 20, quiet, zone });

test("messages go at once up to the cap, and then in one digest when the day is over by the zone's clocks", () => {
  const now = at("2026-11-23T15:00:00Z");
  expect(whenToTell(telling("Asia/Tokyo"), now, 19)).toEqual({ digest: false });
  // In Tokyo it is the 24th, a minute past midnight, nine hours before UTC.
  expect(whenToTell(telling("Asia/Tokyo"), now, 20)).toEqual({ digest: true, at: at("2026-11-24T15:00:00Z") });
  expect(dayBegan("Asia/Tokyo", now)).toBe(at("2026-11-23T15:00:00Z"));
  expect(whenToTell(telling("America/New_York"), now, 20)).toEqual({ digest: true, at: at("2026-11-24T05:00:00Z") });
});

// Transitions as the tz database has them: Europe/Lisbon forward on 2026-03-29 at 01:00 UTC, back on 2026-10-25 at
// 01:00 UTC; America/New_York forward on 2026-03-08 at 07:00 UTC; Australia/Lord_Howe by half an hour, back on
// 2026-04-04 at 15:00 UTC. Values from memory.
test.each([
  ["the day of 23 hours", "Europe/Lisbon", "2026-03-29T00:30:00Z", "2026-03-29T23:00:00Z"],
  ["the day of 25 hours", "Europe/Lisbon", "2026-10-24T23:30:00Z", "2026-10-26T00:00:00Z"],
  ["a day of 24 and a half hours", "Australia/Lord_Howe", "2026-04-04T14:00:00Z", "2026-04-05T13:30:00Z"],
])("the cap's day is %s where the clocks say so", (_, zone, now, end) => {
  expect(whenToTell(telling(zone), at(now), 20)).toEqual({ digest: true, at: at(end) });
});

test.each([
  ["within, before midnight", "2026-11-23T22:00:00Z", "2026-11-24T07:00:00Z"],
  ["within, after midnight", "2026-11-24T06:59:59Z", "2026-11-24T07:00:00Z"],
  ["at the beginning", "2026-11-23T21:00:00Z", "2026-11-24T07:00:00Z"],
  ["at the end", "2026-11-24T07:00:00Z", null],
  ["by day", "2026-11-23T12:00:00Z", null],
])("nothing goes out in quiet hours: %s", (_, now, end) => {
  const when = whenToTell(telling("Europe/Lisbon", { from: "21:00", to: "07:00" }), at(now), 0);
  expect(when).toEqual(end === null ? { digest: false } : { digest: true, at: at(end) });
});

test("quiet hours end by the clocks, also in the night in which those change", () => {
  const night = telling("Europe/Lisbon", { from: "22:00", to: "06:00" });
  expect(whenToTell(night, at("2026-03-28T23:00:00Z"), 0)).toEqual({ digest: true, at: at("2026-03-29T05:00:00Z") });
  expect(whenToTell(night, at("2026-10-24T22:00:00Z"), 0)).toEqual({ digest: true, at: at("2026-10-25T06:00:00Z") });
  // 02:30 is jumped over in New York on that day: the clocks then show 03:30.
  const gap = telling("America/New_York", { from: "23:00", to: "02:30" });
  expect(whenToTell(gap, at("2026-03-08T05:00:00Z"), 0)).toEqual({ digest: true, at: at("2026-03-08T07:30:00Z") });
});

test("a digest at midnight waits for the end of quiet hours over it; hours from and to the same time are none", () => {
  const quiet = { from: "23:00", to: "06:00" };
  const when = whenToTell(telling("Europe/Lisbon", quiet), at("2026-11-23T12:00:00Z"), 20);
  expect(when).toEqual({ digest: true, at: at("2026-11-24T06:00:00Z") });
  expect(whenToTell(telling("UTC", { from: "08:00", to: "08:00" }), at("2026-11-23T12:00:00Z"), 0)).toEqual({
    digest: false,
  });
});

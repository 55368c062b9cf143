import fc from "fast-check";
import { ALWAYS, FIRST_INSTANT, LAST_INSTANT, NEVER, rfc3339, seconds, until } from "./instant";

test("an instant as text is what the platform's own dates say, and is read back", () => {
  fc.assert(
    fc.property(fc.integer({ min: FIRST_INSTANT, max: LAST_INSTANT }), (at) => {
      expect(rfc3339(at)).toBe(new Date(at * 1000).toISOString().replace(".000Z", "Z"));
      expect(seconds(rfc3339(at))).toBe(at);
    }),
  );
});

test("the last second of a day, and the first of a leap day", () => {
  // RFC 3339, section 5.8, has these forms; 2024 and 2000 are leap years by section 5.7 and its appendix C, 2100 is not.
  expect(rfc3339(Date.UTC(2026, 11, 31, 23, 59, 59) / 1000)).toBe("2026-12-31T23:59:59Z");
  expect(rfc3339(Date.UTC(2024, 1, 28) / 1000 + 86_400)).toBe("2024-02-29T00:00:00Z");
  expect(rfc3339(Date.UTC(2100, 1, 28) / 1000 + 86_400)).toBe("2100-03-01T00:00:00Z");
});

test("the first and the last instant that RFC 3339's four digits of a year can tell, but for the year 0", () => {
  expect([rfc3339(FIRST_INSTANT), rfc3339(LAST_INSTANT)]).toEqual(["0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z"]);
});

test("an end as answers give it", () => {
  expect([until(ALWAYS), until(NEVER), until(60)]).toEqual([null, "never", "1970-01-01T00:01:00Z"]);
});

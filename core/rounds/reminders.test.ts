import fc from "fast-check";
import { DAY, HOUR } from "../time/instant";
import { type RoundStage, stageDue } from "./reminders";

const span = { opened: 0, closes: 14 * DAY };
const due = (at: number, ...had: RoundStage[]) => stageDue(span, new Set(had), at);

test("each is due once: at the opening, at half time, three days and one day before the close", () => {
  expect(due(0)).toBe("opening");
  expect(due(DAY, "opening")).toBeNull();
  expect(due(7 * DAY, "opening")).toBe("half");
  expect(due(11 * DAY, "opening", "half")).toBe("three-days");
  expect(due(13 * DAY, "opening", "half", "three-days")).toBe("one-day");
  expect(due(13 * DAY + 1, "one-day")).toBeNull();
  expect(due(14 * DAY)).toBeNull();
});

test("whoever gets lines late is asked at once, and not for every stage that they missed", () => {
  expect(due(12 * DAY)).toBe("three-days");
  expect(due(12 * DAY + HOUR, "three-days")).toBeNull();
});

test("however long a round is, nobody is asked more often than four times", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 * 24 }), (hours) => {
      const round = { opened: 1_000, closes: 1_000 + hours * HOUR };
      const had = new Set<RoundStage>();
      for (let at = round.opened; at < round.closes; at += HOUR / 2) {
        const stage = stageDue(round, had, at);
        if (stage) had.add(stage);
      }
      expect(had.has("opening")).toBe(true);
      expect(had.size).toBeLessThanOrEqual(4);
    }),
  );
});

import fc from "fast-check";
import { link, NOW, T } from "@/tests/records";
import { ALWAYS, DAY, NEVER, rfc3339, type Seconds } from "../time/instant";
import { joined, openTimes } from "./openTimes";

const day = (number: number) => T + number * DAY;
const told = (number: number) => rfc3339(day(number));
const made = { createdAt: told(-30) };
const spans = (held: Parameters<typeof openTimes>[0], from = day(-20), to = T) =>
  openTimes(held, from, to).map((one) => [one.from, one.to]);

test("a share is open from its making, or its opening, to its end, its revoke, or the end of what is known", () => {
  const one = (more: object) => [{ record: link("l", "f", { ...made, ...more }), from: ALWAYS, to: NEVER }];
  expect(spans(one({}))).toEqual([[day(-20), NEVER]]);
  expect(spans(one({ createdAt: told(-3), opensAt: told(-2) }))).toEqual([[day(-2), NEVER]]);
  expect(spans(one({ expiresAt: told(-5) }))).toEqual([[day(-20), day(-5)]]);
  expect(spans(one({ expiresAt: told(5), revokedAt: told(-9) }))).toEqual([[day(-20), day(-9)]]);
  expect(spans(one({ expiresAt: told(-25) }))).toEqual([]);
  expect(spans(one({ createdAt: told(3) }))).toEqual([]);
  expect(spans(one({ maxUses: 3, uses: 3 }))).toEqual([]);
});

test("each version of its record is a line of its own, and those that say the same are one", () => {
  const versions = [
    { record: link("l", "f", made), from: ALWAYS, to: day(-10) },
    { record: link("l", "f", { ...made, uses: 4 }), from: day(-10), to: day(-6) },
    { record: link("l", "f", { ...made, password: true }), from: day(-6), to: NEVER },
  ];
  const times = openTimes(versions, day(-20), T);
  expect(times).toHaveLength(3);
  const told = joined(times, (record) => String(record.type === "link" && record.password));
  expect(told.map(({ from, to }) => [from, to])).toEqual([
    [day(-20), day(-6)],
    [day(-6), NEVER],
  ]);
});

test("at each instant of the span it is open by exactly the version that held then, where that was open", () => {
  const instants = fc.integer({ min: -40, max: 10 });
  const version = fc.record({
    length: fc.integer({ min: 1, max: 12 }),
    ends: fc.option(instants),
    revoked: fc.option(instants),
  });
  fc.assert(
    fc.property(fc.array(version, { minLength: 1, maxLength: 6 }), instants, (versions, made) => {
      let from: Seconds = ALWAYS;
      const held = versions.map(({ length, ends, revoked }, i) => {
        const to = i === versions.length - 1 ? NEVER : Math.max(from, day(-40)) + length * DAY;
        const record = link("l", "f", {
          ...{ createdAt: told(made), expiresAt: ends === null ? null : told(ends) },
          revokedAt: revoked === null ? null : told(revoked),
        });
        const one = { record, from, to };
        from = to;
        return one;
      });
      const times = openTimes(held, day(-20), T);
      for (let number = -20; number <= 0; number++) {
        const at = day(number);
        const now = held.find((one) => one.from <= at && at < one.to)!;
        const { createdAt, expiresAt, revokedAt } = now.record;
        const isBefore = (text: string | null | undefined) => text == null || rfc3339(at) < text;
        const isOpen = createdAt <= rfc3339(at) && isBefore(expiresAt) && isBefore(revokedAt);
        const found = times.filter((one) => one.from <= at && at < one.to);
        expect(found.map(({ record }) => record)).toEqual(isOpen ? [now.record] : []);
      }
    }),
  );
  expect(NOW).toBe(told(0));
});

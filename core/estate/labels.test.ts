import { file, head, item, store } from "@/tests/records";
import { buildEstate, type Estate } from "./estate";
import type { LabelRule } from "./labels";
import { LABELS } from "./records";

const ITEMS = [
  head(),
  store(),
  store("other"),
  item("a", null, { name: "Payroll" }),
  item("b", "a", { name: "2026", label: "internal" }),
  file("c", "b", { name: "May payroll.xlsx" }),
  file("d", "a", { name: "Notes.txt", label: "restricted" }),
  item("e", null, { name: "Press", storeId: "other" }),
];
const rule = (on: LabelRule["on"], of: string, label: LabelRule["label"], id = 1): LabelRule => ({ id, label, on, of });

function labelled(...rules: LabelRule[]): Estate {
  const estate = buildEstate(ITEMS);
  estate.takeLabelRules(rules);
  estate.settle();
  return estate;
}
const labels = ({ tree }: Estate) =>
  Object.fromEntries(["a", "b", "c", "d", "e"].map((id) => [id, LABELS[tree.label[tree.position(id)!]]]));
const origin = ({ tree }: Estate, id: string) => {
  const { rule, at } = tree.labelOrigin(tree.position(id)!);
  return [rule?.id ?? null, at < 0 ? null : tree.idAt(at)];
};

test("without rules a label is the item's own, else that of the nearest above, else internal", () => {
  const estate = labelled();
  expect(labels(estate)).toEqual({ a: "internal", b: "internal", c: "internal", d: "restricted", e: "internal" });
  expect([origin(estate, "c"), origin(estate, "e")]).toEqual([
    [null, "b"],
    [null, null],
  ]);
});

test("a rule for a place holds below it; what the store says counts only where it is stricter", () => {
  const estate = labelled(rule("place", "a", "confidential"));
  expect(labels(estate)).toEqual({
    ...{ a: "confidential", b: "confidential", c: "confidential", d: "restricted", e: "internal" },
  });
  expect([origin(estate, "c"), origin(estate, "d")]).toEqual([
    [1, "a"],
    [null, "d"],
  ]);
});

test("the nearest rule counts, also where it is looser; of several for one item the strictest", () => {
  const estate = labelled(
    rule("place", "a", "restricted"),
    rule("name", "*payroll*", "public", 2),
    rule("name", "*.xlsx", "confidential", 3),
  );
  // The folder's name fits a pattern too, and the stricter rule for the place wins there.
  expect(labels(estate)).toMatchObject({ a: "restricted", b: "restricted", c: "confidential" });
  expect(origin(estate, "c")).toEqual([3, "c"]);
});

test("a rule for a store holds where nothing nearer does, and patterns are no regular expressions", () => {
  const estate = labelled(rule("store", "other", "public"), rule("name", "No.es.txt", "public", 2));
  expect(labels(estate)).toMatchObject({ a: "internal", d: "restricted", e: "public" });
  expect(origin(estate, "e")).toEqual([1, null]);
  expect(labels(labelled(rule("name", "p?ess", "restricted")))).toMatchObject({ e: "restricted" });
});

test("an item that is given another name is labelled by that", () => {
  const estate = labelled(rule("name", "secret*", "restricted"));
  estate.put(item("e", null, { name: "Secret plans", storeId: "other" }));
  expect(estate.settle().whole).toBe(true);
  expect(labels(estate)).toMatchObject({ e: "restricted" });
});

test("rules are kept with the columns, and known to a copy", () => {
  const estate = labelled(rule("place", "a", "confidential"));
  expect(labels(labelled(rule("place", "a", "confidential")).copy(0))).toEqual(labels(estate));
  expect(labels(estate)).toEqual(labels(buildRestored(estate)));
});

function buildRestored(estate: Estate): Estate {
  return (estate.constructor as typeof Estate).restore(structuredClone(estate.columns()));
}

import type { Estate } from "./estate";

/** Where the label of the item at a position comes from, in words that go on after it. */
export function labelFromWords({ tree, stores }: Estate, position: number): string {
  const { rule, at } = tree.labelOrigin(position);
  if (rule?.on === "store") return `set here for all of ${stores.get(rule.of)?.name ?? rule.of}`;
  const where = at === position ? "" : ` on ${tree.nameAt(Math.max(at, 0))}, which it is in`;
  if (rule) return rule.on === "name" ? `set here for names like ${rule.of}${where}` : `set here${where}`;
  return at < 0 ? "since nobody has labelled it" : `from the store${where}`;
}

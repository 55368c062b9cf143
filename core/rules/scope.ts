import { z } from "zod";
import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import { SHARE_ROLES } from "../estate/shares";
import { isAtOrBelow } from "../estate/tree";
import type { Judged } from "./judged";

const names = z.array(z.string().min(1)).min(1);

/** Where a rule on items runs. What is left out doesn't limit it; everything given must be met. */
export const itemScopeSchema = z.strictObject({
  labels: z.array(z.enum(LABELS)).min(1).optional(),
  /** Ids. */
  stores: names.optional(),
  /** Of whoever made the share; where a rule is on items, of their owner. */
  departments: names.optional(),
  /** Ids; everything below is included. */
  items: names.optional(),
});
/** Where a rule on shares runs. */
export const scopeSchema = itemScopeSchema.extend({
  /** One of its outsiders is of one of these. */
  organisations: names.optional(),
  roles: z.array(z.enum(SHARE_ROLES)).min(1).optional(),
});
export type Scope = z.infer<typeof scopeSchema>;

/** Whether a rule with this scope looks at a share. */
export function isInScope(scope: Scope, { share, outsiders, worst }: Judged, estate: Estate): boolean {
  const { people } = estate;
  const { organisations, roles } = scope;
  if (scope.labels && (worst === null || !scope.labels.includes(worst))) return false;
  if (roles && !roles.includes(share.role)) return false;
  if (organisations && !outsiders.some((one) => organisations.includes(people[one].organisation))) return false;
  return isPlaceInScope(scope, share.position, people[share.maker]?.department, estate);
}

/** Whether a rule with this scope looks at an item. */
export function isItemInScope(scope: Scope, position: number, estate: Estate): boolean {
  const label = LABELS[estate.tree.label[position]];
  if (scope.labels && !scope.labels.includes(label)) return false;
  return isPlaceInScope(scope, position, estate.people[estate.ownerAt(position)]?.department, estate);
}

function isPlaceInScope(scope: Scope, position: number, department: string | null | undefined, { tree }: Estate) {
  if (scope.stores && !scope.stores.includes(tree.storeIdAt(position))) return false;
  if (scope.departments && !scope.departments.includes(department ?? "")) return false;
  if (!scope.items) return true;
  const tops = new Set(scope.items.map((id) => tree.position(id)).filter((at) => at !== undefined));
  return isAtOrBelow(tree, position, tops);
}

/** Parts of a scope that match nothing in the estate, in words; empty where everything is known. */
export function unknownInScope(scope: Scope, estate: Estate): string[] {
  const { tree, stores, everybody, principals } = estate;
  const departments = new Set(everybody.map(({ department }) => department));
  const organisations = new Set(principals.organisations);
  return [
    ...(scope.stores ?? []).filter((id) => !stores.has(id)).map((id) => `There is no store ${id}.`),
    ...(scope.departments ?? []).filter((one) => !departments.has(one)).map((one) => `Nobody is in ${one}.`),
    ...(scope.items ?? []).filter((id) => tree.position(id) === undefined).map((id) => `There is no item ${id}.`),
    ...(scope.organisations ?? [])
      .filter((one) => !organisations.has(one))
      .map((one) => `Nobody outside is of ${one}.`),
  ];
}

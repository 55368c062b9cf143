import { z } from "zod";
import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import { isAtOrBelow } from "../estate/tree";
import type { IsMeant } from "./choice";

const id = z.string().min(1).max(600);

/** Which files count in a shortlist. */
export const adviceScopeSchema = z.discriminatedUnion("of", [
  z.strictObject({ of: z.literal("everything") }),
  z.strictObject({ of: z.literal("store"), id }),
  /** Everything that somebody owns; by their address. */
  z.strictObject({ of: z.literal("owner"), id }),
  z.strictObject({ of: z.literal("label"), id: z.enum(LABELS) }),
  /** The items of an engagement, with everything below them. */
  z.strictObject({ of: z.literal("engagement"), id }),
]);
export type AdviceScope = z.infer<typeof adviceScopeSchema>;
export const EVERYTHING: AdviceScope = { of: "everything" };

/** A scope as text in the address bar: `everything`, `label:restricted`, `owner:ada@home.example`. */
export const printScope = (scope: AdviceScope): string =>
  scope.of === "everything" ? scope.of : `${scope.of}:${scope.id}`;

/** @returns null where the text is no scope */
export function parseScope(text: string): AdviceScope | null {
  const at = text.indexOf(":");
  const given = at < 0 ? { of: text } : { of: text.slice(0, at), id: text.slice(at + 1) };
  return adviceScopeSchema.safeParse(given).data ?? null;
}

/** What a scope is called, and which files it means. */
interface ScopeHere {
  title: string;
  isMeant: IsMeant;
}

/** @returns null where the estate doesn't know what the scope names */
export function scopeIn(estate: Estate, scope: AdviceScope): ScopeHere | null {
  const { tree, principals } = estate;
  switch (scope.of) {
    case "everything":
      return { title: "everything", isMeant: () => true };
    case "store": {
      const store = estate.stores.get(scope.id);
      return store ? { title: store.name, isMeant: (position) => tree.storeIdAt(position) === scope.id } : null;
    }
    case "owner": {
      const owner = principals.findAddress(scope.id);
      if (owner === undefined) return null;
      return { title: estate.people[owner].name, isMeant: (position) => estate.ownerAt(position) === owner };
    }
    case "label": {
      const label = LABELS.indexOf(scope.id);
      return { title: scope.id, isMeant: (position) => tree.label[position] === label };
    }
    case "engagement": {
      const found = estate.engagements.find(({ record }) => record.id === scope.id);
      if (!found) return null;
      return { title: found.record.name, isMeant: (position) => isAtOrBelow(tree, position, found.positions) };
    }
  }
}

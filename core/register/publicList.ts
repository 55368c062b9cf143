import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import type { RegisterRow } from "./row";

/** A share that anyone can use who holds its address. */
export interface PublicShare {
  row: RegisterRow;
  address: string | null;
  /** Who answers for it, and as what. */
  answers: { name: string; as: "owner" | "maker" } | null;
}

/** Who answers for a share: the active owner of its item or of what lies nearest above, else its maker where they are still here. */
export function answersFor(estate: Estate, share: Share): PublicShare["answers"] {
  for (let at = share.position; at >= 0; at = estate.tree.parent[at]) {
    const owner = estate.activeOwnerAt(at);
    if (owner >= 0) return { name: estate.people[owner].name, as: "owner" };
  }
  const maker = estate.people[share.maker];
  return maker?.status === "active" ? { name: maker.name, as: "maker" } : null;
}

import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";

/** The insider who answers for a share, by index, and in which capacity. */
export interface Answerer {
  person: number;
  as: "owner" | "maker";
}

/** The active owner of its item, or of what lies nearest above, else its maker where they are still here. */
export function answererOf(estate: Estate, { position, maker }: Share): Answerer | null {
  const { active, insider } = estate.principals;
  for (let at = position; at >= 0; at = estate.tree.parent[at]) {
    const owner = estate.activeOwnerAt(at);
    if (owner >= 0 && insider[owner] === 1) return { person: owner, as: "owner" };
  }
  return maker >= 0 && active[maker] === 1 && insider[maker] === 1 ? { person: maker, as: "maker" } : null;
}

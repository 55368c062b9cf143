import type { Estate } from "../estate/estate";
import { PEOPLE } from "../estate/shares";
import { inheritedFrom } from "../estate/tree";
import type { Seconds } from "../time/instant";
import { isLiveSlot } from "./live";
import { type Access, accessThrough, addAccess, OWNERSHIP } from "./paths";
import { countLive, livePositions } from "./ranges";
import type { WayIn, WaysIn } from "./waysIn";

/** A range of positions in which somebody may do the same everywhere. What in it isn't live they don't reach. */
export interface Stretch extends Access {
  from: number;
  to: number;
}

/** What a person reaches by name at t (not by open or house links), in stretches that lie apart, in order. */
export function reachOf(estate: Estate, t: Seconds, person: number, waysIn: WaysIn): Stretch[] {
  return stretches(estate, waysIn.of(person, t));
}

/** What all of some people together reach by name at t. */
export function reachTogether(estate: Estate, t: Seconds, people: readonly number[], waysIn: WaysIn): Stretch[] {
  return stretches(
    estate,
    people.flatMap((person) => waysIn.of(person, t)),
  );
}

/** What ways in give together. Their ranges lie within each other or apart, so a stack is enough. */
function stretches(estate: Estate, ways: WayIn[]): Stretch[] {
  const { end } = estate.tree;
  const found: Stretch[] = [];
  const open: { to: number; access: Access }[] = [];
  let from = 0;
  const close = (position: number) => {
    while (open.length > 0 && open[open.length - 1].to <= position) {
      const { to, access } = open.pop()!;
      if (from < to) found.push({ from, to, ...access });
      from = Math.max(from, to);
    }
    if (open.length > 0 && from < position) found.push({ from, to: position, ...open[open.length - 1].access });
    from = position;
  };
  for (const { share, position } of ways.sort((a, b) => a.position - b.position)) {
    close(position);
    const access = share < 0 ? OWNERSHIP : accessThrough(estate, share);
    open.push({ to: end[position], access: addAccess(open.at(-1)?.access, access) });
  }
  close(Infinity);
  return found;
}

/** How many live items some stretches hold. */
export function countReached(estate: Estate, reached: readonly Stretch[]): number {
  return countLive(
    estate.tree,
    reached.flatMap(({ from, to }) => [from, to]),
  );
}

/** Each live position in some stretches, with what may be done there. */
export function* eachReached(estate: Estate, reached: readonly Stretch[]): Generator<[number, Access]> {
  for (const { from, to, role, download, until } of reached)
    for (const position of livePositions(estate.tree, [from, to])) yield [position, { role, download, until }];
}

/** Everybody who reaches an item by name at t, by person index. */
export function whoReaches(estate: Estate, t: Seconds, position: number): Map<number, Access> {
  const { shares, principals, tree } = estate;
  const who = new Map<number, Access>();
  if (tree.live[position] === 0) return who;
  for (const at of inheritedFrom(tree, position)) {
    const owner = estate.activeOwnerAt(at);
    if (owner >= 0) who.set(owner, addAccess(who.get(owner), OWNERSHIP));
    for (let slot = estate.firstShareAt(at); slot >= 0; slot = shares.nextOnItem[slot]) {
      if (shares.audience[slot] !== PEOPLE || !isLiveSlot(estate, slot, t)) continue;
      for (let i = shares.membersFrom[slot]; i < shares.membersTo[slot]; i++)
        who.set(principals.pool[i], addAccess(who.get(principals.pool[i]), accessThrough(estate, slot)));
    }
  }
  return who;
}

import type { Person } from "./estate";
import type { GroupRecord, RecordOf } from "./records";

export interface Groups {
  records: GroupRecord[];
  byId: Map<string, number>;
  /** Indexes of the active people in a group or in a group within it, however deep. Cycles are harmless. */
  closure(group: number): Int32Array;
  /**
   * The shortest chain of group ids from a group down to one that holds the person directly; of equally
   * short ones the first in order of ids. Null if there is none.
   */
  chain(group: number, person: number): string[] | null;
  /** Indexes of the people who are members of the group itself. */
  directPeople(group: number): ReadonlySet<number>;
}

/** Resolves groups, their members, and groups in groups. Members that nobody knows are passed over. */
export function buildGroups(
  records: GroupRecord[],
  members: RecordOf<"member">[],
  personById: Map<string, number>,
  people: Person[],
): Groups {
  const byId = new Map(records.map((group, index) => [group.id, index]));
  const subgroups: number[][] = records.map(() => []);
  const direct: Set<number>[] = records.map(() => new Set());
  for (const { groupId, memberId } of members) {
    const group = byId.get(groupId);
    if (group === undefined) continue;
    const person = personById.get(memberId);
    const subgroup = byId.get(memberId);
    if (person !== undefined) direct[group].add(person);
    else if (subgroup !== undefined) subgroups[group].push(subgroup);
  }
  for (const below of subgroups) below.sort((a, b) => (records[a].id < records[b].id ? -1 : 1));
  const closures = new Map<number, Int32Array>();

  function closure(group: number): Int32Array {
    let known = closures.get(group);
    if (known) return known;
    const found = new Set<number>();
    for (const { group: within } of walk(subgroups, group)) for (const person of direct[within]) found.add(person);
    known = Int32Array.from([...found].filter((person) => people[person].status === "active")).sort();
    closures.set(group, known);
    return known;
  }

  function chain(group: number, person: number): string[] | null {
    for (const { group: within, trail } of walk(subgroups, group))
      if (direct[within].has(person)) return trail.map((index) => records[index].id);
    return null;
  }

  return { records, byId, closure, chain, directPeople: (group) => direct[group] };
}

/** Breadth first, neighbours in order of ids: so the first trail to a group is the shortest and, of equals, the first. */
function* walk(subgroups: number[][], start: number): Generator<{ group: number; trail: number[] }> {
  const seen = new Set([start]);
  const queue = [{ group: start, trail: [start] }];
  for (let next = 0; next < queue.length; next++) {
    yield queue[next];
    const { group, trail } = queue[next];
    for (const below of subgroups[group]) {
      if (seen.has(below)) continue;
      seen.add(below);
      queue.push({ group: below, trail: [...trail, below] });
    }
  }
}

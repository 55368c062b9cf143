import type { Register } from "../register/register";

/** By slot: 1 where a share names one of some people. @param isWanted by person */
export function flagsOfPeople({ estate, length }: Register, isWanted: Uint8Array): Uint8Array {
  const { pool, poolLength } = estate.principals;
  // How many of them stand before each place of the pool: a share's people are a piece of it.
  const before = new Uint32Array(poolLength + 1);
  for (let at = 0; at < poolLength; at++) before[at + 1] = before[at] + isWanted[pool[at]];
  const { membersFrom, membersTo } = estate.shares;
  const flags = new Uint8Array(length);
  for (let slot = 0; slot < length; slot++) {
    const held = before[membersTo[slot]] - before[membersFrom[slot]];
    flags[slot] = held === 0 ? 0 : 1;
  }
  return flags;
}

import { storeAt } from "../estate/estate";
import { Share } from "../estate/share";
import { COLUMN_NAMES, columnOf, type Listed, type RegisterRow } from "./columns";
import type { Register } from "./register";

const OF = COLUMN_NAMES.map((name) => [name, columnOf(name).of] as const);

/** What the row of a share is read from. @param slot of a share that is listed */
export function listedAt(register: Register, slot: number): Listed {
  const { estate } = register;
  const share = new Share(estate, slot);
  return {
    register,
    slot,
    share,
    kind: estate.tree.kindAt(share.position),
    store: storeAt(estate, share.position),
    maker: estate.people[share.maker],
    rules: register.rulesOf(slot, "rules"),
    waived: register.rulesOf(slot, "waived"),
  };
}

/** The share in a slot of the register, which must be listed. */
export function registerRow(register: Register, slot: number): RegisterRow {
  const one = listedAt(register, slot);
  const row: Record<string, unknown> = {};
  for (const [name, of] of OF) row[name] = of(one);
  return row as RegisterRow;
}

import { storeAt } from "../estate/estate";
import { Share } from "../estate/share";
import { COLUMN_NAMES, columnOf, type Listed, type RegisterRow } from "./columns";
import type { Register } from "./register";

const OF = COLUMN_NAMES.map((name) => [name, columnOf(name).of] as const);

/** What the row of a share is read from. @param slot of a share that is listed */
export function listedAt(register: Register, slot: number): Listed {
  const { share, kind, store, maker, rules, waived } = glanceAt(register, slot);
  return { register, slot, share, kind, store, maker, rules, waived };
}

/** The same where few columns are asked for: what needs a lookup is looked up only when it is read. */
export function glanceAt(register: Register, slot: number): Listed {
  const { estate } = register;
  const share = new Share(estate, slot);
  return {
    register,
    slot,
    share,
    get kind() {
      return estate.tree.kindAt(share.position);
    },
    get store() {
      return storeAt(estate, share.position);
    },
    get maker() {
      return estate.people[share.maker];
    },
    get rules() {
      return register.rulesOf(slot, "rules");
    },
    get waived() {
      return register.rulesOf(slot, "waived");
    },
  };
}

/** The share in a slot of the register, which must be listed. */
export function registerRow(register: Register, slot: number): RegisterRow {
  const one = listedAt(register, slot);
  const row = emptyRow();
  for (const [name, of] of OF) row[name] = of(one);
  return row as RegisterRow;
}

const EMPTY: Record<string, unknown> = Object.fromEntries(OF.map(([name]) => [name, null]));

/** An empty row with every column: filled in any order, all rows then have one shape, which is faster to read. */
export function emptyRow(): Record<string, unknown> {
  return { ...EMPTY };
}

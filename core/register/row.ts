import { storeAt } from "../estate/estate";
import { type Kind, type Label, LABELS } from "../estate/records";
import { Share } from "../estate/share";
import { placeOf } from "../estate/tree";
import type { RuleId } from "../rules/list";
import { type Latches, latchesOf } from "../rules/latches";
import { type Level, LEVELS } from "../rules/risk";
import type { Seconds } from "../time/instant";
import type { Register } from "./register";
import { type State, STATES, type Way, WAYS } from "./wayAndState";

/** One share as the register shows it. */
export interface RegisterRow {
  id: string;
  storeId: string;
  storeName: string;
  itemId: string;
  itemName: string;
  itemKind: Kind;
  place: string[];
  way: Way;
  role: Share["role"];
  /** The most sensitive label among all that it reaches. */
  label: Label;
  state: State;
  outside: boolean;
  latches: Latches;
  audience: string;
  organisations: string[];
  /** When it ends by its store, or by our own standing order where that comes before. */
  expires: Seconds;
  lastUsed: Seconds | null;
  /** Not where it was used after the past instant that is asked about, and nothing tells of a use before. */
  isUseKnown: boolean;
  made: Seconds;
  maker: string;
  department: string | null;
  /** The rules that it breaks, and those that it may break for now. */
  rules: readonly RuleId[];
  waived: readonly RuleId[];
  risk: Level | null;
}

/** The share in a slot of the register, which must be listed. */
export function registerRow(register: Register, slot: number): RegisterRow {
  const { estate } = register;
  const { tree, people, principals } = estate;
  const share = new Share(estate, slot);
  const kind = tree.kindAt(share.position);
  const store = storeAt(estate, share.position);
  const rules = register.rulesOf(slot, "rules");
  const waived = register.rulesOf(slot, "waived");
  const maker = people[share.maker];
  const organisations = register.organisationSets.get(register.organisations[slot]);
  return {
    id: share.id,
    storeId: store.id,
    storeName: store.name,
    itemId: share.itemId,
    itemName: tree.nameAt(share.position),
    itemKind: kind,
    place: placeOf(tree, share.position),
    way: WAYS[register.fact(slot, "way")],
    role: share.role,
    label: LABELS[register.fact(slot, "label")],
    state: STATES[register.fact(slot, "state")],
    outside: register.fact(slot, "outside") === 1,
    latches: latchesOf(share, kind, store.capabilities, rules, waived),
    audience: register.audiences.get(register.audience[slot]),
    organisations: organisations.length === 0 ? [] : organisations.map((one) => principals.organisations[one]).sort(),
    expires: share.ends,
    lastUsed: share.lastUsed,
    isUseKnown: share.isUseKnown,
    made: share.made,
    maker: maker?.name ?? "",
    department: maker?.department ?? null,
    rules,
    waived,
    risk: LEVELS[register.fact(slot, "risk")] ?? null,
  };
}

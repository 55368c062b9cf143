import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { storeAt } from "../estate/estate";
import type { Kind, Label } from "../estate/records";
import { LABELS } from "../estate/records";
import { placeOf } from "../estate/tree";
import { isOnAt } from "../access/live";
import type { RuleId } from "../rules/catalogue";
import { DEFAULT_RULES, findings, type RuleSet } from "../rules/findings";
import { judge, type Judged } from "../rules/judging";
import { type Latches, latchesOf } from "../rules/latches";
import { type Level, LEVELS, riskOf } from "../rules/risk";
import type { Seconds } from "../time/instant";
import { audienceWords } from "./words";

/** How a share lets people in, as the register tells it. */
export const WAYS = ["open", "house", "named", "intake", "person", "group"] as const;
export type Way = (typeof WAYS)[number];

/** `waiting`: its start lies ahead. `spent`: past its end or its cap. `broken`: its target is gone. */
export const STATES = ["live", "waiting", "spent", "broken"] as const;
export type State = (typeof STATES)[number];

/** One share as the register shows and searches it. */
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
  addresses: string[];
  organisations: string[];
  expires: Seconds;
  lastUsed: Seconds | null;
  made: Seconds;
  maker: string;
  department: string | null;
  rules: RuleId[];
  risk: Level | null;
}

/** A row for every share that hasn't been revoked, in the order of the estate's shares. */
export function registerRows(estate: Estate, t: Seconds, rules: RuleSet = DEFAULT_RULES): RegisterRow[] {
  const judging = judge(estate, t);
  const broken = new Map<string, RuleId[]>();
  for (const { subject, rule } of findings(judging, rules)) broken.set(subject, [...(broken.get(subject) ?? []), rule]);
  return judging.shares
    .filter(({ share }) => share.revoked > t)
    .map((judged) => registerRow(estate, t, judged, broken));
}

function registerRow(estate: Estate, t: Seconds, judged: Judged, broken: Map<string, RuleId[]>): RegisterRow {
  const { share } = judged;
  const { tree } = estate;
  const kind = tree.kindAt(share.position);
  const store = storeAt(estate, share.position);
  const rules = broken.get(share.id) ?? [];
  const maker = estate.people[share.maker];
  return {
    id: share.id,
    storeId: store.id,
    storeName: store.name,
    itemId: share.itemId,
    itemName: tree.nameAt(share.position),
    itemKind: kind,
    place: placeOf(tree, share.position),
    way: wayOf(share),
    role: share.role,
    label: judged.worst ?? LABELS[tree.label[share.position]],
    state: stateOf(estate, share, t),
    outside: judged.outside,
    latches: latchesOf(share, kind, store.capabilities, rules),
    audience: audienceWords(estate, share),
    addresses: Array.from(share.people, (one) => estate.people[one].address),
    organisations: [...new Set(judged.outsiders.map((one) => estate.people[one].organisation))].sort(),
    expires: share.expires,
    lastUsed: share.lastUsed,
    made: share.made,
    maker: maker?.name ?? "",
    department: maker?.department ?? null,
    rules,
    risk: judged.outside ? riskOf(estate, share, t) : null,
  };
}

export function wayOf(share: Share): Way {
  if (share.role === "deposit") return "intake";
  if (share.isLink) return share.reach;
  return share.group >= 0 ? "group" : "person";
}

function stateOf(estate: Estate, share: Share, t: Seconds): State {
  if (!estate.tree.live[share.position]) return "broken";
  if (isOnAt(share, t)) return "live";
  return share.opens > t && share.expires > t && !share.spent ? "waiting" : "spent";
}

/** Where a risk stands in the order of risks; -1 for none. */
export function riskRank(risk: Level | null): number {
  return risk === null ? -1 : LEVELS.indexOf(risk);
}

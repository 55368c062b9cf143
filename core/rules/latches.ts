import { canEnd, canHavePassword, honoursBlock, type Latch } from "../changes/latches";
import type { Capabilities, Kind } from "../estate/records";
import type { Share } from "../estate/share";
import { NEVER } from "../time/instant";
import { type RuleId, ruleOf } from "./list";

/**
 * `shut`; `open`, and no rule objects; `demanded`: open, and a rule requires it shut; `impossible` in this
 * store; `waived`: a rule would require it shut, but there is a waiver.
 */
export const LATCH_STATES = ["shut", "open", "demanded", "impossible", "waived"] as const;
export type LatchState = (typeof LATCH_STATES)[number];
export type Latches = Record<Latch, LatchState>;

/** Which latch would have to be shut for a rule's finding. */
export function latchOf(rule: RuleId): Latch | undefined {
  const definition = ruleOf(rule);
  return definition.items ? undefined : definition.latch;
}

/** The state of each latch of a share, given the rules that it breaks without a waiver and with one. */
export function latchesOf(
  share: Share,
  kind: Kind,
  capabilities: Capabilities,
  broken: readonly RuleId[],
  waived: readonly RuleId[] = [],
): Latches {
  const state = (latch: Latch, isShut: boolean, canBeShut: boolean): LatchState => {
    if (broken.some((rule) => latchOf(rule) === latch)) return "demanded";
    if (waived.some((rule) => latchOf(rule) === latch)) return "waived";
    if (isShut) return "shut";
    return canBeShut ? "open" : "impossible";
  };
  const { isLink } = share;
  return {
    expiry: state("expiry", share.ends !== NEVER, canEnd(share, capabilities)),
    password: state("password", share.hasPassword, canHavePassword(share, capabilities)),
    download: state("download", !share.download, share.role !== "deposit" && honoursBlock("view", kind, capabilities)),
    named: state("named", !isLink || share.reach !== "open", share.role !== "deposit" && capabilities.namedLinks),
  };
}

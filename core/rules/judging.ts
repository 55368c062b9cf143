import { isLiveSlot, leadsOutside } from "../access/live";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { type Label, LABELS } from "../estate/records";
import { worstLabel } from "../estate/tree";
import type { Seconds } from "../time/instant";

/** What the rules ask again and again of a share at one instant, worked out once. */
export class Judged {
  constructor(
    readonly share: Share,
    readonly live: boolean,
    readonly outside: boolean,
    /** Null where it reaches nothing live. */
    readonly worst: Label | null,
  ) {}

  get outsiders(): Int32Array {
    return this.share.outsiders;
  }
}

/** The estate at the instant that is judged. */
export interface Moment {
  estate: Estate;
  t: Seconds;
}

export interface Judging extends Moment {
  shares: Judged[];
}

export function judge(estate: Estate, t: Seconds): Judging {
  return { estate, t, shares: Array.from(estate.allShares(), (share) => judgeShare({ estate, t }, share)) };
}

export function judgeShare({ estate, t }: Moment, share: Share): Judged {
  const { slot, position } = share;
  const worst = worstLabel(estate.tree, position, estate.tree.end[position]);
  const live = isLiveSlot(estate, slot, t);
  return new Judged(share, live, live && leadsOutside(estate, slot), worst < 0 ? null : LABELS[worst]);
}

export function isOpenLink({ share, live }: Judged): boolean {
  return live && share.audience === "open";
}

export function isIntakeLink({ share, live }: Judged): boolean {
  return live && share.role === "deposit";
}

/** A live outside share for people whom we can name. */
export function isNamedOutside(judged: Judged): boolean {
  return judged.outside && judged.share.audience !== "open";
}

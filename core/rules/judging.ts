import { isLiveSlot, leadsOutside } from "../access/live";
import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import type { Stance } from "../estate/records";
import type { Share } from "../estate/share";
import { type DayWords, dayWords } from "../text/words";
import type { Seconds } from "../time/instant";
import { Judged, type Judging, type Moment } from "./judged";
import { knownSkeletons, lookedLike } from "./lookAlike";
import { stanceOf } from "./parties";

class MomentOf implements Moment {
  private skeletons?: Map<string, string>;
  private marked?: Map<number, number>;

  constructor(
    readonly estate: Estate,
    readonly t: Seconds,
    readonly dayWords: DayWords,
  ) {}

  stanceOf(person: Person): Stance | undefined {
    return stanceOf(this.estate, person);
  }

  lookedLike(organisation: string): string | undefined {
    const like = lookedLike(organisation, (this.skeletons ??= knownSkeletons(this.estate)));
    return like !== undefined && this.estate.isSameFirm(organisation, like) ? undefined : like;
  }

  linksWithPassword(mark: number): number {
    return (this.marked ??= this.countMarks()).get(mark) ?? 0;
  }

  private countMarks(): Map<number, number> {
    const counts = new Map<number, number>();
    const { shares } = this.estate;
    for (let slot = 0; slot < shares.count; slot++) {
      const mark = shares.passwordMark[slot];
      if (mark > 0 && isLiveSlot(this.estate, slot, this.t)) counts.set(mark, (counts.get(mark) ?? 0) + 1);
    }
    return counts;
  }
}

/** @param days how days are written; in UTC by default */
export function momentOf(estate: Estate, t: Seconds, days: DayWords = dayWords): Moment {
  return new MomentOf(estate, t, days);
}

export function judge(estate: Estate, t: Seconds): Judging {
  const moment = momentOf(estate, t);
  let shares: Judged[] | undefined;
  return {
    moment,
    // Worked out when first asked for: rules on items do without.
    get shares() {
      return (shares ??= Array.from(estate.allShares(), (share) => judgeShare(moment, share)));
    },
  };
}

export function judgeShare({ estate, t }: Pick<Moment, "estate" | "t">, share: Share): Judged {
  const live = isLiveSlot(estate, share.slot, t);
  return new Judged(estate.tree, share, live, live && leadsOutside(estate, share.slot));
}

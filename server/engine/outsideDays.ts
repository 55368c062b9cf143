import { type OutsideCount, OutsideHistory } from "@/core/access/history";
import type { Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { beliefIn } from "../records/belief";
import { factsInPieces } from "../records/facts";

const MOST_KEPT = 2_000;

/** How many outside shares there were at past instants: each is counted once, until something comes that reaches it. */
export class OutsideDays {
  private readonly counted = new Map<Seconds, OutsideCount>();

  constructor(private readonly db: Db) {}

  async history(instants: readonly Seconds[]): Promise<OutsideCount[]> {
    const missing = instants.filter((at) => !this.counted.has(at));
    if (missing.length > 0) await this.count(missing);
    return instants.map((at) => this.counted.get(at)!);
  }

  /** @param since from when on counts may be others now */
  forget(since: Seconds) {
    for (const at of this.counted.keys()) if (at >= since) this.counted.delete(at);
  }

  private async count(instants: readonly Seconds[]) {
    const history = new OutsideHistory(
      [...instants].sort((a, b) => a - b),
      await beliefIn(this.db),
    );
    for await (const fact of factsInPieces(this.db)) history.take(fact);
    if (this.counted.size + instants.length > MOST_KEPT) this.counted.clear();
    for (const one of history.counts()) this.counted.set(one.at, one);
  }
}

import { isToldByDay, outsideByDay } from "@/core/access/days/outsideDays";
import { type OutsideCount, OutsideHistory } from "@/core/access/history";
import type { Estate } from "@/core/estate/estate";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { factsInPieces } from "../records/facts";
import { changesSince } from "../records/undo";

const MOST_KEPT = 2_000;

/** How many outside shares there were at past instants: each is counted once, until something comes that reaches it. */
export class OutsideDays {
  private readonly counted = new Map<Seconds, OutsideCount>();

  /** @param now the estate as it is now */
  constructor(
    private readonly db: Db,
    private readonly now: () => Promise<Estate>,
  ) {}

  async history(instants: readonly Seconds[]): Promise<OutsideCount[]> {
    const missing = instants.filter((at) => !this.counted.has(at)).sort((a, b) => a - b);
    if (missing.length > 0) await this.count(missing);
    return instants.map((at) => this.counted.get(at)!);
  }

  has(at: Seconds): boolean {
    return this.counted.has(at);
  }

  all(): OutsideCount[] {
    return [...this.counted.values()];
  }

  remember(counts: readonly OutsideCount[]) {
    for (const one of counts) this.counted.set(one.at, one);
  }

  /** @param since from when on counts may be others now */
  forget(since: Seconds) {
    for (const at of this.counted.keys()) if (at >= since) this.counted.delete(at);
  }

  private async count(instants: readonly Seconds[]) {
    const now = await this.now();
    const changes = await changesSince(this.db, rfc3339(instants[0]));
    const counts = isToldByDay(now, changes)
      ? outsideByDay(now, changes, instants)
      : await this.fromAllFacts(now, instants);
    if (this.counted.size + instants.length > MOST_KEPT) this.counted.clear();
    this.remember(counts);
  }

  private async fromAllFacts({ principals }: Estate, instants: readonly Seconds[]): Promise<OutsideCount[]> {
    const history = new OutsideHistory(instants, principals.belief);
    for await (const fact of factsInPieces(this.db)) history.take(fact);
    return history.counts();
  }
}

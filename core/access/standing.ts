import { Estate, type Forgettable, type Settled } from "../estate/estate";
import type { Sourced } from "../estate/believed";
import type { Seconds } from "../time/instant";
import { Exposures } from "./exposure";
import { WaysIn } from "./waysIn";

/** What has become of records: those that are new or changed, and those that are no more. */
export interface Patch {
  put: Iterable<Sourced>;
  removed: Iterable<Forgettable>;
}

/**
 * An estate with what is worked out from it, kept true as records come. What only concerns some shares is
 * worked out for those; what moves items or people, anew when it is asked for.
 */
export class Standing {
  private ways: WaysIn | undefined;
  private outside: Exposures | undefined;

  constructor(readonly estate: Estate = new Estate()) {}

  get waysIn(): WaysIn {
    return (this.ways ??= new WaysIn(this.estate));
  }

  /** What is open to the outside on every item at t. */
  outsideAt(t: Seconds): Exposures {
    this.outside ??= new Exposures(this.estate, "outside");
    return this.outside.isTrueAt(t) ? this.outside : this.outside.evaluate(t);
  }

  /** @returns what has changed */
  apply({ put, removed }: Patch): Settled {
    for (const record of removed) this.estate.remove(record);
    for (const record of put) this.estate.put(record);
    const settled = this.estate.settle();
    const { whole, shares } = settled;
    if (whole) {
      this.ways = undefined;
      this.outside?.renew();
    } else {
      for (const slot of shares) this.ways?.add(slot);
      if (shares.length > 0) this.outside?.update(shares);
    }
    return settled;
  }
}

import { z } from "zod";

/** What can be made to go wrong, for tests. */
export const faultSchema = z.strictObject({
  /** Milliseconds by which every answer is late; stays until it is set to 0. */
  slowMs: z.int().min(0).max(60_000).optional(),
  /** So many requests are answered with 500, nothing done. */
  errors: z.int().min(0).optional(),
  /** So many connections are dropped, nothing done. */
  drops: z.int().min(0).optional(),
  /** So many changes are carried out, and then the connection is dropped. */
  halfApplied: z.int().min(0).optional(),
  /** So many are answered with 429 and Retry-After, nothing done. */
  tooMany: z.int().min(0).optional(),
  /** Each so manieth request is answered with 500; stays until it is set to 0. */
  errorEvery: z.int().min(0).optional(),
  /** Each so manieth change is carried out, and then the connection is dropped; stays until it is set to 0. */
  halfAppliedEvery: z.int().min(0).optional(),
  /** For so long every connection is dropped. */
  downMs: z.int().min(0).max(600_000).optional(),
  /** For so long everything is answered with 429 and Retry-After. */
  stormMs: z.int().min(0).max(600_000).optional(),
  /** So many requests a second are borne. */
  perSecond: z.int().min(1).max(1_000_000).optional(),
});

type Set = z.infer<typeof faultSchema>;
type Counted = "errors" | "drops" | "halfApplied" | "tooMany";
type Every = "errorEvery" | "halfAppliedEvery";
type Span = "downMs" | "stormMs";

export class Faults {
  private readonly left: Required<Set> = {
    slowMs: 0,
    errors: 0,
    drops: 0,
    halfApplied: 0,
    tooMany: 0,
    errorEvery: 0,
    halfAppliedEvery: 0,
    downMs: 0,
    stormMs: 0,
    perSecond: 400,
  };
  private readonly seen: Record<Every, number> = { errorEvery: 0, halfAppliedEvery: 0 };
  private readonly until: Record<Span, number> = { downMs: 0, stormMs: 0 };

  get slowMs(): number {
    return this.left.slowMs;
  }

  get perSecond(): number {
    return this.left.perSecond;
  }

  set(faults: Set) {
    Object.assign(this.left, faults);
    for (const span of ["downMs", "stormMs"] as const)
      if (faults[span] !== undefined) this.until[span] = performance.now() + faults[span];
  }

  /** Whether this request is one that a fault was set for; uses it up. */
  strikes(fault: Counted): boolean {
    if (this.left[fault] === 0) return false;
    this.left[fault]--;
    return true;
  }

  /** Whether this request is one of those that a fault strikes again and again. */
  strikesAgain(fault: Every): boolean {
    return this.left[fault] > 0 && ++this.seen[fault] % this.left[fault] === 0;
  }

  /** Whether a fault that goes on for a time goes on. */
  goesOn(fault: Span): boolean {
    return performance.now() < this.until[fault];
  }
}

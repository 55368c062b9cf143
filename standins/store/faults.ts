import { z } from "zod";

/** What can be made to go wrong, for tests: each a number of requests that it will happen to. */
export const faultSchema = z.strictObject({
  /** Milliseconds by which every answer is late; stays until it is set to 0. */
  slowMs: z.int().min(0).max(60_000).optional(),
  /** Answered with 500, nothing done. */
  errors: z.int().min(0).optional(),
  /** The connection is dropped, nothing done. */
  drops: z.int().min(0).optional(),
  /** A change is carried out, and then the connection is dropped. */
  halfApplied: z.int().min(0).optional(),
  /** Answered with 429 and Retry-After, nothing done. */
  tooMany: z.int().min(0).optional(),
});

type Fault = keyof z.infer<typeof faultSchema>;

export class Faults {
  private readonly left: Required<z.infer<typeof faultSchema>> = {
    slowMs: 0,
    errors: 0,
    drops: 0,
    halfApplied: 0,
    tooMany: 0,
  };

  get slowMs(): number {
    return this.left.slowMs;
  }

  set(faults: z.infer<typeof faultSchema>) {
    Object.assign(this.left, faults);
  }

  /** Whether this request is one that the fault was set for; uses it up. */
  strikes(fault: Exclude<Fault, "slowMs">): boolean {
    if (this.left[fault] === 0) return false;
    this.left[fault]--;
    return true;
  }
}

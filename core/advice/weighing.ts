import type { Label } from "../estate/records";

/** What counts in the choice of what to shut first, in whole numbers: how bad it is that something is open, and what it costs to shut it. */
export interface Weighing {
  /** By label: how much it weighs that a file is open. */
  weights: Record<Label, number>;
  /** A share that was used within so many days is dearer to touch. */
  usedDays: number;
  prices: {
    end: number;
    /** More than `end`, for a share that was used lately. */
    endUsed: number;
    /** More than both, for a share that belongs to an engagement that runs. */
    endRunning: number;
    password: number;
    passwordUsed: number;
  };
}

export const STANDARD_WEIGHING: Weighing = {
  weights: { public: 0, internal: 1, confidential: 4, restricted: 16 },
  usedDays: 45,
  prices: { end: 1, endUsed: 4, endRunning: 16, password: 1, passwordUsed: 1 },
};

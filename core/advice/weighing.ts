import { z } from "zod";
import { LABELS } from "../estate/records";

const weight = z.int("A weight is a whole number.").min(0).max(1_000);
const more = z.int("A price is a whole number.").min(0).max(1_000);
const price = more.min(1, "A change costs at least 1.");

/**
 * What counts in the choice of what to shut first, in whole numbers: how bad it is that something is open, and what it
 * costs to shut it. A password, which is a part of an end, never costs more than that.
 */
export const weighingSchema = z
  .strictObject({
    /** By label: how much an open file weighs. */
    weights: z.record(z.enum(LABELS), weight),
    /** A share that was used within this many days costs more to change. */
    usedDays: z.int("Days are a whole number.").min(1).max(3_650),
    prices: z.strictObject({
      end: price,
      /** More than `end`, for a share that was used lately. */
      endUsed: more,
      /** More than both, for a share that belongs to an engagement that runs. */
      endRunning: more,
      password: price,
      passwordUsed: more,
    }),
  })
  .refine(
    ({ prices }) =>
      prices.password <= prices.end && prices.password + prices.passwordUsed <= prices.end + prices.endUsed,
    { error: "A password can't cost more than ending the link: make it cheaper, or the end dearer.", path: ["prices"] },
  )
  .refine(({ weights }) => LABELS.some((label) => weights[label] > 0), {
    error: "At least one label has to weigh something.",
    path: ["weights"],
  });
export type Weighing = z.infer<typeof weighingSchema>;

export const STANDARD_WEIGHING: Weighing = {
  weights: { public: 0, internal: 1, confidential: 4, restricted: 16 },
  usedDays: 45,
  prices: { end: 1, endUsed: 4, endRunning: 16, password: 1, passwordUsed: 1 },
};

import { z } from "zod";
import { operations } from "./operation";

const setting = z.object({ on: z.boolean(), most: z.int().min(1).max(100_000) });
export type ClearingSetting = z.infer<typeof setting>;

export const clearingOperations = operations({
  /** Links that are over, by store; how many there were month by month; and whether they are cleared by themselves. */
  overLinks: {
    method: "GET",
    path: "/api/clearing",
    may: "read",
    answer: z.object({
      over: z.array(z.object({ store: z.string(), broken: z.number(), spent: z.number() })),
      trend: z.array(z.object({ at: z.number(), stores: z.record(z.string(), z.number()) })),
      live: z.number(),
      unusedForAYear: z.number(),
      setting,
      /** When they are cleared next, where they are. */
      next: z.number().nullable(),
      months: z.array(z.object({ month: z.string(), docketId: z.string().nullable(), links: z.number() })),
    }),
  },
  setClearing: {
    method: "PUT",
    path: "/api/clearing",
    may: "change",
    fresh: true,
    body: setting,
    answer: z.object({}),
  },
});

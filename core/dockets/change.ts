import { z } from "zod";

/** One change to one share, as it is staged, kept and sent to a store. */
export const changeSchema = z.discriminatedUnion("action", [
  z.object({ action: z.literal("revoke"), shareId: z.string().min(1) }),
  z.object({
    action: z.literal("set-expiry"),
    shareId: z.string().min(1),
    expiresAt: z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-01T17:00:00Z" }),
  }),
]);
export type Change = z.infer<typeof changeSchema>;

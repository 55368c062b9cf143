import { z } from "zod";
import { answered } from "@/server/http/answering";
import { showToOwner } from "@/server/rules/answers";

const given = z.object({ token: z.string().max(500), change: z.string().max(100) });

/** The passphrase that an owner's own answer set, once. */
export const POST = answered(given, async ({ letter, body, app }) => ({
  passphrase: await showToOwner(app, letter, body.change),
}));

import { answered } from "@/server/http/answering";
import { askedBy } from "@/server/rules/answers";
import { z } from "zod";

const given = z.object({ token: z.string().max(500) });

/** What a letter asks, for whoever holds its address. The address goes in the body, where no log keeps it. */
export const POST = answered(given, ({ letter, app }) => askedBy(app, letter));

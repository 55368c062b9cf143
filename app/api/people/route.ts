import { guarded } from "@/server/auth/guard";
import { signIns } from "@/server/auth/people";

export const GET = guarded("read", async ({ db }) => ({ people: await signIns(db) }));

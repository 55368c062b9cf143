import { guarded } from "@/server/http/guard";
import { signIns } from "@/server/people/people";

export const GET = guarded("read", async ({ db }) => ({ people: await signIns(db) }));

import { guarded } from "@/server/auth/guard";
import { deskFor } from "@/server/desk";

/** Says also that somebody looks now. */
export const POST = guarded("keep", ({ db, actor }) => deskFor(db, actor.email));

import { guarded } from "@/server/http/guard";
import { deskFor } from "@/server/desk/desk";

/** Says also that somebody looks now. */
export const POST = guarded("keep", ({ actor, app }) => deskFor(app, actor.email));

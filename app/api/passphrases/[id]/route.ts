import { guarded } from "@/server/http/guard";
import { showOnce } from "@/server/dockets/passphrases";

/** The passphrase that a change set, once, for whoever hands it over. */
export const POST = guarded<{ id: string }>("change", async ({ actor, params, app }) => ({
  passphrase: await showOnce(app, params.id, actor.email),
}));

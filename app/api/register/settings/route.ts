import { bodyOf, guarded } from "@/server/http/guard";
import { lookedAtRegister, registerSettingsSchema, setRegister } from "@/server/register/settings";

/** Says also that somebody looks now. */
export const POST = guarded("keep", ({ db, actor }) => lookedAtRegister(db, actor.email));

export const PUT = guarded("keep", async ({ request, db, actor }) => {
  await setRegister(db, actor.email, await bodyOf(request, registerSettingsSchema));
  return {};
});

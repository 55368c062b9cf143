import type { Platform } from "../platform/platform";
import { policy } from "./policy";

/** By what people can sign in here: told to whoever sees the page. */
export async function waysToSignIn({ db, settings }: Platform) {
  const { passwordsOff } = await policy(db);
  return { passwordsOff, singleSignOn: settings.singleSignOn?.name ?? null };
}

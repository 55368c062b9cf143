import type { Platform } from "../platform/platform";
import { policy } from "./policy";

/** The ways in which people can sign in here, for the sign-in page. */
export async function waysToSignIn({ db, settings }: Platform) {
  const { passwordsOff } = await policy(db);
  return { passwordsOff, singleSignOn: settings.singleSignOn?.name ?? null };
}

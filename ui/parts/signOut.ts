import { askSignIn } from "./ask";
import { leaveTo } from "./leaveTo";

/** Ends this session, and goes to where one signs in. */
export async function signOut() {
  await askSignIn("signOut", {});
  leaveTo("/sign-in");
}

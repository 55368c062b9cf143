"use client";

import { leaveTo } from "../parts/leaveTo";
import { Notice } from "../parts/Notice";
import { EntrySheet } from "./EntrySheet";
import { SignInForm, type Ways } from "./SignInForm";

/** @param refusal why single sign-on has sent somebody back, as the address tells it */
export function SignInScreen({ ways, refusal }: { ways: Ways; refusal: string | null }) {
  return (
    <EntrySheet title="Sign in">
      {refusal && <Notice tone="wrong">{refusal}</Notice>}
      <SignInForm {...ways} onDone={() => leaveTo("/register")} />
    </EntrySheet>
  );
}

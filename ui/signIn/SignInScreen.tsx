"use client";

import { leaveTo, screenIn } from "../parts/leaveTo";
import { Notice } from "../parts/Notice";
import { EntrySheet } from "./EntrySheet";
import { SignInForm, type Ways } from "./SignInForm";

interface Props {
  ways: Ways;
  /** Why single sign-on has sent somebody back, as the address tells it. */
  refusal: string | null;
  /** The screen that somebody wanted, as the address names it. */
  to: string | null;
}

export function SignInScreen({ ways, refusal, to }: Props) {
  return (
    <EntrySheet title="Sign in">
      {refusal && <Notice tone="wrong">{refusal}</Notice>}
      <SignInForm {...ways} to={screenIn(to)} onDone={() => leaveTo(screenIn(to))} />
    </EntrySheet>
  );
}

"use client";

import { type FormEvent, useState } from "react";
import { askSignIn, type RequestFailure } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { leaveTo } from "../parts/leaveTo";
import { Notice } from "../parts/Notice";
import { EntrySheet } from "./EntrySheet";

const REFUSALS: Record<number, string> = {
  401: "The address or the password is not right.",
  429: "Too many tries. Wait a minute, then try again.",
};

export function SignInScreen() {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function signIn(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    try {
      await askSignIn("signIn", { email: form.get("email"), password: form.get("password") });
      leaveTo("/register");
    } catch (error) {
      const { status, message } = error as RequestFailure;
      setProblem(REFUSALS[status] ?? message);
      setBusy(false);
    }
  }

  return (
    <EntrySheet title="Sign in">
      <form onSubmit={signIn}>
        <Field label="E-mail address" name="email" type="email" autoComplete="username" required autoFocus />
        <Field label="Password" name="password" type="password" autoComplete="current-password" required />
        {problem && <Notice tone="wrong">{problem}</Notice>}
        <Button type="submit" look="act" disabled={busy} className="mt-3 h-9">
          Sign in
        </Button>
      </form>
    </EntrySheet>
  );
}

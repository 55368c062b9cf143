"use client";

import { startAuthentication } from "@simplewebauthn/browser";
import { type FormEvent, useState } from "react";
import { askSignIn, RequestFailure } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";

export interface Ways {
  /** Nobody signs in by password here. */
  passwordsOff: boolean;
  /** What single sign-on is called, where there is any. */
  singleSignOn: string | null;
}

interface Props extends Ways {
  /** Who signs in again; left out, whoever says who they are. */
  email?: string;
  /** Where a provider leads back to, by way of our own page; the screen one is on where it is left out. */
  to?: string;
  onDone: () => void;
}

type Step = "password" | "code" | "recovery";

const REFUSALS: Record<Step, string> = {
  password: "The address or password is wrong.",
  code: "That code is wrong.",
  recovery: "That isn’t one of your recovery codes, or it has been used.",
};

/** All ways to sign in: by password, with a code after it where somebody has them, by passkey, by single sign-on. */
export function SignInForm({ email, to, onDone, passwordsOff, singleSignOn }: Props) {
  const [step, setStep] = useState<Step>("password");
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);

  async function trying(work: () => Promise<void>) {
    setBusy(true);
    setProblem(undefined);
    try {
      await work();
    } catch (error) {
      setProblem(wordsOf(error, step));
    }
    setBusy(false);
  }

  const byPassword = (given: FormData) =>
    trying(async () => {
      const body = { email: email ?? given.get("email"), password: given.get("password") };
      const answer = (await askSignIn("signIn", body)) as { twoFactorRedirect?: boolean };
      if (answer.twoFactorRedirect) setStep("code");
      else onDone();
    });
  const byCode = (given: FormData) =>
    trying(async () => {
      const code = String(given.get("code")).replace(/\s/g, "");
      await askSignIn(step === "code" ? "giveCode" : "giveRecoveryCode", { code });
      onDone();
    });
  const byPasskey = () =>
    trying(async () => {
      const optionsJSON = (await askSignIn("askForPasskey")) as Parameters<
        typeof startAuthentication
      >[0]["optionsJSON"];
      const response = await startAuthentication({ optionsJSON });
      await askSignIn("givePasskey", { response });
      onDone();
    });
  const elsewhere = () =>
    trying(async () => {
      const screen = to ?? window.location.pathname + window.location.search;
      const callbackURL = `/welcome-back?to=${encodeURIComponent(screen)}`;
      const back = { callbackURL, errorCallbackURL: "/sign-in" };
      const { url } = (await askSignIn("signInElsewhere", { provider: "house", ...back })) as { url: string };
      window.location.assign(url);
    });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    void (step === "password" ? byPassword(given) : byCode(given));
  };

  return (
    // What is sent before the page's script runs must not stand in the address.
    <form method="post" onSubmit={submit} key={step}>
      {step === "password" && !passwordsOff && <PasswordFields email={email} />}
      {step === "code" && (
        <Field
          label="Code"
          name="code"
          inputMode="numeric"
          autoComplete="one-time-code"
          pattern="[0-9 ]{6,8}"
          required
          autoFocus
          hint="The six digits your authenticator app shows now."
        />
      )}
      {step === "recovery" && (
        <Field label="Recovery code" name="code" autoComplete="off" required autoFocus hint="Each works once." />
      )}
      {problem && <Notice tone="wrong">{problem}</Notice>}
      <div className="mt-3 flex flex-wrap gap-2">
        {(step !== "password" || !passwordsOff) && (
          <Button type="submit" look="act" disabled={isBusy} className="h-9">
            {email === undefined ? "Sign in" : "Sign in again"}
          </Button>
        )}
        {step === "password" && (
          <Button className="h-9" disabled={isBusy} onClick={byPasskey}>
            Use a passkey
          </Button>
        )}
        {step === "password" && singleSignOn && (
          <Button className="h-9" disabled={isBusy} onClick={elsewhere}>
            Use {singleSignOn}
          </Button>
        )}
        {step === "code" && (
          <Button className="h-9" onClick={() => setStep("recovery")}>
            Use a recovery code
          </Button>
        )}
        {step !== "password" && (
          <Button className="h-9" onClick={() => setStep("password")}>
            Start over
          </Button>
        )}
      </div>
    </form>
  );
}

function PasswordFields({ email }: { email?: string }) {
  return (
    <>
      {email === undefined ? (
        <Field label="E-mail address" name="email" type="email" autoComplete="username" required autoFocus />
      ) : (
        <input type="hidden" name="email" autoComplete="username" value={email} />
      )}
      <Field
        label="Password"
        name="password"
        type="password"
        autoComplete="current-password"
        required
        autoFocus={email !== undefined}
      />
    </>
  );
}

function wordsOf(error: unknown, step: Step): string {
  if (!(error instanceof RequestFailure)) return "No passkey was used.";
  return error.status === 401 ? REFUSALS[step] : error.message;
}

"use client";

import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { peopleOperations, type Self } from "@/contract/people";
import { SignInAgain } from "../frame/SignInAgain";
import { Brand } from "../frame/Brand";
import { asked } from "../parts/ask";
import { DateSettingsContext } from "../parts/useDates";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { signOut } from "../parts/signOut";
import { Notice } from "../parts/Notice";
import type { Ways } from "../signIn/SignInForm";
import { CodesPart } from "./CodesPart";
import { PasskeysPart } from "./PasskeysPart";
import { PasswordPart } from "./PasswordPart";
import { DatesPart } from "./DatesPart";
import { SelfPart } from "./SelfPart";
import { SessionsPart } from "./SessionsPart";

interface Props {
  ways: Ways;
  /** They must set up a second factor before they can do anything else. */
  lacksFactor: boolean;
  seesConsole: boolean;
}

/** One's own account: name, password, second factor, sessions. */
export function AccountScreen(props: Props) {
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: false } } }));
  return (
    <QueryClientProvider client={client}>
      <div className="min-h-dvh bg-raised">
        <Head isAway={props.seesConsole && !props.lacksFactor} />
        <main className="mx-auto max-w-2xl px-4 py-6 sm:px-8">
          <h1 className="text-[22px] font-semibold">Your account</h1>
          <Account {...props} />
        </main>
      </div>
    </QueryClientProvider>
  );
}

function Head({ isAway }: { isAway: boolean }) {
  return (
    <header className="on-band flex items-center gap-4 bg-band px-3.5 leading-10 text-band-ink">
      <Brand />
      <span className="grow" />
      {isAway && <Link href="/desk">Back to the Desk</Link>}
      <button type="button" onClick={signOut}>
        Sign out
      </button>
    </header>
  );
}

function Account({ ways, lacksFactor }: Props) {
  const { data: self, error } = useQuery(asked(peopleOperations.self));
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!self) return <Loading />;
  return (
    <DateSettingsContext value={self.dates}>
      {lacksFactor && <FactorMissing self={self} />}
      <SelfPart self={self} />
      <DatesPart />
      <PasskeysPart self={self} />
      {self.hasPassword && !ways.passwordsOff && <CodesPart self={self} />}
      {self.hasPassword && !ways.passwordsOff && <PasswordPart self={self} />}
      <SessionsPart self={self} />
      <SignInAgain email={self.email} ways={ways} />
    </DateSettingsContext>
  );
}

function FactorMissing({ self }: { self: Self }) {
  return (
    <div className="mt-3">
      <Notice tone="wrong">
        {self.passkeys.length > 0
          ? "Your role needs a second factor: sign out, then sign in with your passkey."
          : "Your role needs a second factor. Add a passkey or codes from an authenticator app to get to everything else."}
      </Notice>
      {self.passkeys.length > 0 && (
        <Button look="act" className="mt-2" onClick={signOut}>
          Sign out
        </Button>
      )}
    </div>
  );
}

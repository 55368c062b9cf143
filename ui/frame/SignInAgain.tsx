"use client";

import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { onSignInAgain } from "../parts/ask";
import { Button } from "../parts/Button";
import { SignInForm, type Ways } from "../signIn/SignInForm";

/** Asks for a sign-in where the last one is too long ago for what somebody wants to do; then that is done. */
export function SignInAgain({ email, ways }: { email: string; ways: Ways }) {
  const [isOpen, setOpen] = useState(false);
  const answer = useRef<(isDone: boolean) => void>(undefined);
  useEffect(
    () =>
      onSignInAgain(() => {
        setOpen(true);
        return new Promise((resolve) => (answer.current = resolve));
      }),
    [],
  );
  const end = (isDone: boolean) => {
    setOpen(false);
    answer.current?.(isDone);
  };
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && end(false)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content className="fixed right-0 bottom-0 left-0 z-40 border-t-4 border-verdigris bg-raised px-8 py-6 text-ink">
          <Dialog.Title className="text-[20px] font-semibold">Sign in again</Dialog.Title>
          <Dialog.Description className="mt-1 mb-3 max-w-xl text-ink-soft">
            This change is large or loosens access, and you signed in more than 15 minutes ago. Nothing has been done
            yet.
          </Dialog.Description>
          <div className="max-w-sm">
            <SignInForm {...ways} email={email} onDone={() => end(true)} />
          </div>
          <Button className="mt-3" onClick={() => end(false)}>
            Cancel
          </Button>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

"use client";

import { useMutation } from "@tanstack/react-query";
import { Button } from "./Button";
import { Notice } from "./Notice";

/** A passphrase that waits to be handed over: it is shown once, and then gone. */
export function ShowOnce({ show }: { show: () => Promise<{ passphrase: string }> }) {
  const shown = useMutation({ mutationFn: show });
  if (shown.data)
    return (
      <span className="block">
        <code className="font-mono text-[15px] select-all">{shown.data.passphrase}</code>
        <span className="block text-[12px] text-ink-faint">
          Hand it over separately from the link. It won’t be shown again.
        </span>
      </span>
    );
  return (
    <span className="block">
      <Button onClick={() => shown.mutate()}>Show the passphrase once</Button>
      {shown.error && <Notice tone="wrong">{shown.error.message}</Notice>}
    </span>
  );
}

"use client";

import { useState } from "react";
import { alertsOperations } from "@/contract/alerts";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Loading } from "../parts/Loading";
import { useFragment } from "../parts/useFragment";
import { Notice } from "../parts/Notice";

/** Where a mail leads: one thing can be done here, by whoever holds the mail. */
export function SeenScreen() {
  const token = useFragment();
  return (
    <main className="mx-auto max-w-lg px-5 py-16">
      {token === null ? <Loading /> : <Seen key={token} token={token} />}
    </main>
  );
}

function Seen({ token }: { token: string }) {
  const [state, setState] = useState<"asked" | "done" | Error>("asked");
  const mark = () =>
    ask(alertsOperations.seeByMail, { body: { token } }).then(
      () => setState("done"),
      (error: Error) => setState(error),
    );
  return (
    <>
      <h1 className="mb-3 text-[22px] font-semibold">An alert of Tight Latch</h1>
      {state === "done" ? (
        <Notice>Marked as seen. There is nothing more to do here.</Notice>
      ) : (
        <>
          <p className="mb-4">Others will see that somebody has looked at it. To do more, sign in.</p>
          <Button look="act" onClick={mark}>
            Mark it as seen
          </Button>
        </>
      )}
      {state instanceof Error && <Notice tone="wrong">{state.message}</Notice>}
    </>
  );
}

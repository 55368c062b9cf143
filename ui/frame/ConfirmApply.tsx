"use client";

import { AlertDialog } from "radix-ui";
import { useEffect, useState } from "react";
import type { Preview } from "@/core/preview/preview";
import { previewWords } from "@/core/preview/previewWords";
import { MOST_NAME } from "@/contract/dockets";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { countWords } from "../parts/words";
import type { Confirmed } from "./useTray";

/** A docket's preview, and the digest of its changes. */
interface Shown {
  preview: Preview;
  count: number;
  digest: string;
  name: string | null;
  reason?: string | null;
  needsReason: boolean;
}

interface Props {
  shown: Shown;
  /** What the button does, if not simply apply. */
  act?: string;
  apply: (confirmed: Confirmed) => void;
}

const MOST_NAMED = 3;

function namesOf(reopened: Preview["reopened"]): string {
  const named = reopened.slice(0, MOST_NAMED).map(({ itemName, until }) => `${itemName} until ${until}`);
  const more = reopened.length - named.length;
  return `${named.join(", ")}${more > 0 ? `, and ${more} more` : ""}`;
}

/** Asks once more before a docket is applied, and says what can't be undone. */
export function ConfirmApply({ shown, act = "Apply", apply }: Props) {
  // The question stays about what it was when it was asked, whatever changes meanwhile.
  const [asked, setAsked] = useState<Shown | null>(null);
  const [isConfirmed, setConfirmed] = useState(false);
  const [called, setCalled] = useState<{ name?: string; reason?: string }>({});
  const { preview, count, digest, needsReason } = asked ?? shown;
  const name = called.name ?? shown.name ?? "";
  const reason = called.reason ?? shown.reason ?? "";
  const hasChanged = digest !== shown.digest;
  const possible = Object.values(preview.counts).reduce((sum, one) => sum + one, 0);
  const labelOf = (count: number) => `${act} ${countWords(count, "change")}`;
  const reopened = preview.reopened.length;
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) setAsked((asked) => asked ?? shown);
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [shown]);
  return (
    <AlertDialog.Root
      open={asked !== null}
      onOpenChange={(isOpen) => {
        setAsked(isOpen ? shown : null);
        setConfirmed(false);
        setCalled({});
      }}
    >
      <AlertDialog.Trigger
        title="Ctrl and Enter"
        className="h-7 rounded-[3px] bg-band-act px-3.5 font-semibold whitespace-nowrap text-band-on-act"
      >
        {labelOf(shown.count)}
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <AlertDialog.Content className="fixed right-0 bottom-[42px] left-0 z-30 max-h-[calc(100dvh-42px)] overflow-y-auto border-t-4 border-oxide bg-raised px-8 py-6 text-ink">
          <AlertDialog.Title className="text-[20px] font-semibold">{labelOf(count)}, now?</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2 max-w-3xl space-y-1.5">
              {hasChanged && (
                <p role="alert" className="font-semibold text-oxide">
                  The docket has changed since you opened this: it now has {countWords(shown.count, "change")}. Nothing
                  has been applied. Close this and look at the preview again.
                </p>
              )}
              <p>{previewWords(preview)}</p>
              {preview.addressesStopping > 0 && (
                <p className="text-oxide">
                  {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good. A share
                  can be made again, but with a new address that has to be sent again.
                </p>
              )}
              {reopened > 0 && (
                <label className="flex items-start gap-2 font-semibold text-oxide">
                  <input
                    type="checkbox"
                    className="mt-1"
                    checked={isConfirmed}
                    onChange={(event) => setConfirmed(event.target.checked)}
                  />
                  <span>
                    Open {countWords(reopened, "ended share")} again: {namesOf(preview.reopened)}
                  </span>
                </label>
              )}
              {possible === 0 && (
                <p>None of these can be done in their store. They will be skipped, with the reason.</p>
              )}
            </div>
          </AlertDialog.Description>
          <div className="mt-4 grid max-w-3xl gap-x-6 sm:grid-cols-2">
            <Field
              label="Name of the docket"
              hint="Shown in lists, in mails to owners and in the ledger."
              placeholder="Old links of the spring tour"
              maxLength={MOST_NAME}
              value={name}
              onChange={(event) => setCalled({ ...called, name: event.target.value })}
            />
            <Field
              label={needsReason ? "Reason" : "Reason (optional)"}
              hint="Shown to the people concerned, and recorded in the ledger."
              maxLength={1_000}
              required={needsReason}
              value={reason}
              onChange={(event) => setCalled({ ...called, reason: event.target.value })}
            />
          </div>
          <div className="mt-2 flex gap-3">
            <AlertDialog.Cancel asChild>
              <Button>Cancel</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button
                look="end"
                disabled={hasChanged || (reopened > 0 && !isConfirmed) || (needsReason && reason.trim() === "")}
                onClick={() => apply({ digest, reopened, ...(name && { name }), ...(reason && { reason }) })}
              >
                {labelOf(count)}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

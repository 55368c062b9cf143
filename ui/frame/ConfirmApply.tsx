"use client";

import { AlertDialog } from "radix-ui";
import { useEffect, useState } from "react";
import type { Preview } from "@/core/dockets/preview";
import { previewWords } from "@/core/dockets/previewWords";
import { Button } from "../parts/Button";
import { countWords } from "../parts/words";

interface Props {
  preview: Preview;
  count: number;
  /** What the button does, where that is more or less than to apply. */
  act?: string;
  apply: () => void;
}

/** Asks once more before a docket is applied, and says what can't be undone. */
export function ConfirmApply({ preview, count, act = "Apply", apply }: Props) {
  const possible = Object.values(preview.counts).reduce((sum, one) => sum + one, 0);
  const label = `${act} ${countWords(count, "change")}`;
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) setOpen(true);
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, []);
  return (
    <AlertDialog.Root open={isOpen} onOpenChange={setOpen}>
      <AlertDialog.Trigger
        title="Ctrl and Enter"
        className="h-7 rounded-[3px] bg-band-act px-3.5 font-semibold whitespace-nowrap text-band-on-act"
      >
        {label}
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <AlertDialog.Content className="fixed right-0 bottom-[42px] left-0 z-30 border-t-4 border-oxide bg-raised px-8 py-6 text-ink">
          <AlertDialog.Title className="text-[20px] font-semibold">{label}, now?</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2 max-w-3xl space-y-1.5">
              <p>{previewWords(preview)}</p>
              {preview.addressesStopping > 0 && (
                <p className="text-oxide">
                  {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good. A share
                  can be made anew, but with a new address that has to be sent anew.
                </p>
              )}
              {possible === 0 && (
                <p>None of these can be done in its store. They will be set aside, with the reason.</p>
              )}
            </div>
          </AlertDialog.Description>
          <div className="mt-5 flex gap-3">
            <AlertDialog.Cancel asChild>
              <Button>Keep everything as it is</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button look="end" onClick={apply}>
                {label}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

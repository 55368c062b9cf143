"use client";

import { Dialog } from "radix-ui";
import type { FormEvent, ReactNode } from "react";
import { Button } from "./Button";
import { focusListIfLost } from "./focusList";

interface Props {
  title: string;
  description: string;
  /** What the button says that does it. */
  act: string;
  isOpen: boolean;
  isBusy?: boolean;
  onClose: () => void;
  onAct: () => void;
  children: ReactNode;
}

/** Asks for something at the foot of the window, over the tray: what is asked about stays in sight. */
export function Sheet({ title, description, act, isOpen, isBusy, onClose, onAct, children }: Props) {
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onAct();
  };
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Dialog.Content
          // Opened by a key, it has no button to go back to.
          onCloseAutoFocus={() => setTimeout(focusListIfLost)}
          className="fixed right-0 bottom-[42px] left-0 z-30 max-h-[calc(100dvh-42px)] overflow-y-auto border-t-4 border-verdigris bg-raised px-8 py-6"
        >
          <Dialog.Title className="text-[20px] font-semibold">{title}</Dialog.Title>
          <Dialog.Description className="mt-1 text-ink-soft">{description}</Dialog.Description>
          <form onSubmit={submit} className="mt-4 flex flex-wrap items-end gap-x-6">
            {children}
            <div className="mb-3 flex gap-2">
              <Dialog.Close asChild>
                <Button>Cancel</Button>
              </Dialog.Close>
              <Button type="submit" look="act" disabled={isBusy}>
                {act}
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

"use client";

import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { countWords } from "../parts/words";

interface Props {
  count: number;
  now: Seconds;
  isOpen: boolean;
  onClose: () => void;
  /** The last second of the chosen day, in UTC. */
  onChoose: (expiresAt: string) => void;
}

const SPANS = [7, 14, 30, 90];
const dayOf = (at: Seconds) => rfc3339(at).slice(0, 10);

/** Asks for the day on which shares shall end. */
export function EndDateDialog({ count, now, isOpen, onClose, onChoose }: Props) {
  const [day, setDay] = useState(dayOf(now + 30 * DAY));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onChoose(`${day}T23:59:59Z`);
  };
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Dialog.Content className="fixed right-0 bottom-[42px] left-0 z-30 border-t-4 border-verdigris bg-raised px-8 py-6">
          <Dialog.Title className="text-[20px] font-semibold">
            When shall {countWords(count, "share")} end?
          </Dialog.Title>
          <Dialog.Description className="mt-1 text-ink-soft">
            Nothing happens yet: it goes into the tray, and the preview says what each store can do.
          </Dialog.Description>
          <form onSubmit={submit} className="mt-4 flex items-end gap-6">
            <div className="w-48">
              <Field
                label="Last day"
                type="date"
                min={dayOf(now)}
                value={day}
                onChange={(event) => setDay(event.target.value)}
                required
              />
            </div>
            <div className="mb-3 flex gap-2">
              {SPANS.map((span) => (
                <Button
                  key={span}
                  onClick={() => setDay(dayOf(now + span * DAY))}
                  aria-pressed={day === dayOf(now + span * DAY)}
                >
                  In {span} days
                </Button>
              ))}
            </div>
            <div className="mb-3 flex gap-2">
              <Dialog.Close asChild>
                <Button>Cancel</Button>
              </Dialog.Close>
              <Button type="submit" look="act">
                Stage the end date
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

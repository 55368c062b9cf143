"use client";

import { useState } from "react";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Sheet } from "../parts/Sheet";
import { countWords } from "../parts/words";

interface Props {
  count: number;
  now: Seconds;
  onClose: () => void;
  /** The last second of the chosen day, in UTC; and whether it may come later than the end that there is. */
  onChoose: (expiresAt: string, later: boolean) => void;
}

const SPANS = [7, 14, 30, 90];
const dayOf = (at: Seconds) => rfc3339(at).slice(0, 10);

/** Asks for the day on which shares shall end. */
export function EndDateDialog({ count, now, onClose, onChoose }: Props) {
  const [later, setLater] = useState(false);
  const [day, setDay] = useState(dayOf(now + 30 * DAY));
  return (
    <Sheet
      isOpen
      title={`End date for ${countWords(count, "share")}`}
      description="Nothing happens yet: it goes into the tray. Where a store keeps no such end, Tight Latch revokes the share on the day."
      act="Stage the end date"
      onClose={onClose}
      onAct={() => onChoose(`${day}T23:59:59Z`, later)}
    >
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
      {count === 1 ? (
        <label className="mb-3 flex h-9 items-center gap-2">
          <input type="checkbox" checked={later} onChange={(event) => setLater(event.target.checked)} />
          Use this date even if the share ends sooner now, or has ended
        </label>
      ) : (
        <p className="mb-3 text-ink-soft">Shares that end sooner, or have ended, stay as they are.</p>
      )}
    </Sheet>
  );
}

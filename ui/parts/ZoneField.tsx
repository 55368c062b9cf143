"use client";

import { useState } from "react";
import { Combobox } from "./Combobox";
import { findZones, offsetWords } from "./zones";

interface Props {
  label?: string;
  isLabelHidden?: boolean;
  value: string;
  onValue: (zone: string) => void;
  className?: string;
}

/** A time zone, found by a place in it: `Berlin` is Europe/Berlin. */
export function ZoneField({ label = "Time zone", isLabelHidden, value, onValue, className }: Props) {
  const [text, setText] = useState<string | null>(null);
  const zones = text === null ? [] : findZones(text);
  return (
    <Combobox
      {...{ label, isLabelHidden, value, text, className }}
      placeholder="A city, such as Berlin"
      onText={setText}
      choices={zones.map((zone) => ({ id: zone, words: zone, more: offsetWords(zone) }))}
      onPick={(choice) => choice && onValue(choice.id)}
      hint={text?.trim() && zones.length === 0 ? "No time zone has that name. Try the nearest large city." : undefined}
    />
  );
}

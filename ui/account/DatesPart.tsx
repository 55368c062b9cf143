import { useState } from "react";
import { peopleOperations } from "@/contract/people";
import { DATE_STYLES, type DateSettings, type DateStyle, momentIn, WEEK_STARTS } from "@/core/time/style";
import { seconds } from "@/core/time/instant";
import { ask } from "../parts/ask";
import { useDates } from "../parts/useDates";
import { ZoneField } from "../parts/ZoneField";
import { Part } from "./Part";
import { SaveRow } from "./SaveRow";
import { useSelf } from "./useSelf";

const SELECT = "h-9 w-full rounded-[3px] border border-control bg-raised px-1";
const EXAMPLE = seconds("2026-12-24T14:30:00Z");
const DAY_WORDS: Record<DateSettings["weekStart"], string> = { 0: "Sunday", 1: "Monday", 6: "Saturday" };

/** Time zone and style of times; the browser's until one is chosen. */
export function DatesPart() {
  const [settings, setSettings] = useState(useDates().settings);
  const save = useSelf((body: DateSettings) => ask(peopleOperations.setDates, { body }));
  const set = (part: Partial<DateSettings>) => {
    save.reset();
    setSettings({ ...settings, ...part });
  };
  return (
    <Part title="Dates and times" about="Used on every screen. Exports, mails and the ledger are in UTC and say so.">
      <form
        className="max-w-sm"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(settings);
        }}
      >
        <ZoneField value={settings.zone} onValue={(zone) => set({ zone })} className="mb-3 w-full" />
        <label className="mb-3 block">
          <span className="mb-1 block font-semibold">Date format</span>
          <select
            value={settings.style}
            onChange={(event) => set({ style: event.target.value as DateStyle })}
            className={SELECT}
          >
            {DATE_STYLES.map((style) => (
              <option key={style} value={style}>
                {momentIn({ ...settings, style, zone: "UTC" }, EXAMPLE)}
              </option>
            ))}
          </select>
        </label>
        <label className="mb-3 block">
          <span className="mb-1 block font-semibold">First day of the week</span>
          <select
            value={settings.weekStart}
            onChange={(event) => set({ weekStart: Number(event.target.value) as DateSettings["weekStart"] })}
            className={SELECT}
          >
            {WEEK_STARTS.map((day) => (
              <option key={day} value={day}>
                {DAY_WORDS[day]}
              </option>
            ))}
          </select>
        </label>
        <SaveRow save={save} />
      </form>
    </Part>
  );
}

"use client";

import clsx from "clsx";
import { CalendarDays } from "lucide-react";
import { Popover } from "radix-ui";
import { useEffect, useId, useRef, useState } from "react";
import { DayPicker } from "react-day-picker";
import type { Seconds } from "@/core/time/instant";
import { dayStart } from "@/core/time/understand";
import type { Dates } from "./dates";
import type { Moment } from "./useMoment";

interface Props {
  label: string;
  moment: Moment;
  hint?: string;
  /** The label stands before the field instead of above it, and what was understood beside it, where that says more. */
  inLine?: boolean;
}

/** The one field for dates and times: typed or picked; it says what it understood, or why it can't be taken. */
export function MomentField({ label, moment, hint, inLine }: Props) {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const { text, setText, problem, meaning } = moment;
  // The form asks for another before it is sent.
  useEffect(() => input.current?.setCustomValidity(problem ?? ""), [problem]);
  const isWrong = problem !== null && text.trim() !== "";
  // Within a line there is no room to say again what stands there.
  const { at, dates, rules } = moment;
  const isPlain = at === null || text === (rules.wholeDays ? dates.day(at) : dates.moment(at));
  return (
    <div className={inLine ? "flex items-center gap-1.5" : "mb-3"}>
      <label htmlFor={id} className={inLine ? "text-ink-soft" : "mb-1 block font-semibold"}>
        {label}
      </label>
      <span className="flex">
        <input
          ref={input}
          id={id}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={moment.dates.day(moment.rules.now)}
          required={!moment.rules.optional}
          autoComplete="off"
          aria-invalid={isWrong}
          aria-describedby={`${id}-said`}
          className={clsx(
            "w-full min-w-36 rounded-l-[3px] border bg-raised px-2.5",
            inLine ? "h-[30px]" : "h-9",
            isWrong ? "border-oxide" : "border-control",
          )}
        />
        <Calendar label={label} moment={moment} isLow={inLine} />
      </span>
      <p
        id={`${id}-said`}
        role="status"
        className={clsx(
          inLine && !isWrong && isPlain ? "sr-only" : inLine ? "text-[12.5px]" : "mt-1 text-[12.5px]",
          isWrong ? "text-oxide" : "text-ink-soft",
        )}
      >
        {isWrong ? problem : meaning}
        {hint && <span className="block text-ink-faint">{hint}</span>}
      </p>
    </div>
  );
}

/** A month to pick a day from; a time that is written stays. */
function Calendar({ label, moment, isLow }: { label: string; moment: Moment; isLow?: boolean }) {
  const [isOpen, setOpen] = useState(false);
  const { at, dates, rules, setText } = moment;
  const shown = localDate(at ?? rules.now, dates);
  const pick = (day: Date | undefined) => {
    if (day) setText(textOf(day, moment));
    setOpen(false);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`${label}: choose from a calendar`}
        className={clsx(
          "shrink-0 rounded-r-[3px] border border-l-0 border-control bg-surface px-2",
          isLow ? "h-[30px]" : "h-9",
        )}
      >
        <CalendarDays aria-hidden size={16} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={`${label}: a calendar`}
          align="end"
          className="z-40 border border-line-strong bg-raised p-3 shadow-lg"
        >
          <DayPicker
            autoFocus
            mode="single"
            weekStartsOn={dates.settings.weekStart}
            selected={at === null ? undefined : shown}
            defaultMonth={shown}
            today={localDate(rules.now, dates)}
            disabled={[
              ...(rules.min === undefined ? [] : [{ before: localDate(rules.min, dates) }]),
              ...(rules.max === undefined ? [] : [{ after: localDate(rules.max, dates) }]),
            ]}
            onSelect={pick}
            classNames={LOOKS}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const LOOKS = {
  nav: "flex justify-between",
  button_previous: "size-8 border border-line-strong [&_svg]:mx-auto [&_svg]:size-4",
  button_next: "size-8 border border-line-strong [&_svg]:mx-auto [&_svg]:size-4",
  chevron: "fill-current",
  month_caption: "mt-[-30px] mb-3 text-center font-semibold leading-7 pointer-events-none",
  weekday: "w-9 pb-1 text-[12px] font-normal text-ink-faint",
  day: "p-0 text-center",
  day_button:
    "size-9 tabular-nums hover:bg-verdigris-soft disabled:text-ink-faint disabled:line-through disabled:hover:bg-transparent",
  today: "underline decoration-2 underline-offset-4",
  selected: "bg-verdigris text-on-verdigris",
  outside: "text-ink-faint",
};

/** The day of an instant by the person's clocks, as a date of the browser's own. */
function localDate(at: Seconds, { settings }: Dates): Date {
  const [year, month, day] = new Intl.DateTimeFormat("en-CA", { timeZone: settings.zone, dateStyle: "short" })
    .format(at * 1000)
    .split("-")
    .map(Number);
  return new Date(year, month - 1, day);
}

/** A picked day as they would write it, with the time that was written before. */
function textOf(picked: Date, { at, dates, text }: Moment): string {
  const parts = { year: picked.getFullYear(), month: picked.getMonth() + 1, day: picked.getDate() };
  const day = dates.day(dayStart(parts, dates.settings.zone));
  const hasTime = at !== null && /\d:\d\d|\d\s?[ap]m\b/i.test(text);
  return hasTime ? `${day}, ${dates.time(at)}` : day;
}

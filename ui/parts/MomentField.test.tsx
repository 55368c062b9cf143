import { fireEvent, render, screen } from "@testing-library/react";
import { DAY, rfc3339, seconds } from "@/core/time/instant";
import { type DateSettings, UTC_DATES } from "@/core/time/style";
import { MomentField } from "./MomentField";
import { type MomentRules, useMoment } from "./useMoment";
import { DateSettingsContext } from "./useDates";

const NOW = seconds("2026-11-23T09:14:00Z");
function Asking({ first, rules }: { first: string; rules: Omit<MomentRules, "now"> }) {
  const moment = useMoment(first, { now: NOW, ...rules });
  return (
    <>
      <MomentField label="Last day" moment={moment} />
      <output aria-label="Chosen">{moment.at === null ? "nothing" : rfc3339(moment.at)}</output>
    </>
  );
}

function show(first: string, rules: Omit<MomentRules, "now">, settings: DateSettings = UTC_DATES) {
  render(
    <DateSettingsContext value={settings}>
      <Asking first={first} rules={rules} />
    </DateSettingsContext>,
  );
  const field = screen.getByRole<HTMLInputElement>("textbox", { name: "Last day" });
  const write = (value: string) => fireEvent.change(field, { target: { value } });
  const [said, chosen] = screen.getAllByRole("status");
  return { field, write, said: () => said.textContent, chosen: () => chosen.textContent };
}

test("what is written is said as it was understood, by one's own clocks, and how far off it is", () => {
  const { write, said, chosen } = show("in 14 days", { edge: "end" }, { ...UTC_DATES, zone: "America/New_York" });
  expect(said()).toBe("Mon 7 Dec 2026, 23:59 New York, in 14 days");
  expect(chosen()).toBe("2026-12-08T04:59:59Z");
  write("12 Dec 14:00");
  expect(said()).toBe("Sat 12 Dec 2026, 14:00 New York, in 19 days");
  expect(chosen()).toBe("2026-12-12T19:00:00Z");
});

test("what can't be taken says why, and what can, and the form isn't sent", () => {
  const whyMin = "Stacks needs at least 24 hours’ notice.";
  const { field, write, said, chosen } = show("tomorrow", {
    edge: "start",
    min: NOW + DAY,
    max: NOW + 30 * DAY,
    whyMin,
  });
  expect(said()).toBe("Stacks needs at least 24 hours’ notice. The earliest is 24 Nov 2026, 09:14.");
  expect([field.validity.valid, chosen(), field.getAttribute("aria-invalid")]).toEqual([false, "nothing", "true"]);
  write("in 3 months");
  expect(said()).toBe("That is too late. The latest is 23 Dec 2026, 09:14.");
  write("when it suits");
  expect(said()).toBe("Not understood. Write it like 23 Nov 2026, in 14 days, or end of month.");
  write("1 Dec");
  expect([field.validity.valid, chosen()]).toEqual([true, "2026-12-01T00:00:00Z"]);
  write("");
  expect(field.validity.valid).toBe(false);
});

test("what need not be chosen may stay empty", () => {
  const { field, said, chosen } = show("", { edge: "start", optional: true });
  expect([field.validity.valid, chosen(), said()]).toEqual([true, "nothing", ""]);
});

test("a day is picked from a month, in the person's style and with their first day of the week; a time stays", () => {
  const { field, chosen } = show(
    "2026-12-12 14:30",
    { edge: "end", min: NOW },
    { ...UTC_DATES, style: "year-first", weekStart: 0 },
  );
  fireEvent.click(screen.getByRole("button", { name: "Last day: choose from a calendar" }));
  expect(screen.getAllByRole("columnheader", { hidden: true })[0].textContent).toBe("Su");
  fireEvent.click(screen.getByRole("button", { name: /December 16/ }));
  expect(field.value).toBe("2026-12-16, 14:30");
  expect(chosen()).toBe("2026-12-16T14:30:00Z");
});

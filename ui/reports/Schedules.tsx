"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { reportsOperations } from "@/contract/reports";
import { REPORT_WORDS } from "@/core/evidence/report";
import { EVERY, type Every, type ReportSchedule, SCHEDULED, type ScheduledKind } from "@/core/evidence/schedule";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

const EVERY_WORDS: Record<Every, string> = { week: "Every Monday", month: "On the first of each month" };

/** Reports that go out by mail by themselves. */
export function Schedules() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(reportsOperations.schedules));
  return (
    <section className="mt-8 border-t border-line-strong pt-3">
      <h2 className="text-[15px] font-semibold">Scheduled reports</h2>
      <p className="max-w-prose text-ink-soft">
        Sent at 07:00 in the time zone of the person who set it up, covering the time up to the day before. People with
        an account get a link; others at a home domain get the PDF.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && data.length === 0 && <p className="mt-2 text-ink-soft">No reports are scheduled yet.</p>}
      {data && data.length > 0 && <Table schedules={data} mayChange={viewer.mayChange} />}
      {viewer.mayChange && <AddSchedule />}
    </section>
  );
}

/** What each act gives is what is so after it. */
function useTold(after = () => {}) {
  const client = useQueryClient();
  return {
    onSuccess: (told: ReportSchedule[]) => {
      client.setQueryData(asked(reportsOperations.schedules).queryKey, told);
      after();
    },
  };
}

function Table({ schedules, mayChange }: { schedules: readonly ReportSchedule[]; mayChange: boolean }) {
  const dates = useDates();
  const remove = useMutation({
    mutationFn: (id: number) => ask(reportsOperations.removeSchedule, { body: { id } }),
    ...useTold(),
  });
  return (
    <>
      <table className="mt-2 w-full">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="py-1 pr-3 font-semibold">Report</th>
            <th className="px-3 font-semibold">When</th>
            <th className="px-3 font-semibold">To</th>
            <th className="px-3 font-semibold">Last sent</th>
            <th className="px-3 font-semibold">Next</th>
            <th>
              <span className="sr-only">Stop</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {schedules.map(({ id, kind, every, to, sentAt, nextAt, error }) => (
            <tr key={id} className="border-t border-line align-top">
              <th scope="row" className="py-2 pr-3 text-left font-normal">
                {REPORT_WORDS[kind].title}
              </th>
              <td className="px-3 py-2">{EVERY_WORDS[every]}</td>
              <td className="px-3 py-2 wrap-anywhere">{to}</td>
              <td className="px-3 py-2">
                {sentAt === null ? "not yet" : dates.moment(sentAt)}
                {error !== null && <span className="block text-[12px] text-oxide">{error}</span>}
              </td>
              <td className="px-3 py-2">{dates.moment(nextAt)}</td>
              <td className="py-1 text-right">
                {mayChange && (
                  <Button disabled={remove.isPending} onClick={() => remove.mutate(id)}>
                    Stop<span className="sr-only"> sending it to {to}</span>
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {remove.error && <Notice tone="wrong">{remove.error.message}</Notice>}
    </>
  );
}

const REPORTS = SCHEDULED.map((value) => ({ value, words: REPORT_WORDS[value].title }));
const TIMES = EVERY.map((value) => ({ value, words: EVERY_WORDS[value] }));

function AddSchedule() {
  const [kind, setKind] = useState<ScheduledKind>("state");
  const [every, setEvery] = useState<Every>("month");
  const [to, setTo] = useState("");
  const add = useMutation({
    mutationFn: () => ask(reportsOperations.addSchedule, { body: { kind, every, to: to.trim() } }),
    ...useTold(() => setTo("")),
  });
  return (
    <form
      aria-label="Schedule a report"
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate();
      }}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Choice label="Report" value={kind} onPick={setKind} choices={REPORTS} />
        <Choice label="When" value={every} onPick={setEvery} choices={TIMES} />
        <label className="flex items-center gap-1.5 text-ink-soft">
          To
          <input
            type="email"
            required
            maxLength={320}
            value={to}
            onChange={(event) => setTo(event.target.value)}
            className="h-[30px] w-[260px] rounded-[3px] border border-control bg-raised px-2.5 text-ink"
          />
        </label>
        <Button type="submit" disabled={add.isPending}>
          Add to the schedule
        </Button>
      </div>
      {add.error && <Notice tone="wrong">{add.error.message}</Notice>}
    </form>
  );
}

"use client";

import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { roundsOperations } from "@/contract/rounds";
import { printSubject, REPORT_WORDS, type ReportKind, type ReportSubject } from "@/core/evidence/report";
import { DAY, type Seconds, utcDay } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Finder } from "../parts/Finder";
import { MomentField } from "../parts/MomentField";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";

/** What each kind asks for. */
const FIELDS: Record<ReportKind, readonly Field[]> = {
  state: ["day"],
  open: ["day"],
  reach: ["about", "day"],
  round: ["round"],
  taken: ["about", "span"],
  controls: ["span"],
};
type Field = "day" | "span" | "about" | "round";

const FOUND: Partial<Record<ReportKind, ("item" | "person" | "organisation")[]>> = {
  reach: ["item", "person", "organisation"],
  taken: ["item", "person"],
};
const USUAL_SPAN: Partial<Record<ReportKind, Seconds>> = { taken: 90 * DAY, controls: 365 * DAY };

/** Asks for a report of one kind; it opens as a page of its own. */
export function ReportForm({ kind }: { kind: ReportKind }) {
  const router = useRouter();
  const { title, about } = REPORT_WORDS[kind];
  const fields = FIELDS[kind];
  const { now } = useStandpoint();
  const days = useDates("UTC");
  const rules = { now, edge: "start", toward: "past", max: now, zone: "UTC", wholeDays: true } as const;
  const day = useMoment(days.day(now), rules);
  const from = useMoment(days.day(now - (USUAL_SPAN[kind] ?? DAY)), rules);
  const [subject, setSubject] = useState<ReportSubject | null>(null);
  const [round, setRound] = useState("");
  const has = (field: Field) => fields.includes(field);
  const isReady =
    day.at !== null &&
    (!has("span") || from.at !== null) &&
    (!has("about") || subject !== null) &&
    (!has("round") || round !== "");
  const show = () => {
    const query = new URLSearchParams();
    if (subject) query.set("about", printSubject(subject));
    if (has("day")) query.set("day", utcDay(day.at!));
    if (has("span")) query.set("from", utcDay(from.at!));
    if (has("span")) query.set("to", utcDay(day.at!));
    if (has("round")) query.set("round", round);
    router.push(`/ledger/reports/${kind}?${query}`);
  };
  return (
    <form
      aria-label={title}
      className="mt-4 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) show();
      }}
    >
      <h2 className="text-[15px] font-semibold">{title}</h2>
      <p className="mb-2 max-w-prose text-ink-soft">{about}</p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {has("about") && <About kind={kind} subject={subject} onPick={setSubject} />}
        {has("round") && <RoundChoice value={round} onPick={setRound} />}
        {has("span") && <MomentField label="First day" moment={from} inLine />}
        {(has("day") || has("span")) && <MomentField label={has("span") ? "Last day" : "Day"} moment={day} inLine />}
        <Button type="submit" look="act" disabled={!isReady}>
          Open
        </Button>
      </div>
    </form>
  );
}

interface Picking {
  kind: ReportKind;
  subject: ReportSubject | null;
  onPick: (subject: ReportSubject | null) => void;
}

function About({ kind, subject, onPick }: Picking) {
  const kinds = FOUND[kind]!;
  return (
    <Finder
      label={`What ${REPORT_WORDS[kind].title} is about`}
      placeholder={kinds.length === 3 ? "Item, person or organisation" : "Item or person"}
      kinds={kinds}
      value={subject?.id ?? ""}
      onPick={onPick}
    />
  );
}

function RoundChoice({ value, onPick }: { value: string; onPick: (id: string) => void }) {
  const { data = [] } = useQuery(asked(roundsOperations.rounds));
  const opened = data
    .filter(({ state }) => state !== "planned")
    .map(({ id, name }) => ({ value: `${id}`, words: name }));
  if (opened.length === 0) return <p className="text-ink-soft">No round has opened yet.</p>;
  return (
    <Choice label="Round" value={value} onPick={onPick} choices={[{ value: "", words: "Choose one" }, ...opened]} />
  );
}

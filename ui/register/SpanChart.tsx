"use client";

import { useState } from "react";
import { type Span, spanOf, spanOfBars } from "@/core/query/edit";
import { type Histogram, SPAN_DAYS } from "@/core/query/facets";
import type { Term } from "@/core/query/query";
import { SpanSlider } from "../parts/SpanSlider";
import { countWords } from "../parts/words";

const BARS = SPAN_DAYS.length + 1;

interface Props {
  title: string;
  histogram: Histogram;
  terms: readonly Term[];
  onSpan: (span: Span | null) => void;
}

/** How many lie how far back or ahead, as bars over which a span is dragged; it can be typed too. */
export function SpanChart({ title, histogram: { field, counts, never }, terms, onSpan }: Props) {
  const span = spanOf(terms, field);
  const [dragged, setDragged] = useState<[number, number] | null>(null);
  const [from, to] = dragged ?? handlesOf(span);
  const most = Math.max(1, ...counts);
  const isAhead = field === "ends";
  const choose = ([first, last]: [number, number]) => {
    setDragged(null);
    onSpan(first === 0 && last === BARS ? null : spanOfBars(first, last - 1));
  };
  return (
    <section aria-label={title} className="border-b border-line px-3 py-2">
      <h2 className="flex text-[12px] font-semibold text-ink-faint">
        {title}
        <span className="ml-auto font-normal">{spanWords(spanOfHandles(from, to), isAhead)}</span>
      </h2>
      <div aria-hidden className="mt-1 flex h-10 items-end gap-px">
        {counts.map((count, bar) => (
          <i
            key={bar}
            title={`${spanWords(spanOfBars(bar, bar), isAhead)}: ${countWords(count, "share")}`}
            className={bar >= from && bar < to ? "grow basis-0 bg-verdigris" : "grow basis-0 bg-line-strong"}
            style={{ height: count === 0 ? 1 : `${Math.max((count / most) * 100, 6)}%` }}
          />
        ))}
      </div>
      <SpanSlider name={title} bars={BARS} span={[from, to]} onDrag={setDragged} onChoose={choose} />
      <TypedSpan key={JSON.stringify(span)} title={title} span={span} onSpan={onSpan} />
      {never > 0 && (
        <p className="text-[12px] text-ink-faint">
          {isAhead ? "No end" : "Never"}: {never.toLocaleString("en-GB")}
        </p>
      )}
    </section>
  );
}

function TypedSpan({ title, span, onSpan }: { title: string; span: Span | null; onSpan: Props["onSpan"] }) {
  const [from, setFrom] = useState(span?.from?.toString() ?? "");
  const [to, setTo] = useState(span?.to?.toString() ?? "");
  const field = (name: string, value: string, set: (text: string) => void) => (
    <input
      aria-label={`${title}: ${name} days`}
      value={value}
      inputMode="numeric"
      pattern="\d*"
      maxLength={5}
      onChange={(event) => set(event.target.value.replace(/\D/g, ""))}
      className="h-6 w-11 rounded-[3px] border border-control bg-raised px-1 text-right tabular-nums"
    />
  );
  return (
    <form
      className="flex items-center gap-1 text-[12px] text-ink-soft"
      onSubmit={(event) => {
        event.preventDefault();
        const days = (text: string) => (text === "" ? null : Number(text));
        onSpan(from === "" && to === "" ? null : { from: days(from), to: days(to) });
      }}
    >
      {field("from", from, setFrom)} to {field("to", to, setTo)} days
      <button type="submit" className="ml-auto text-verdigris underline">
        Set
      </button>
    </form>
  );
}

/** The bars that a span covers, as far as it lies on their ends. */
function handlesOf(span: Span | null): [number, number] {
  if (!span) return [0, BARS];
  const first = span.from === null ? 0 : SPAN_DAYS.findLastIndex((end) => end <= span.from!) + 1;
  const last = span.to === null ? BARS : SPAN_DAYS.findIndex((end) => end >= span.to!) + 1;
  return [first, Math.max(last === 0 ? BARS : last, first + 1)];
}

function spanOfHandles(from: number, to: number): Span | null {
  return from === 0 && to === BARS ? null : spanOfBars(from, to - 1);
}

function spanWords(span: Span | null, isAhead: boolean): string {
  if (span === null) return "any";
  const { from, to } = span;
  if (to === 0) return isAhead ? "ended" : "later";
  const days = from === null ? `under ${to}` : to === null ? `${from} and more` : `${from} to ${to}`;
  return isAhead ? `in ${days} days` : `${days} days ago`;
}

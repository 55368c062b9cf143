import type { StackedLine } from "./stackedChart";

/** Which colour of a chart is what. */
export function ChartLegend({ lines }: { lines: readonly Omit<StackedLine, "values">[] }) {
  return (
    <p className="mt-1 flex flex-wrap gap-x-3 text-[12px]">
      {lines.map(({ name, token }) => (
        <span key={name} className="flex items-center gap-1">
          <span aria-hidden className="inline-block h-2.5 w-2.5" style={{ background: `var(${token})` }} />
          {name}
        </span>
      ))}
    </p>
  );
}

import clsx from "clsx";
import { type Level, LEVELS } from "@/core/rules/risk";
import { plainWords } from "./words";

/** Risk as a word over a short rule of one to five strokes. */
export function RiskMark({ risk }: { risk: Level | null }) {
  if (risk === null) return <span className="text-ink-faint">none</span>;
  const rank = LEVELS.indexOf(risk);
  const grave = rank >= 3;
  return (
    <span className={clsx("inline-flex flex-col gap-[3px] text-[12.5px]", grave && "font-semibold text-oxide")}>
      <span aria-hidden className="flex gap-[2px]">
        {LEVELS.map((level, index) => (
          <i
            key={level}
            className={clsx(
              "h-[3px] w-[7px]",
              index > rank ? "bg-line" : grave ? "bg-oxide" : rank === 2 ? "bg-copper" : "bg-ink-faint",
            )}
          />
        ))}
      </span>
      {plainWords(risk)}
    </span>
  );
}

import clsx from "clsx";

interface LineProps {
  title: string;
  /** How long its bar is, from 0 to 1. */
  share: number;
  count: number;
  isChosen: boolean;
  toggle: () => void;
}

/** One value: a switch with its count, and a bar for how many that is. */
export function FacetLine({ title, share, count, isChosen, toggle }: LineProps) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={isChosen}
        onClick={toggle}
        className="relative flex w-full items-baseline gap-1.5 py-[2px] text-left disabled:opacity-60"
      >
        <i
          aria-hidden
          className="absolute bottom-0 left-0 h-[2px] bg-line-strong"
          style={{ width: `${Math.max(share * 100, 1)}%` }}
        />
        <span aria-hidden className="w-2.5 shrink-0 font-mono text-verdigris">
          {isChosen ? "▸" : ""}
        </span>
        <span
          className={clsx("line-clamp-2 min-w-0 leading-[1.2] wrap-anywhere", isChosen && "font-semibold")}
          title={title}
        >
          {title}
        </span>
        <span className="ml-auto text-ink-soft tabular-nums">{count.toLocaleString("en-GB")}</span>
      </button>
    </li>
  );
}

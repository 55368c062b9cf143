import { Button } from "./Button";

interface Props {
  /** Which is the first that is shown, how many stand on a page, how many are shown on this one, and how many there are. */
  from: number;
  size: number;
  shown: number;
  found: number;
  onGo: (from: number) => void;
}

/** Leads through a list of several pages; nothing where there is but one. */
export function Pages({ from, size, shown, found, onGo }: Props) {
  if (found <= size) return null;
  const number = (count: number) => count.toLocaleString("en-GB");
  return (
    <nav aria-label="Pages" className="mt-3 flex items-center gap-3">
      <Button disabled={from === 0} onClick={() => onGo(Math.max(0, from - size))}>
        Previous
      </Button>
      <span className="text-ink-soft tabular-nums">
        {number(from + 1)} to {number(from + shown)} of {number(found)}
      </span>
      <Button disabled={from + shown >= found} onClick={() => onGo(from + size)}>
        Next
      </Button>
    </nav>
  );
}

import { ArrowDown, ArrowUp } from "lucide-react";

interface Props {
  words: string;
  /** What the head means, where it is too short to say it. */
  title?: string;
  isBy: boolean;
  isRising: boolean;
  onSort: () => void;
}

/** The head of a column that sorts by it; pressed again, the other way round. */
export function SortHead({ words, title, isBy, isRising, onSort }: Props) {
  const Arrow = isRising ? ArrowUp : ArrowDown;
  return (
    <button type="button" onClick={onSort} title={title} className="font-semibold whitespace-nowrap">
      {words}
      {isBy && <Arrow aria-hidden size={12} className="ml-0.5 inline" />}
    </button>
  );
}

import { withUseUnknown } from "@/core/query/edit";
import { parseQuery } from "@/core/query/parse";
import { printQuery } from "@/core/query/print";
import { countWords } from "../parts/words";

interface Props {
  count: number;
  query: string;
  onQuery: (query: string) => void;
}

/** Says of a past day how many shares a question about use can't judge, and leads to them. */
export function UseUnknown({ count, query, onQuery }: Props) {
  if (count === 0) return null;
  return (
    <p role="status" className="border-b border-line bg-surface px-3.5 py-1 text-ink-soft">
      {countWords(count, "more share")} may match: when {count === 1 ? "it was" : "they were"} last used before that day
      isn’t known.{" "}
      <button
        type="button"
        className="text-verdigris underline"
        onClick={() => onQuery(printQuery(withUseUnknown(parseQuery(query).terms)))}
      >
        Show {count === 1 ? "it" : "them"}
      </button>
    </p>
  );
}

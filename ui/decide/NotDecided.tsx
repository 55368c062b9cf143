import type { DecidedAnswer, DecidedLine } from "@/contract/decisions";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";

/** Why something couldn't be decided, line by line if there are several. */
export function NotDecided({ answer: { not }, lines }: { answer: DecidedAnswer; lines: readonly DecidedLine[] }) {
  if (not.length === 0) return null;
  const nameOf = (id: string) => lines.find(({ shareId }) => shareId === id)?.itemName ?? "A share";
  const [{ why }] = not;
  return (
    <Notice tone="wrong">
      {lines.length === 1 ? (
        why
      ) : (
        <>
          {countWords(not.length, "share was", "shares were")} left as before:
          <ul>
            {not.slice(0, 20).map(({ shareId, why }) => (
              <li key={shareId}>
                {nameOf(shareId)}: {why}
              </li>
            ))}
          </ul>
        </>
      )}
    </Notice>
  );
}

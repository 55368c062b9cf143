import type { ShareDetail } from "@/core/preview/shareDetail";
import { itemWords, wayWords } from "../parts/words";

/** Who loses access if the share goes, and who keeps it by another way. */
export function IfGone({ ifGone: { words, lose, losers, keep, keepers } }: Pick<ShareDetail, "ifGone">) {
  return (
    <>
      <p className="text-ink-soft">{words}</p>
      {losers > 0 && (
        <>
          <h4 className="mt-1.5 text-[12px] text-ink-faint">Who loses access</h4>
          <ul>
            {lose.map((person) => (
              <li key={person.address} className="border-t border-line py-1">
                {person.name} <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
                <span className="block text-ink-soft">{itemWords(person.loses)}</span>
              </li>
            ))}
          </ul>
          {losers > lose.length && <p className="text-ink-faint">and {losers - lose.length} more</p>}
        </>
      )}
      {keepers > 0 && (
        <>
          <h4 className="mt-1.5 text-[12px] text-ink-faint">Who keeps access another way</h4>
          <ul>
            {keep.map((person) => (
              <li key={person.address} className="border-t border-line py-1">
                {person.name} <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
                <span className="block text-copper">by {wayWords(person.ways)}</span>
              </li>
            ))}
          </ul>
          {keepers > keep.length && <p className="text-ink-faint">and {keepers - keep.length} more</p>}
        </>
      )}
    </>
  );
}

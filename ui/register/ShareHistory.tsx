import type { ShareAct } from "@/core/register/history";
import { rfc3339 } from "@/core/time/instant";
import { momentWords } from "../parts/words";

/** What has happened to a share, the newest first. */
export function ShareHistory({ history }: { history: ShareAct[] }) {
  return (
    <section className="mt-4">
      <h3 className="font-semibold">What has happened to it</h3>
      <ul>
        {history.map(({ at, words }, place) => (
          <li key={place} className="flex gap-2 border-t border-line py-1">
            <span className="min-w-0 grow">{words}</span>
            <span className="shrink-0 text-ink-faint">{momentWords(rfc3339(at))}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

import type { ShareDetail } from "@/core/register/detail";
import { countWords, momentWords, plainWords } from "../parts/words";

/** Whom a named link is for, and what each of them has done with it, as far as the store tells. */
export function Recipients({ detail }: { detail: ShareDetail }) {
  if (detail.recipients.length === 0) return null;
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Who it is for</h3>
      <ul>
        {detail.recipients.map((one) => (
          <li key={one.email} className="border-t border-line py-1">
            <span className="font-mono text-[12.5px] break-all">{one.email}</span>
            {detail.tellsRecipientUse && <span className="block text-ink-faint">{wordsOfUse(one)}</span>}
          </li>
        ))}
      </ul>
      {!detail.tellsRecipientUse && (
        <p className="text-ink-faint">{plainWords("this store does not tell who opened it")}.</p>
      )}
    </section>
  );
}

function wordsOfUse({ firstOpenedAt, lastOpenedAt, downloads }: ShareDetail["recipients"][number]): string {
  if (!lastOpenedAt) return "Never opened";
  const first =
    firstOpenedAt && firstOpenedAt !== lastOpenedAt ? `First opened ${momentWords(firstOpenedAt)}, last ` : "Opened ";
  const taken = downloads ? `downloaded ${countWords(downloads, "time")}` : "never downloaded";
  return `${first}${momentWords(lastOpenedAt)}; ${taken}`;
}

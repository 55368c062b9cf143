import type { ShareDetail } from "@/core/preview/shareDetail";
import { normaliseAddress } from "@/core/estate/address";
import type { Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { type RecipientUse, useRecipientUse } from "./useRecipientUse";

/** Whom a named link is for, and what each of them has done with it, as far as the store tells. */
export function Recipients({ detail, past }: { detail: ShareDetail; past: string | null }) {
  const dates = useDates();
  const uses = useRecipientUse(detail.row.id, past);
  if (detail.recipients.length === 0) return null;
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Recipients</h3>
      <ul>
        {detail.recipients.map((one) => (
          <li key={one.email} className="border-t border-line py-1">
            <span className="font-mono text-[12.5px] break-all">{one.email}</span>
            {(detail.tellsRecipientUse || uses.has(normaliseAddress(one.email))) && (
              <span className="block text-ink-faint">
                {countedUse(uses.get(normaliseAddress(one.email)), dates) ?? wordsOfUse(one, dates)}
              </span>
            )}
          </li>
        ))}
      </ul>
      {!detail.tellsRecipientUse && (
        <p className="text-ink-faint">{plainWords("this store doesn’t say who opened it")}.</p>
      )}
    </section>
  );
}

/** Where the trail has events of somebody: how often, and when last. */
function countedUse(use: RecipientUse | undefined, dates: Dates): string | undefined {
  if (!use) return undefined;
  const opened = use.opened === 0 ? "Not opened" : `Opened ${countWords(use.opened, "time")}`;
  const taken = use.downloaded === 0 ? "never downloaded" : `downloaded ${countWords(use.downloaded, "time")}`;
  return `${opened}, last used on ${dates.day(use.last)}; ${taken}`;
}

type Recipient = ShareDetail["recipients"][number];

function wordsOfUse({ firstOpenedAt, lastOpenedAt, downloads }: Recipient, dates: Dates): string {
  if (!lastOpenedAt) return "Never opened";
  const first =
    firstOpenedAt && firstOpenedAt !== lastOpenedAt ? `First opened ${dates.moment(firstOpenedAt)}, last ` : "Opened ";
  const taken = downloads ? `downloaded ${countWords(downloads, "time")}` : "never downloaded";
  return `${first}${dates.moment(lastOpenedAt)}; ${taken}`;
}

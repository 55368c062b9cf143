import type { Held } from "../access/history";
import type { ShareRecord } from "../estate/records";
import { ALWAYS, seconds, type Seconds } from "../time/instant";
import { countWords, type DayWords, dayWords } from "../text/words";

/** Something that has happened to a share. */
export interface ShareEvent {
  at: Seconds;
  words: string;
}

/** What has happened to a share, the newest first, from what its record said at each time. @param held in the order of time */
export function historyOf(held: readonly Held[], days: DayWords = dayWords): ShareEvent[] {
  const versions = held as readonly (Held & { record: ShareRecord })[];
  const events = versions.flatMap(({ record, from }, i): ShareEvent[] => {
    const before = versions[i - 1]?.record;
    if (!before) return [{ at: seconds(madeAt(record)), words: "Made" }, ...begun(record, from)];
    return changes(before, record, days).map((words) => ({ at: from, words }));
  });
  return events.sort((a, b) => b.at - a.at);
}

function madeAt(record: ShareRecord): string {
  return record.type === "link" ? record.createdAt : record.grantedAt;
}

/** What the first record says about the time before it. */
function begun(record: ShareRecord, from: Seconds): ShareEvent[] {
  const events: ShareEvent[] = from > ALWAYS ? [{ at: from, words: "First read from its store" }] : [];
  if (record.revokedAt) events.push({ at: seconds(record.revokedAt), words: "Revoked" });
  if (record.lastUsedAt) events.push({ at: seconds(record.lastUsedAt), words: "Used" });
  return events;
}

/** What is different between two records of one share, in words. */
function changes(before: ShareRecord, after: ShareRecord, days: DayWords): string[] {
  const words: string[] = [];
  const tell = (has: boolean, text: string) => has && words.push(text);
  tell(after.role !== before.role, `Lets people ${after.role} instead of ${before.role}`);
  tell(
    after.expiresAt !== before.expiresAt,
    after.expiresAt === null ? "Its end date was removed" : `Its end date was set to ${days(seconds(after.expiresAt))}`,
  );
  tell(after.download !== before.download, after.download ? "Downloads were allowed" : "Downloads were blocked");
  tell(Boolean(after.revokedAt) && !before.revokedAt, "Revoked");
  tell(after.lastUsedAt !== before.lastUsedAt && after.lastUsedAt !== null, "Used");
  if (after.type === "link" && before.type === "link") {
    tell(after.password !== before.password, after.password ? "A password was set" : "Its password was removed");
    tell(after.reach !== before.reach, `Open to ${after.reach} instead of ${before.reach}`);
    const [added, gone] = [missing(after, before), missing(before, after)];
    tell(added.length > 0, `${listed(added)} added`);
    tell(gone.length > 0, `${listed(gone)} removed`);
  }
  return words.length > 0 ? words : ["Something else about it changed"];
}

type LinkRecord = Extract<ShareRecord, { type: "link" }>;

function missing(here: LinkRecord, there: LinkRecord): string[] {
  const known = new Set(there.recipients.map(({ email }) => email));
  return here.recipients.map(({ email }) => email).filter((email) => !known.has(email));
}

function listed(addresses: readonly string[]): string {
  return addresses.length <= 3 ? addresses.join(", ") : countWords(addresses.length, "person", "people");
}

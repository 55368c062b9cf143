import { z } from "zod";
import type { Change } from "@/core/dockets/change";
import { parseRecordValue } from "@/core/estate/estateFile";
import type { GrantRecord, LinkRecord, ShareRecord } from "@/core/estate/records";
import { recordSchemas } from "@/core/estate/records";
import { type ProbeResult, type RecordPage, type StoreAdapter, StoreRefusal, StoreTrouble } from "./adapter";

const PAGE = 1_000;
const TIMEOUT_MS = 15_000;

const pageSchema = z.object({ entries: z.array(z.object({ at: z.string(), record: z.unknown() })), next: z.int() });
const shareSchema = z.union([recordSchemas.link, recordSchemas.grant]);
const errorSchema = z.object({ error: z.string() });

/** A store that speaks estate records over HTTP, as the stand-ins do. */
export function httpStore(name: string, url: string, key: string): StoreAdapter {
  const headers = { Authorization: `Bearer ${key}`, "Content-Type": "application/json" };

  async function ask(path: string, init: RequestInit = {}): Promise<unknown> {
    const response = await fetchFrom(`${url}/api${path}`, { ...init, headers });
    if (response.ok) return response.json();
    const parsed = errorSchema.safeParse(await response.json().catch(() => undefined));
    const words = parsed.success ? parsed.data.error : `${name} answered ${response.status}.`;
    if (response.status === 429 || response.status >= 500)
      throw new StoreTrouble(words, Number(response.headers.get("retry-after") ?? 0) * 1000);
    throw new StoreRefusal(words);
  }

  async function fetchFrom(address: string, init: RequestInit): Promise<Response> {
    try {
      return await fetch(address, { ...init, redirect: "manual", signal: AbortSignal.timeout(TIMEOUT_MS) });
    } catch (error) {
      const cause = (error as Error).cause;
      throw new StoreTrouble(
        `${name} can't be reached: ${cause instanceof Error ? cause.message : (error as Error).message}`,
      );
    }
  }

  return {
    async describe() {
      return recordSchemas.store.parse(await ask("/capabilities"));
    },

    async read(cursor): Promise<RecordPage> {
      const { entries, next } = pageSchema.parse(await ask(`/records?after=${cursor}&limit=${PAGE}`));
      const records = entries.map(({ at, record }) => {
        const parsed = parseRecordValue(record);
        if (typeof parsed === "string") throw new StoreRefusal(`${name} sent a record that can't be read: ${parsed}`);
        return { at, record: parsed };
      });
      return { entries: records, next, isLast: entries.length < PAGE };
    },

    async apply(change: Change, changeKey: string) {
      const answer = await ask("/changes", { method: "POST", body: JSON.stringify({ key: changeKey, change }) });
      return shareSchema.parse((answer as { record: unknown }).record);
    },

    probe: (share: ShareRecord) => (share.type === "link" ? probeLink(share) : probeGrant(share)),
  };

  async function probeLink(link: LinkRecord): Promise<ProbeResult> {
    if (!link.address) return { dead: false, words: "The store gives no address to open." };
    // An address comes from outside: only the store's own pages are opened, never another machine's.
    if (!URL.canParse(link.address) || new URL(link.address).origin !== new URL(url).origin)
      return { dead: false, words: "The address lies outside its store, so it was not opened." };
    const { status } = await fetchFrom(link.address, {});
    if (status === 410 || status === 404) return { dead: true, words: "The address answers: no longer available." };
    return { dead: false, words: `The address still answers (${status}).` };
  }

  async function probeGrant(grant: GrantRecord): Promise<ProbeResult> {
    const now = recordSchemas.grant.parse(await ask(`/shares/${encodeURIComponent(grant.id)}`));
    return now.revokedAt
      ? { dead: true, words: "The store lists it as revoked." }
      : { dead: false, words: "The store still lists it." };
  }
}

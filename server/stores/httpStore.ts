import { request } from "undici";
import { z } from "zod";
import type { Change, MakingChange } from "@/core/changes/change";
import { isSeenDone } from "@/core/changes/byHand";
import { normaliseAddress } from "@/core/estate/address";
import { parseRecordValue } from "@/core/estate/estateFile";
import type { ItemRecord, LinkRecord, ShareRecord } from "@/core/estate/records";
import { recordSchemas } from "@/core/estate/records";
import { eachBreathing } from "../platform/breathe";
import {
  type EventsPage,
  type Entry,
  type ProbeResult,
  type RecordPage,
  type StoreAdapter,
  StoreRefusal,
  StoreTrouble,
} from "./adapter";

const PAGE = 1_000;
const TIMEOUT_MS = 15_000;
/** Of a page of a thousand records that is 64 KB each: no record is so large. */
const MOST_BYTES = 64_000_000;
/** The longest pause: a store that asks for a longer one is asked again all the same. */
const LONGEST_PAUSE_MS = 15 * 60_000;

const entrySchema = z.object({ at: z.string(), record: z.unknown(), gone: z.boolean().default(false) });
const pageSchema = z.object({ entries: z.array(entrySchema), next: z.int() });
const eventsSchema = z.object({ entries: z.array(z.object({ event: z.unknown() })), next: z.int() });
const changedSchema = z.object({ entries: z.array(entrySchema).min(1) });
const membershipSchema = z.object({ isMember: z.boolean() });
const errorSchema = z.object({ error: z.string() });

/** A store that speaks estate records over HTTP, as the stand-ins do. */
export function httpStore(name: string, url: string, key: string): StoreAdapter {
  const headers = { Authorization: `Bearer ${key}`, "Content-Type": "application/json" };

  async function ask(path: string, body?: object): Promise<unknown> {
    const { status, text, retryAfter } = await answerOf(`${url}/api${path}`, { headers, body });
    if (status >= 200 && status < 300) return JSON.parse(text);
    const parsed = errorSchema.safeParse(parsedJson(text));
    const words = parsed.success ? parsed.data.error : `${name} answered ${status}.`;
    if (status === 429 || status === 503) throw new StoreTrouble(words, "busy", retryAfterMs(retryAfter));
    if (status >= 500) throw new StoreTrouble(words, "broken");
    throw new StoreRefusal(words);
  }

  /** Redirects are not followed. @throws {StoreTrouble} where there is no whole answer */
  async function answerOf(
    address: string,
    { headers, body }: { headers?: Record<string, string>; body?: object } = {},
  ) {
    try {
      const answer = await request(address, {
        method: body ? "POST" : "GET",
        headers,
        body: body && JSON.stringify(body),
        headersTimeout: TIMEOUT_MS,
        bodyTimeout: TIMEOUT_MS,
      });
      const retryAfter = answer.headers["retry-after"];
      return {
        status: answer.statusCode,
        text: await boundedText(answer.body),
        retryAfter: typeof retryAfter === "string" ? retryAfter : null,
      };
    } catch (error) {
      if (error instanceof TooMuch) throw new StoreTrouble(`${name} sent too much at once.`, "broken");
      throw new StoreTrouble(`${name} can't be reached: ${(error as Error).message}`, "unreached");
    }
  }

  return {
    async describe() {
      return recordSchemas.store.parse(await ask("/capabilities"));
    },

    async read(cursor): Promise<RecordPage> {
      const { entries, next } = pageSchema.parse(await ask(`/records?after=${cursor}&limit=${PAGE}`));
      return { entries: await eachBreathing(entries, readEntry), next, isLast: entries.length < PAGE };
    },

    async events(cursor): Promise<EventsPage> {
      const { entries, next } = eventsSchema.parse(await ask(`/events?after=${cursor}&limit=${PAGE}`));
      return { events: entries.map(({ event }) => event), next, isLast: entries.length < PAGE };
    },

    async apply(change: Change, changeKey: string, passphrase?: string) {
      const told = passphrase === undefined ? change : { ...change, password: passphrase };
      const answer = await ask("/changes", { key: changeKey, change: told });
      return changedSchema.parse(answer).entries.map(readEntry);
    },

    probe,
    share,
  };

  function readEntry({ at, record, gone }: z.infer<typeof entrySchema>): Entry {
    const parsed = parseRecordValue(record);
    if (typeof parsed === "string") throw new StoreRefusal(`${name} sent a record that can't be read: ${parsed}`);
    if (gone && parsed.type !== "member")
      throw new StoreRefusal(`${name} says that a record of type ${parsed.type} is gone; only memberships can be.`);
    return { at, record: parsed, gone };
  }

  async function probe(change: Change, before: ShareRecord | null, made?: ShareRecord): Promise<ProbeResult> {
    switch (change.action) {
      case "revoke":
        return before?.type === "link" ? probeLink(before) : probeGrant(change.shareId);
      case "set-expiry":
        return (await share(change.shareId)).expiresAt === change.expiresAt
          ? { dead: true, words: "The store lists the new end." }
          : { dead: false, words: "The store lists a different end." };
      case "set-password":
        return before?.type === "link" ? probeLocked(before) : { dead: false, words: "There is no link to open." };
      case "block-download": {
        const { download } = await share(change.shareId);
        return download
          ? { dead: false, words: "The store lists no block." }
          : { dead: true, words: "The store lists the block." };
      }
      case "set-role": {
        const { role } = await share(change.shareId);
        return { dead: role === change.role, words: `The store lists the role ${role}.` };
      }
      case "narrow":
        return before?.type === "link" ? probeLocked(before) : { dead: false, words: "There is no link to open." };
      case "make-link":
      case "move-intake":
        return { dead: true, words: "The store gave the new link." };
      case "new-link":
      case "new-grant":
        return probeMade(change, made);
      case "set-start":
      case "set-words": {
        const isSet = isSeenDone(change, { share: await share(change.shareId), item: null });
        return { dead: isSet, words: isSet ? "The store lists it so." : "The store lists it differently." };
      }
      case "order-revoke":
        return { dead: true, words: "Kept by Tight Latch itself." };
      case "drop-recipient": {
        const link = recordSchemas.link.parse(await share(change.shareId));
        const address = normaliseAddress(change.address);
        return listed(!link.recipients.some(({ email }) => normaliseAddress(email) === address), change.address);
      }
      case "leave-group":
        return listed(!(await membership(change)).isMember, change.address);
      case "stop-inheriting":
        return listed(!(await item(change.itemId)).inherits, "what is shared above");
      case "inherit": {
        const { inherits } = await item(change.itemId);
        return { dead: inherits, words: `The store says that it inherits ${inherits ? "again" : "nothing yet"}.` };
      }
      case "hand-over": {
        const { ownerId } = await item(change.itemId);
        return { dead: true, words: `The store lists ${ownerId ?? "nobody"} as the owner.` };
      }
      case "put-back": {
        const now = await share(change.shareId);
        const isBack = isSeenDone(change, { share: now, item: null });
        return { dead: isBack, words: `The store lists it ${isBack ? "as it was before" : "differently"}.` };
      }
      case "remake-link":
        return { dead: true, words: "The store gave the new link." };
      case "join-group": {
        const { isMember } = await membership(change);
        return { dead: isMember, words: `The store ${isMember ? "lists" : "does not list"} ${change.address} there.` };
      }
      case "drop-order":
        return { dead: true, words: "Kept by Tight Latch itself." };
    }
  }

  async function membership({ groupId, address }: { groupId: string; address: string }) {
    const query = new URLSearchParams({ address });
    return membershipSchema.parse(await ask(`/groups/${encodeURIComponent(groupId)}/membership?${query}`));
  }

  async function item(id: string): Promise<ItemRecord> {
    return recordSchemas.item.parse(await ask(`/items/${encodeURIComponent(id)}`));
  }

  async function share(id: string): Promise<ShareRecord> {
    const found = parseRecordValue(await ask(`/shares/${encodeURIComponent(id)}`));
    if (typeof found === "string" || (found.type !== "link" && found.type !== "grant"))
      throw new StoreRefusal(`${name} sent no share.`);
    return found;
  }

  /** Opens a link as somebody who only has its address would. */
  async function openedBare({ address }: LinkRecord): Promise<number | string> {
    if (!address) return "The store gives no address to open.";
    // An address comes from outside: only the store's own pages are opened, never another machine's.
    if (!URL.canParse(address) || new URL(address).origin !== new URL(url).origin)
      return "The address is outside its store, so it was not opened.";
    return (await answerOf(address)).status;
  }

  /** Looks at a new share as its recipient will see it. */
  async function probeMade(change: MakingChange, made: ShareRecord | undefined): Promise<ProbeResult> {
    if (!made) return { dead: false, words: "The store didn’t say what it made." };
    const now = await share(made.id);
    if (now.role !== change.role || now.download !== change.download || now.type !== made.type)
      return { dead: false, words: "The store lists it differently." };
    if (now.type === "grant" || change.action === "new-grant") return { dead: true, words: "The store lists it." };
    const [expected, words] = MET[metBy(change)];
    // Opening it would use it up for its recipient.
    if (expected === 200 && change.maxUses !== null)
      return { dead: true, words: "The store lists it. It wasn’t opened: that would have counted as a use." };
    const status = await openedBare(now);
    if (typeof status === "string") return { dead: false, words: status };
    return status === expected
      ? { dead: true, words }
      : { dead: false, words: `Its address answers otherwise than it should (${status}).` };
  }

  async function probeLocked(link: LinkRecord): Promise<ProbeResult> {
    const status = await openedBare(link);
    if (typeof status === "string") return { dead: false, words: status };
    return status === 401
      ? { dead: true, words: "The address alone opens nothing: it asks who comes, or for a password." }
      : { dead: false, words: `The address alone still answers (${status}).` };
  }

  async function probeLink(link: LinkRecord): Promise<ProbeResult> {
    const status = await openedBare(link);
    if (typeof status === "string") return { dead: false, words: status };
    if (status === 410 || status === 404) return { dead: true, words: "The address answers: no longer available." };
    return { dead: false, words: `The address still answers (${status}).` };
  }

  async function probeGrant(id: string): Promise<ProbeResult> {
    const now = await share(id);
    return now.revokedAt
      ? { dead: true, words: "The store lists it as revoked." }
      : { dead: false, words: "The store still lists it." };
  }
}

/** What somebody with the address of a new link meets: the status, and in words. */
const MET = {
  start: [403, "Opened as its recipient would: it isn’t open yet."],
  password: [401, "Opened as its recipient would: it asks for the passphrase."],
  address: [401, "Opened as its recipient would: it asks who comes."],
  nothing: [200, "Opened as its recipient would: it opens."],
} as const;

function metBy({ opensAt, password, reach }: Extract<Change, { action: "new-link" }>): keyof typeof MET {
  if (opensAt !== null) return "start";
  return password ? "password" : reach === "open" ? "nothing" : "address";
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // A store with a failure may answer with a page; then there is only its status to report.
    return undefined;
  }
}

/** RFC 9110, 10.2.3: a number of seconds, or a date. */
function retryAfterMs(header: string | null): number {
  if (header === null) return 0;
  const ms = /^\d+$/.test(header) ? Number(header) * 1_000 : Date.parse(header) - Date.now();
  return Number.isFinite(ms) ? Math.min(Math.max(0, ms), LONGEST_PAUSE_MS) : 0;
}

class TooMuch extends Error {}

/** What a store answers, read up to a limit. @throws {TooMuch} past it, without reading on */
async function boundedText(body: AsyncIterable<Uint8Array>): Promise<string> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of body) {
    bytes += piece.byteLength;
    if (bytes > MOST_BYTES) throw new TooMuch();
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString("utf8");
}

function listed(dead: boolean, what: string): ProbeResult {
  return { dead, words: dead ? `The store no longer lists ${what} there.` : `The store still lists ${what} there.` };
}

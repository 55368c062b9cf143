import type { Change } from "@/core/changes/change";
import type { EstateRecord, ShareRecord, StoreRecord } from "@/core/estate/records";

/** A page of what changed in a store after a cursor; from cursor 0 on, that is everything. */
export interface RecordPage {
  entries: Entry[];
  next: number;
  isLast: boolean;
}

export interface EventsPage {
  events: unknown[];
  next: number;
  isLast: boolean;
}

/** A record as a store has it since `at`; `gone` where it has it no more. */
export interface Entry {
  at: string;
  record: EstateRecord;
  gone: boolean;
}

/** What a recipient would meet. `dead` is what a change that shuts something must come to. */
export interface ProbeResult {
  dead: boolean;
  /** In plain words: "The address answers: no longer available". */
  words: string;
}

export interface StoreAdapter {
  describe(): Promise<StoreRecord>;
  read(cursor: number): Promise<RecordPage>;
  /** What happened there after a cursor, as the store tells it; each event is checked where it is kept. */
  events(cursor: number): Promise<EventsPage>;
  /**
   * Safe to send again with the same key: the store does it once. Returns what it changed, as that is then.
   * @param passphrase for a change that sets one, and for no other
   */
  apply(change: Change, key: string, passphrase?: string): Promise<Entry[]>;
  /** A share as it is there now. */
  share(id: string): Promise<ShareRecord>;
  /**
   * Looks whether a change took.
   * @param before the share that it was about, as it was, where it was about one
   * @param made the share that it made, in the store's own names, where it makes one
   */
  probe(change: Change, before: ShareRecord | null, made?: ShareRecord): Promise<ProbeResult>;
}

/** The store refused: trying again would not help. */
export class StoreRefusal extends Error {}

/** It broke over this request; it wants quiet, and may have said for how long; or it could not be reached at all. */
export type TroubleKind = "broken" | "busy" | "unreached";

/** The store could not be asked, or stumbled: trying again may help. */
export class StoreTrouble extends Error {
  constructor(
    message: string,
    readonly kind: TroubleKind,
    /** How long the store asked to be left alone. */
    readonly retryAfterMs = 0,
  ) {
    super(message);
  }
}

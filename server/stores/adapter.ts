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

/** A record as a store has had it since `at`; `gone` if it no longer has it. */
export interface Entry {
  at: string;
  record: EstateRecord;
  gone: boolean;
}

/** What a recipient would meet. `dead` is the required result of a change that shuts something. */
export interface ProbeResult {
  dead: boolean;
  /** In plain words: "The address answers: no longer available". */
  words: string;
}

export interface StoreAdapter {
  describe(): Promise<StoreRecord>;
  read(cursor: number): Promise<RecordPage>;
  /** What happened there after a cursor, as the store reports it; events are checked where they are stored. */
  events(cursor: number): Promise<EventsPage>;
  /**
   * Safe to send again with the same key: the store does it once. Returns what it changed, as that is then.
   * @param passphrase for a change that sets one, and for no other
   */
  apply(change: Change, key: string, passphrase?: string): Promise<Entry[]>;
  /** A share as it is there now. */
  share(id: string): Promise<ShareRecord>;
  /**
   * Checks whether a change has taken effect.
   * @param before the share that it was about, as it was, where it was about one
   * @param made the share that it made, in the store's own names, where it makes one
   */
  probe(change: Change, before: ShareRecord | null, made?: ShareRecord): Promise<ProbeResult>;
}

/** The store refused: trying again would not help. */
export class StoreRefusal extends Error {}

/** The store failed on this request; it wants a pause, and may have said for how long; or it couldn't be reached at all. */
export type TroubleKind = "broken" | "busy" | "unreached";

/** The store couldn't be asked, or had a temporary failure: trying again may help. */
export class StoreTrouble extends Error {
  constructor(
    message: string,
    readonly kind: TroubleKind,
    /** How long a pause the store asked for. */
    readonly retryAfterMs = 0,
  ) {
    super(message);
  }
}

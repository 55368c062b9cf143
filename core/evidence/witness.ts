/** Kinds of places outside that can hold a checkpoint: whoever rewrote the ledger would have to change it there too. */
export const WITNESS_KINDS = ["folder", "mail", "webhook", "log", "stamp"] as const;
export type WitnessKind = (typeof WITNESS_KINDS)[number];

/** A witness, and how far the ledger has gone to it. */
export interface Witness {
  id: number;
  kind: WitnessKind;
  /** A folder or an address; empty for the webhook and the log. */
  to: string;
  addedAt: string;
  /** The largest checkpoint that it has taken, and when; 0 and null before it took any. */
  sentSize: number;
  sentAt: string | null;
  /** Why it has not taken the next one. */
  error: string | null;
}

import type { Label, Stance } from "../estate/records";
import type { Seconds } from "../time/instant";

/** Our stance on an outsider; `other` where we have none. */
export const PARTIES = ["trusted", "personal", "denied", "other"] as const satisfies readonly (Stance | "other")[];
export type Party = (typeof PARTIES)[number];

/** Something that an event refers to, as it was at the time. Later changes don't alter it. */
export interface Spoken {
  kind: "person" | "item" | "share" | "other";
  /** Of a person the normalised address; else an id. */
  key: string;
  name: string;
  /** For an item, the names above it; for a person, the address; for a share, its audience. */
  detail: string;
  /** Of an item the worst label on the way to it. */
  label?: Label;
  /** Of an item the ids of all above it, and its own. */
  path?: string[];
  /** Normalised addresses: the person's own, or those whom a named share names. */
  people?: string[];
  /** Those among them who are outsiders: their organisations, and our stances on them. */
  organisations?: string[];
  parties?: Party[];
}

/** A remark on an event, mostly about what is wrong with it. The event is kept all the same. */
export const REMARKS = ["unknown-verb", "unknown-thing", "late", "unreadable", "ours"] as const;
export type Remark = (typeof REMARKS)[number];

/** @param bits one for each of REMARKS */
export const remarksIn = (bits: number): Remark[] => REMARKS.filter((_, bit) => (bits >> bit) & 1);

export const REMARK_WORDS: Record<Remark, string> = {
  "unknown-verb": "Its verb is unknown",
  "unknown-thing": "It refers to something never seen",
  late: "It arrived after later events",
  unreadable: "It couldn’t be read and is kept as it came",
  ours: "Done by a Tight Latch docket",
};

/** The parts of an event: who did it, to what, through which share, and with whom or what else. */
export const PARTS = ["who", "item", "share", "whom"] as const;
export type Part = (typeof PARTS)[number];

export type SpokenParts = Record<Part, Spoken | null>;

/** Something that happened, with everything it refers to. */
export interface TrailEvent extends SpokenParts {
  /** In the order in which events came to us. */
  seq: number;
  at: Seconds;
  /** The store that told of it, or `file`. */
  source: string;
  verb: string;
  remarks: Remark[];
}

/** An event that has just come, with the change of ours that brought it about, where its store names one. */
export interface FreshEvent extends TrailEvent {
  change: string | null;
}

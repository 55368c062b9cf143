import type { Generated } from "kysely";
import type { ChangeState, DocketState } from "@/core/dockets/progress";
import type { RecordType } from "@/core/estate/records";

/** The tables, as Kysely sees them. `migrations.ts` makes them. */
export interface Schema {
  fact: FactTable;
  connection: ConnectionTable;
  removal: RemovalTable;
  ledger: LedgerTable;
  docket: DocketTable;
  docket_change: DocketChangeTable;
  kept_query: KeptQueryTable;
  setting: SettingTable;
  note: NoteTable;
  waiver: WaiverTable;
  user: UserTable;
}

/** A record of the estate and the period in which it held. `from` null: since before we looked. */
export interface FactTable {
  id: Generated<number>;
  source: string;
  type: RecordType;
  key: string;
  body: string;
  from: string | null;
  to: string | null;
}

/** A fact that ended without another taking its place, in the order in which we learned of it. */
export interface RemovalTable {
  seq: Generated<number>;
  fact_id: number;
}

/** A store that we read, and how far the reading has come. */
export interface ConnectionTable {
  id: string;
  name: string;
  url: string;
  /** The store's key, sealed. */
  key: string;
  cursor: Generated<number>;
  /** When the first reading was whole; until then facts have no beginning that we saw. */
  first_read_at: string | null;
  last_read_at: string | null;
  last_error: string | null;
  records: Generated<number>;
}

export interface LedgerTable {
  seq: number;
  at: string;
  actor: string;
  kind: string;
  body: string;
  previous: string;
  hash: string;
}

export interface DocketTable {
  id: string;
  state: DocketState;
  made_by: string;
  made_at: string;
  applied_at: string | null;
  finished_at: string | null;
}

export interface DocketChangeTable {
  /** Also the key by which a store knows a change that it was sent before. */
  id: string;
  docket_id: string;
  position: number;
  subject: string;
  store_id: string;
  /** What the share was when it was staged, in words. */
  item_name: string;
  audience: string;
  body: string;
  state: ChangeState;
  tries: Generated<number>;
  sent_at: string | null;
  answered_at: string | null;
  answer: string | null;
  /** What came of opening the old address, or of reading the grant again. */
  probe: string | null;
  probed_at: string | null;
}

/** A query that somebody keeps under a name; `view` is what stands in the register's address. */
export interface KeptQueryTable {
  id: string;
  owner: string;
  name: string;
  view: string;
  for_all: number;
  made_at: string;
}

/** What the application remembers for one person. `body` is JSON. */
export interface SettingTable {
  person: string;
  name: string;
  body: string;
}

export interface NoteTable {
  id: Generated<number>;
  share_id: string;
  author: string;
  at: string;
  text: string;
}

/** Leave for a share to break a rule, until an instant. */
export interface WaiverTable {
  id: Generated<number>;
  share_id: string;
  rule: string;
  reason: string;
  given_by: string;
  given_at: string;
  until: string;
  ended_at: string | null;
}

/** The part of the sign-in package's table that we read ourselves. */
export interface UserTable {
  id: string;
  name: string;
  email: string;
  role: string;
}

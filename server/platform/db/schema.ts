import type { Every, ScheduledKind } from "@/core/evidence/schedule";
import type { WitnessKind } from "@/core/evidence/witness";
import type { Generated } from "kysely";
import type { ChangeState, DocketOrigin, DocketState } from "@/core/changes/states";
import type { DemandState } from "@/core/rules/demand";
import type { RequestState } from "@/core/sharing/request";
import type { RuleId } from "@/core/rules/list";
import type { Suggestion } from "@/core/advice/suggest";
import type { DeciderKind } from "@/core/rounds/decider";
import type { LineDecision, LineState } from "@/core/rounds/line";
import type { RoundStage } from "@/core/rounds/reminders";
import type { RoundState } from "@/core/rounds/round";
import type { NameSpace } from "@/core/estate/naming";
import type { LabelRule } from "@/core/estate/labels";
import type { Label, RecordType, Stance } from "@/core/estate/records";
import type { AlertState, Channel } from "@/core/trail/watch";
import type { SignInRole } from "@/contract/roles";
import type { Severity } from "@/core/rules/severity";

/** The tables, as Kysely sees them. `migrations.ts` makes them. */
export interface Schema {
  fact: FactTable;
  connection: ConnectionTable;
  removal: RemovalTable;
  source: SourceTable;
  own_id: OwnIdTable;
  ledger: LedgerTable;
  checkpoint: CheckpointTable;
  ledger_key: LedgerKeyTable;
  witness: WitnessTable;
  stamp: StampTable;
  reading_day: ReadingDayTable;
  label_rule: LabelRuleTable;
  share_request: ShareRequestTable;
  clearing: ClearingTable;
  import_mapping: ImportMappingTable;
  import_run: ImportRunTable;
  report_schedule: ReportScheduleTable;
  pack_key: PackKeyTable;
  docket: DocketTable;
  docket_change: DocketChangeTable;
  saved_query: SavedQueryTable;
  setting: SettingTable;
  openness: OpennessTable;
  note: NoteTable;
  waiver: WaiverTable;
  spoken: SpokenTable;
  event: EventTable;
  event_again: EventAgainTable;
  watch: WatchTable;
  watch_hit: WatchHitTable;
  alert: AlertTable;
  notice: NoticeTable;
  rule_setting: RuleSettingTable;
  letter: LetterTable;
  round: RoundTable;
  round_line: RoundLineTable;
  round_tally: RoundTallyTable;
  round_decider: RoundDeciderTable;
  round_passing: RoundPassingTable;
  round_mail: RoundMailTable;
  look: LookTable;
  look_line: LookLineTable;
  deputy: DeputyTable;
  department_head: DepartmentHeadTable;
  stance: StanceTable;
  same_firm: SameFirmTable;
  last_day: LastDayTable;
  leaver: LeaverTable;
  engagement: EngagementTable;
  extension: ExtensionTable;
  organisation_note: OrganisationNoteTable;
  demand: DemandTable;
  standing_order: StandingOrderTable;
  passphrase: PassphraseTable;
  lease: LeaseTable;
  user: UserTable;
  account: AccountTable;
  session: SessionTable;
  twoFactor: TwoFactorTable;
  passkey: PasskeyTable;
  used_code: UsedCodeTable;
  try_count: TryCountTable;
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

/** Where facts come from: a store that is read, or whatever an import speaks for. */
export interface SourceTable {
  name: string;
  kind: "store" | "import" | "directory";
  /** When it first told anything. */
  first_told_at: string;
}

/**
 * Our id for something that a source knows by its own id. Only where the two differ, since an earlier source
 * already used the id, or since the source only mentions the thing. Rows are never changed.
 */
export interface OwnIdTable {
  source: string;
  space: NameSpace;
  own: string;
  id: string;
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
  /** How far its events have been read. */
  event_cursor: Generated<number>;
  /** When the first reading was complete; until then the beginning of facts is unknown. */
  first_read_at: string | null;
  last_read_at: string | null;
  last_error: string | null;
  records: Generated<number>;
  /** Whether its next reading starts from the beginning, to find out what is gone. */
  reads_again: Generated<number>;
}

/** How often a store was read on a day in UTC, and with what result. */
export interface ReadingDayTable {
  store: string;
  day: string;
  readings: number;
  /** Records that were new or changed. */
  records: number;
  /** Readings that failed. */
  errors: number;
  /** The longest time before a reading of the day in which nothing was read, in seconds. */
  gap: number;
}

/** Our own label rules, each with its period. */
export interface LabelRuleTable {
  id: Generated<number>;
  label: Label;
  kind: LabelRule["on"];
  subject: string;
  set_by: string;
  set_at: number;
  ended_at: number | null;
}

/** How reports of one shape are read, and for which source they count. */
export interface ImportMappingTable {
  name: string;
  source: string;
  /** What the store is called. */
  title: string;
  body: string;
  saved_by: string;
  saved_at: number;
}

/** A report that was imported, or is. */
export interface ImportRunTable {
  id: Generated<number>;
  source: string;
  file: string;
  mapping: string;
  by: string;
  at: number;
  state: "going" | "done" | "stopped";
  /** Digest of the file and of how it was read: the same again changes nothing. */
  digest: string;
  /** The last fact of its source: before it, and once it was done. */
  last_fact: number;
  rows: number;
  skipped: number;
  changed: Generated<number>;
  ended: Generated<number>;
}

export interface LedgerTable {
  seq: number;
  at: string;
  actor: string;
  kind: string;
  /** Canonical JSON, and of before there were checkpoints any JSON. */
  body: string;
  previous: string;
  hash: string;
  /** Hashes of the nodes of the tree that it completes, level by level, 32 bytes each. */
  nodes: Uint8Array;
  /** Details that can name somebody outside, and their salt; null where there are none, or they were erased. */
  detail: string | null;
  salt: Uint8Array | null;
}

/** The state of the ledger at a time, signed. */
export interface CheckpointTable {
  /** How many entries it had. */
  size: number;
  at: string;
  note: string;
}

/** Witnesses: where checkpoints go, and the latest that each has. */
export interface ReportScheduleTable {
  id: Generated<number>;
  kind: ScheduledKind;
  every: Every;
  target: string;
  /** By whose clocks its day begins. */
  zone: string;
  added_by: string;
  /** When it is due next, and when it is tried at the earliest. */
  due_at: number;
  next_at: number;
  sent_at: number | null;
  tries: Generated<number>;
  error: string | null;
}

/** By the number of a pack's entry. */
export interface PackKeyTable {
  seq: number;
  sealed: string;
}

export interface WitnessTable {
  id: Generated<number>;
  kind: WitnessKind;
  /** A folder, an address; empty for the webhook and the log. */
  target: string;
  added_at: string;
  /** The largest checkpoint that it has taken, and when. */
  sent_size: Generated<number>;
  sent_at: string | null;
  tries: Generated<number>;
  /** It isn't tried again before then. */
  next_at: Generated<number>;
  error: string | null;
}

/** What a time-stamping authority has answered about a checkpoint. */
export interface StampTable {
  size: number;
  witness_id: number;
  /** Its whole answer in DER (RFC 3161, section 2.4.2). */
  answer: Uint8Array;
}

/** A key that signs checkpoints. */
export interface LedgerKeyTable {
  id: string;
  name: string;
  public_key: string;
  sealed: string;
  made_at: string;
  /** The last entry of before. */
  made_after: number;
}

export interface DocketTable {
  id: string;
  state: DocketState;
  made_by: string;
  made_at: string;
  applied_at: string | null;
  finished_at: string | null;
  origin: Generated<DocketOrigin>;
  /** What it is for, unless somebody put it together by hand. */
  words: string | null;
  /** Who asked for it to be applied, and who approved it, where it needs approval. */
  asked_by: string | null;
  approved_by: string | null;
  /** Who had it applied. */
  applied_by: string | null;
  /** Its name and reason, from whoever applies it. */
  name: string | null;
  reason: string | null;
}

export interface DocketChangeTable {
  /** Also the key by which a store recognises a change that it was sent before. */
  id: string;
  docket_id: string;
  position: number;
  subject: string;
  /** The share that it changes; null where it changes none. */
  share_id: string | null;
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
  /** The result of opening the old address, or of reading the grant again. */
  probe: string | null;
  probed_at: string | null;
  /** The record of its share or item as it was known when the docket was applied: what was decided about. */
  seen: string | null;
  /** The records that the store answered with, as a list. */
  answered: string | null;
  /** The docket that undoes it. */
  undone_in: string | null;
  /** 1 if a probe showed that it took effect, 0 if it didn't or couldn't be checked; null before that. */
  checked: number | null;
}

/** A saved query; `view` is the register's address. */
export interface SavedQueryTable {
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

/** A waiver: a share may break a rule until an instant. */
export interface WaiverTable {
  id: Generated<number>;
  share_id: string;
  rule: RuleId;
  reason: string;
  given_by: string;
  given_at: string;
  until: string;
  ended_at: string | null;
  /** When its author was told that it is about to end, and when the ledger recorded that it has. */
  warned_at: string | null;
  over_at: string | null;
}

/** How a rule is set, from one time up to another: a `RuleSetting` as JSON. */
export interface RuleSettingTable {
  id: Generated<number>;
  rule: RuleId;
  body: string;
  set_by: string;
  set_at: string;
  ended_at: string | null;
}

/** A message to one of our own people. Its content is written when it goes out. */
export type LetterKind =
  | "ask"
  | "waiver-ends"
  | "docket-owners"
  | "docket-recipients"
  | "round"
  | "round-late"
  | "engagement"
  | "share-sent"
  | "share-decided";
export interface LetterTable {
  id: Generated<number>;
  kind: LetterKind;
  target: string;
  docket_id: string | null;
  /** The whole content of a docket's notice, sealed, since it may contain addresses of links; wiped once it is sent. */
  content: string | null;
  state: "waiting" | "sent" | "aside";
  made_at: number;
  due_at: number;
  next_at: number;
  tries: Generated<number>;
  sent_at: number | null;
  error: string | null;
}

/** A round: what was asked for, as JSON, and how far it is. Instants are seconds. */
export interface RoundTable {
  id: Generated<number>;
  /** As in `roundSchema`. When it opens and closes is in columns of its own too, which count. */
  body: string;
  /** The first round of those that repeat; null where it is held once. */
  series: number | null;
  state: RoundState;
  opens_at: number;
  closes_at: number;
  made_by: string;
  made_at: number;
  opened_at: number | null;
  closed_at: number | null;
  /** Who closed it early, or stopped it; null where its time was over. */
  ended_by: string | null;
  /** How many lines it has; while it is being opened, how many so far. */
  lines: Generated<number>;
  /** SHA-256 of the ids of its shares. */
  lines_hash: string | null;
  /** What was carried out when it closed. */
  docket_id: string | null;
  /** The last fact up to which its shares have been checked for changes. */
  seen_fact: Generated<number>;
}

/**
 * One share in one round. The share is described as it was when last asked about; its whole record at the
 * opening is among the facts, which are never changed.
 */
export interface RoundLineTable {
  id: Generated<number>;
  round_id: number;
  share_id: string;
  /** The decider's address; empty where that is left to the administrators. */
  decider: string;
  decider_name: string;
  decided_as: DeciderKind | null;
  instead_of: string | null;
  /** The decider's; empty where they have none. */
  department: string;
  item_name: string;
  /** The store and the folders above the item, as one text. */
  place: string;
  audience: string;
  audience_key: string;
  audience_title: string;
  sentence: string;
  asked: string;
  suggested: Suggestion["suggest"] | null;
  suggested_until: number | null;
  /** Rules, as a list with commas. */
  because: string;
  state: LineState;
  /** The decision, as in `decisionSchema`; for a line that has changed since, the earlier one. */
  decision: string | null;
  reason: string | null;
  /** Of a line that is kept: until when. */
  until: number | null;
  decided_by: string | null;
  decided_at: number | null;
  /** How long they took over it. */
  seconds: number | null;
  /** Whether it was decided otherwise than suggested. */
  overruled: number | null;
  /** When it became final: the decision began to be carried out, the share ended, or the round closed. */
  settled_at: number | null;
  /** The docket that carries it out; null where none was needed. */
  docket_id: string | null;
  /** When its share was found to have changed, and the sentence from before. */
  changed_at: number | null;
  before: string | null;
  /** Who had it before, as a list with spaces. */
  passed_from: Generated<string>;
}

/** How many lines of one decider are in one state; triggers keep it. */
export interface RoundTallyTable {
  round_id: number;
  decider: string;
  state: LineState;
  name: string;
  department: string;
  lines: number;
  changed: number;
  passed: number;
}

/** Somebody who decides in a round: when they last gave a sign, and when they said that they had finished. */
export interface RoundDeciderTable {
  round_id: number;
  person: string;
  seen_at: number | null;
  finished_at: number | null;
}

export interface RoundPassingTable {
  id: Generated<number>;
  round_id: number;
  share_id: string;
  from: string;
  to: string;
  reason: string;
  /** Who passed it on: the decider or an administrator. */
  by: string;
  at: number;
}

/** Letters of a round, so that none is sent twice. */
export interface RoundMailTable {
  round_id: number;
  person: string;
  stage: RoundStage;
  at: number;
}

/** A second look at some of the lines that were kept. */
export interface LookTable {
  id: Generated<number>;
  round_id: number;
  percent: number;
  /** In thousandths. */
  confidence: number;
  seed: string;
  /** How many kept lines the sample was drawn from. */
  of: number;
  made_by: string;
  made_at: number;
}

export interface LookLineTable {
  look_id: number;
  share_id: string;
  position: number;
  decision: LineDecision | null;
  decided_by: string | null;
  decided_at: number | null;
}

/** Who decides in somebody's place, from an instant until before another. */
export interface DeputyTable {
  id: Generated<number>;
  person: string;
  deputy: string;
  from_at: number;
  until_at: number;
  given_by: string;
  ended_at: number | null;
}

export interface DepartmentHeadTable {
  department: string;
  person: string;
}

/** What somebody has written on an organisation. The instant in seconds. */
export interface OrganisationNoteTable {
  id: Generated<number>;
  domain: string;
  author: string;
  at: number;
  text: string;
}

/** When somebody leaves, as it was said here. Instants in seconds; rows are never removed. */
export interface LastDayTable {
  id: Generated<number>;
  person: string;
  at: number;
  reason: string;
  set_by: string;
  set_at: number;
  ended_at: number | null;
}

/** A leaver with something still standing, and since when they have left. */
export interface LeaverTable {
  person: string;
  since: number;
}

/** An engagement that was made here; its content is among the facts. Instants in seconds. */
export interface EngagementTable {
  id: string;
  /** Who answers for it, by address. */
  responsible: string;
  made_by: string;
  made_at: number;
  /** The end of which they have been told, and the end for which a docket has been prepared. */
  warned_at: number | null;
  docket_at: number | null;
}

/** That an engagement got another end. Instants in seconds. */
export interface ExtensionTable {
  id: Generated<number>;
  engagement_id: string;
  from: number;
  until: number;
  reason: string;
  by: string;
  at: number;
}

/** A stance that was set here, as long as it isn't ended; the fact that says so to the estate is kept beside it. */
export interface StanceTable {
  id: Generated<number>;
  domain: string;
  stance: Stance;
  reason: string;
  set_by: string;
  set_at: number;
  until: number | null;
  ended_at: number | null;
}

/** Two domains that are one firm's, in the order of their letters. */
export interface SameFirmTable {
  id: Generated<number>;
  domain: string;
  other: string;
  said_by: string;
  said_at: number;
  ended_at: number | null;
}

/** A rule's demand on a share or an item, and on whom. */
export interface DemandTable {
  id: Generated<number>;
  rule: RuleId;
  /** Id of the share, or of the item where the rule is on items. */
  subject: string;
  /** The owner's address; empty where nobody answers for it any more. */
  owner: string;
  state: DemandState;
  found_at: number;
  /** The days of grace: from when the owner was told. */
  begun_at: number | null;
  due_at: number | null;
  letter_id: number | null;
  docket_id: string | null;
  answered_at: number | null;
  answer: string | null;
}

/** A share that we revoke ourselves at an instant, since its store can't keep an end. */
export interface StandingOrderTable {
  id: Generated<number>;
  share_id: string;
  item_name: string;
  on_at: string;
  state: "standing" | "done" | "dropped";
  made_by: string;
  made_at: string;
  ended_at: string | null;
  docket_id: string | null;
}

/** A passphrase that was set and has to be handed over: sealed until it has been shown, or for seven days. */
export interface PassphraseTable {
  change_id: string;
  share_id: string;
  sealed: string | null;
  made_at: number;
  shown_at: number | null;
  shown_to: string | null;
  wiped_at: number | null;
}

/** Work that only one process may do at a time. */
export interface LeaseTable {
  name: string;
  holder: string;
  until: number;
}

/** What events refer to, as it was at the time: a `Spoken` as JSON. */
export interface SpokenTable {
  id: Generated<number>;
  body: string;
}

/** An event as it was reported. Its parts are ids in `spoken`, 0 where there is none; instants are seconds. */
export interface EventTable {
  seq: number;
  at: number;
  source: string;
  key: string;
  verb: string;
  who: number;
  item: number;
  share: number;
  whom: number;
  /** A bit for each of `REMARKS`. */
  remarks: number;
  body: string;
}

export interface EventAgainTable {
  id: Generated<number>;
  source: string;
  key: string;
  told_at: string;
  body: string;
}

/** A standing watch; `body` is a `Watch` as JSON. Events before `since` raise nothing. */
export interface WatchTable {
  id: string;
  name: string;
  body: string;
  is_on: number;
  since: number;
  made_by: string;
  made_at: string;
}

/** An event that counts towards a watch for many in a short time. */
export interface WatchHitTable {
  watch_id: string;
  key: string;
  at: number;
  seq: number;
}

export interface AlertTable {
  id: Generated<number>;
  watch_id: string;
  /** What makes up one alert: a share and a person, or whatever the watch counts by. */
  key: string;
  severity: Severity;
  state: AlertState;
  first_at: number;
  last_at: number;
  raised_at: string;
  count: number;
  first_seq: number | null;
  last_seq: number | null;
  share_id: string | null;
  item_id: string | null;
  person: string | null;
  words: string;
  assigned_to: string | null;
  settled_by: string | null;
  settled_at: string | null;
  note: string | null;
}

/** A message about an alert, to be sent. `held` ones go in one digest when they are due. */
export interface NoticeTable {
  id: Generated<number>;
  watch_id: string;
  alert_id: number;
  channel: Channel;
  target: string;
  state: "waiting" | "held" | "sent" | "aside";
  made_at: number;
  due_at: number;
  /** When it is tried, or tried again. */
  next_at: number;
  tries: Generated<number>;
  sent_at: number | null;
  error: string | null;
}

/** The part of the sign-in package's table that we read ourselves. */
export interface UserTable {
  id: string;
  name: string;
  email: string;
  role: SignInRole;
  zone: Generated<string>;
  dateStyle: string | null;
  weekStart: number | null;
  twoFactorEnabled: Generated<number>;
}

/** A way of one person to sign in. */
export interface AccountTable {
  userId: string;
  providerId: string;
  password: string | null;
  updatedAt: string;
}

export interface SessionTable {
  id: string;
  userId: string;
  createdAt: string;
  expiresAt: string;
  ipAddress: string | null;
  userAgent: string | null;
  /** How they signed in. */
  by: string | null;
  /** When it was last used, in seconds of the machine's clock. */
  usedAt: number | null;
}

export interface TwoFactorTable {
  userId: string;
  verified: number | null;
  failedVerificationCount: number | null;
  lockedUntil: string | null;
}

export interface PasskeyTable {
  id: string;
  name: string | null;
  userId: string;
  createdAt: string | null;
}

/** A code of a second factor that was used, so that it can't be used again. */
export interface UsedCodeTable {
  user_id: string;
  code: string;
  at: number;
}

/** How much was open on a day, in UTC, by some weights of the labels. */
export interface OpennessTable {
  day: string;
  weights: string;
  mass: number;
  /** 1 if it was worked out later from the facts. */
  afterwards: number;
}

/** Counted attempts: for which limit and whom, and until when they count, in milliseconds. */
export interface TryCountTable {
  key: string;
  points: number;
  expire: number | null;
}

/** Who wants to share what, and what has become of it. Wish, waivers and ids of the shares made are JSON. */
export interface ShareRequestTable {
  id: string;
  item_id: string;
  item_name: string;
  wish: string;
  why: string;
  asked_by: string;
  asked_at: number;
  state: RequestState;
  waivers: string;
  word: string | null;
  decided_by: string | null;
  decided_at: number | null;
  due_at: number | null;
  docket_id: string | null;
  shares: Generated<string>;
}

/** A month in which links that were over were cleared by themselves. */
export interface ClearingTable {
  id: Generated<number>;
  /** Such as 2026-11. */
  month: string;
  docket_id: string | null;
  links: number;
}

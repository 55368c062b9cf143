import Database from "better-sqlite3";
import { readFileSync } from "node:fs";
import { normaliseAddress } from "../../core/estate/address";
import type {
  EstateRecord,
  EventRecord,
  GrantRecord,
  ItemRecord,
  LinkRecord,
  PersonRecord,
  RecordOf,
} from "../../core/estate/records";
import { recordKey } from "../../core/estate/records";
import { nowText } from "../parts/clock";
import { hashPassword } from "./passwords";

/** One record as it stands now, with the place of its last change in the order of all changes. */
export interface Entry {
  seq: number;
  at: string;
  record: EstateRecord;
  /** It is no more. */
  gone: boolean;
}

interface Row {
  seq: number;
  at: string;
  body: string;
}

/** The data of one stand-in store: its own SQLite file, which only its own process opens. */
export class StoreDatabase {
  private readonly db: Database.Database;
  /** What has been prepared, by its text: to parse it each time takes longer than to run it. */
  private readonly statements = new Map<string, Database.Statement>();
  /** The key of the change that is being carried out: events that come of it name it. */
  changing: string | null = null;

  constructor(path: string) {
    this.db = new Database(path);
    this.db.pragma("journal_mode = WAL");
    this.db.exec(`
      create table if not exists record (
        seq integer primary key autoincrement, at text not null, type text not null, key text not null,
        parent text, token text, body text not null, unique (type, key));
      create index if not exists record_parent on record (parent);
      create unique index if not exists record_token on record (token) where token is not null;
      create index if not exists record_item on record (type, json_extract(body, '$.itemId'));
      create index if not exists record_group on record (type, json_extract(body, '$.groupId'));
      create index if not exists record_member on record (type, json_extract(body, '$.memberId'));
      create table if not exists gone (type text, key text, primary key (type, key));
      create table if not exists event (seq integer primary key autoincrement, body text not null);
      create table if not exists applied (key text primary key, status integer not null, body text not null);
      create table if not exists password (link text primary key, hash text not null);
      create table if not exists challenge (link text, address text, secret text not null, primary key (link, address));
      create table if not exists sent_in (item text primary key, name text not null, sender text not null, bytes blob not null);
    `);
  }

  get isEmpty(): boolean {
    return this.statement("select 1 from record limit 1").get() === undefined;
  }

  /**
   * Fills an empty store from a file of records, and `{"type":"password","linkId","password"}` lines. What has no date
   * of its own may say in `since` when it came to be.
   */
  seed(path: string) {
    // Hashing takes its time, and made-up links have few passwords among them.
    const hashes = new Map<string, string>();
    const hashOf = (password: string) =>
      hashes.get(password) ?? hashes.set(password, hashPassword(password)).get(password)!;
    this.db.transaction(() => {
      for (const line of readFileSync(path, "utf8").split("\n").filter(Boolean)) {
        const { since, ...value } = JSON.parse(line);
        if (value.type === "password") this.setPasswordHash(value.linkId, hashOf(value.password));
        else if (value.type === "event") this.addEvent(value);
        else this.put(value, since ?? madeAt(value));
      }
    })();
  }

  private statement(text: string): Database.Statement {
    let statement = this.statements.get(text);
    if (!statement) this.statements.set(text, (statement = this.db.prepare(text)));
    return statement;
  }

  transaction<T>(work: () => T): T {
    return this.db.transaction(work)();
  }

  /** Keeps a record as it is now; it moves to the end of the order of changes. */
  put(record: EstateRecord, at = nowText()) {
    const token = record.type === "link" ? (record.address ?? null) : null;
    const parent = record.type === "item" ? record.parentId : null;
    this.statement("delete from record where type = ? and key = ?").run(record.type, recordKey(record));
    this.statement("delete from gone where type = ? and key = ?").run(record.type, recordKey(record));
    this.statement("insert into record (at, type, key, parent, token, body) values (?, ?, ?, ?, ?, ?)").run(
      at,
      record.type,
      recordKey(record),
      parent,
      token,
      JSON.stringify(record),
    );
  }

  /** Takes a membership out: it moves to the end of the order of changes, as one that is no more. */
  remove(record: RecordOf<"member">) {
    this.put(record);
    this.statement("insert into gone values (?, ?)").run(record.type, recordKey(record));
  }

  after(seq: number, limit: number): Entry[] {
    const rows = this.statement(
      `select record.*, gone.key is not null as gone from record left join gone using (type, key)
         where seq > ? order by seq limit ?`,
    ).all(seq, limit) as (Row & { gone: number })[];
    return rows.map(({ seq, at, body, gone }) => ({ seq, at, record: JSON.parse(body), gone: gone === 1 }));
  }

  get<R extends EstateRecord>(type: R["type"], key: string): R | undefined {
    const row = this.statement("select body from record where type = ? and key = ?").get(type, key) as Row | undefined;
    return row && JSON.parse(row.body);
  }

  /** Records of a type that name something in a field, without those that are no more. */
  private naming<R extends EstateRecord>(type: R["type"], field: "itemId" | "groupId" | "memberId", id: string): R[] {
    const rows = this.statement(
      `select body from record where type = ? and json_extract(body, '$.${field}') = ?
         and not exists (select 1 from gone where gone.type = record.type and gone.key = record.key) order by key`,
    ).all(type, id) as Row[];
    return rows.map((row) => JSON.parse(row.body));
  }

  grantsOn(itemId: string): GrantRecord[] {
    return this.naming("grant", "itemId", itemId);
  }

  membersOf(groupId: string): RecordOf<"member">[] {
    return this.naming("member", "groupId", groupId);
  }

  membershipsOf(memberId: string): RecordOf<"member">[] {
    return this.naming("member", "memberId", memberId);
  }

  /** Ids of the people with a normalised address. */
  peopleAt(address: string): string[] {
    const rows = this.statement("select body from record where type = 'person' order by key").all() as Row[];
    const people = rows.map((row): PersonRecord => JSON.parse(row.body));
    return people.filter(({ email }) => normaliseAddress(email) === address).map(({ id }) => id);
  }

  linkByToken(token: string): LinkRecord | undefined {
    const row = this.statement("select body from record where token = ?").get(token) as Row | undefined;
    return row && JSON.parse(row.body);
  }

  childrenOf(itemId: string): ItemRecord[] {
    const rows = this.statement("select body from record where parent = ? order by key").all(itemId) as Row[];
    return rows.map((row) => JSON.parse(row.body));
  }

  addEvent(event: EventRecord) {
    this.statement("insert into event (body) values (?)").run(JSON.stringify(event));
  }

  eventsAfter(seq: number, limit: number): { seq: number; event: EventRecord }[] {
    const rows = this.statement("select seq, body from event where seq > ? order by seq limit ?").all(seq, limit);
    return (rows as Row[]).map(({ seq, body }) => ({ seq, event: JSON.parse(body) }));
  }

  /** The answer that was given to a change with this key before, if there was one. */
  answerTo(key: string): { status: number; body: unknown } | undefined {
    const row = this.statement("select status, body from applied where key = ?").get(key) as
      { status: number; body: string } | undefined;
    return row && { status: row.status, body: JSON.parse(row.body) };
  }

  keepAnswer(key: string, status: number, body: unknown) {
    this.statement("insert into applied (key, status, body) values (?, ?, ?)").run(key, status, JSON.stringify(body));
  }

  /** How many changes were really carried out; a change sent twice with one key counts once. */
  get appliedCount(): number {
    return (this.statement("select count(*) as n from applied where status = 200").get() as { n: number }).n;
  }

  setPassword(linkId: string, password: string) {
    this.setPasswordHash(linkId, hashPassword(password));
  }

  private setPasswordHash(linkId: string, hash: string) {
    this.statement("insert or replace into password (link, hash) values (?, ?)").run(linkId, hash);
  }

  passwordHash(linkId: string): string | undefined {
    const row = this.statement("select hash from password where link = ?").get(linkId) as { hash: string } | undefined;
    return row?.hash;
  }

  setChallenge(linkId: string, address: string, secret: string) {
    this.statement("insert or replace into challenge values (?, ?, ?)").run(linkId, address, secret);
  }

  challenge(linkId: string, address: string): string | undefined {
    const row = this.statement("select secret from challenge where link = ? and address = ?").get(linkId, address);
    return (row as { secret: string } | undefined)?.secret;
  }

  dropChallenge(linkId: string, address: string) {
    this.statement("delete from challenge where link = ? and address = ?").run(linkId, address);
  }

  keepFile(itemId: string, name: string, sender: string, bytes: Uint8Array) {
    this.statement("insert into sent_in values (?, ?, ?, ?)").run(itemId, name, sender, bytes);
  }

  fileBytes(itemId: string): Uint8Array | undefined {
    return (this.statement("select bytes from sent_in where item = ?").get(itemId) as { bytes: Uint8Array } | undefined)
      ?.bytes;
  }
}

/** When a record that is there from the start came to be. */
function madeAt(record: EstateRecord): string {
  if (record.type === "item" || record.type === "link") return record.createdAt;
  return record.type === "grant" ? record.grantedAt : nowText();
}

import { type Kysely, type Migration, sql } from "kysely";
import { wordsOf } from "@/core/trail/meets";
import { treeOverTheLedger } from "./migrationsOfLedger";

/** Every step that the database has taken, in order. A step that has been released is never changed. */
export const migrations: Record<string, Migration> = {
  "001-estate": { up: estate },
  "002-dockets-and-ledger": { up: docketsAndLedger },
  "003-sign-in": { up: signIn },
  "004-changes-of-all-kinds": { up: changesOfAllKinds },
  "005-register": { up: register },
  "006-trail": { up: trail },
  "007-rules": { up: rules },
  "008-seen": { up: seen },
  "009-undoing": { up: undoing },
  "010-approval": { up: approval },
  "011-words": { up: words },
  "012-sources": { up: sources },
  "013-names": { up: names },
  "014-doors": { up: doors },
  "015-appliers": { up: appliers },
  "016-dates": { up: dates },
  "017-docket-names": { up: docketNames },
  "018-openness": { up: openness },
  "019-rounds": { up: rounds },
  "020-outsiders": { up: outsiders },
  "021-leavers-and-engagements": { up: leaversAndEngagements },
  "022-tree-over-the-ledger": { up: treeOverTheLedger },
  "023-reports": { up: reports },
  "024-beginnings": { up: beginnings },
  "025-imports": { up: imports },
  "026-sharing": { up: sharing },
  "027-pages-of-dockets": { up: pagesOfDockets },
};

async function estate(db: Kysely<unknown>) {
  await db.schema
    .createTable("fact")
    .addColumn("id", "integer", (c) => c.primaryKey())
    .addColumn("source", "text", (c) => c.notNull())
    .addColumn("type", "text", (c) => c.notNull())
    .addColumn("key", "text", (c) => c.notNull())
    .addColumn("body", "text", (c) => c.notNull())
    .addColumn("from", "text")
    .addColumn("to", "text")
    .execute();
  // One fact at a time of each thing: what holds now has no end.
  await sql`create unique index fact_now on fact (type, key) where "to" is null`.execute(db);
  await sql`create index fact_history on fact (type, key, "from")`.execute(db);
  await db.schema
    .createTable("connection")
    .addColumn("id", "text", (c) => c.primaryKey())
    .addColumn("name", "text", (c) => c.notNull())
    .addColumn("url", "text", (c) => c.notNull())
    .addColumn("key", "text", (c) => c.notNull())
    .addColumn("cursor", "integer", (c) => c.notNull().defaultTo(0))
    .addColumn("first_read_at", "text")
    .addColumn("last_read_at", "text")
    .addColumn("last_error", "text")
    .addColumn("records", "integer", (c) => c.notNull().defaultTo(0))
    .execute();
}

async function docketsAndLedger(db: Kysely<unknown>) {
  await db.schema
    .createTable("ledger")
    .addColumn("seq", "integer", (c) => c.primaryKey())
    .addColumn("at", "text", (c) => c.notNull())
    .addColumn("actor", "text", (c) => c.notNull())
    .addColumn("kind", "text", (c) => c.notNull())
    .addColumn("body", "text", (c) => c.notNull())
    .addColumn("previous", "text", (c) => c.notNull())
    .addColumn("hash", "text", (c) => c.notNull())
    .execute();
  await sql`create index ledger_by_actor on ledger (kind, actor, at)`.execute(db);
  // The ledger is only ever added to; these keep a slip of ours from rewriting it.
  for (const act of ["update", "delete"])
    await sql
      .raw(
        `create trigger ledger_no_${act} before ${act} on ledger begin select raise(abort, 'the ledger is only added to'); end`,
      )
      .execute(db);
  await db.schema
    .createTable("docket")
    .addColumn("id", "text", (c) => c.primaryKey())
    .addColumn("state", "text", (c) => c.notNull())
    .addColumn("made_by", "text", (c) => c.notNull())
    .addColumn("made_at", "text", (c) => c.notNull())
    .addColumn("applied_at", "text")
    .addColumn("finished_at", "text")
    .execute();
  // A person prepares one docket at a time: their tray.
  await sql`create unique index docket_tray on docket (made_by) where state = 'preparing'`.execute(db);
  await db.schema
    .createTable("docket_change")
    .addColumn("id", "text", (c) => c.primaryKey())
    .addColumn("docket_id", "text", (c) => c.notNull().references("docket.id"))
    .addColumn("position", "integer", (c) => c.notNull())
    .addColumn("share_id", "text", (c) => c.notNull())
    .addColumn("store_id", "text", (c) => c.notNull())
    .addColumn("item_name", "text", (c) => c.notNull())
    .addColumn("audience", "text", (c) => c.notNull())
    .addColumn("body", "text", (c) => c.notNull())
    .addColumn("state", "text", (c) => c.notNull())
    .addColumn("tries", "integer", (c) => c.notNull().defaultTo(0))
    .addColumn("sent_at", "text")
    .addColumn("answered_at", "text")
    .addColumn("answer", "text")
    .addColumn("probe", "text")
    .addColumn("probed_at", "text")
    .addUniqueConstraint("one_change_a_share", ["docket_id", "share_id"])
    .execute();
}

/** The tables of the sign-in package (better-auth), with our role on its users. */
async function signIn(db: Kysely<unknown>) {
  const statements = [
    `create table "user" ("id" text primary key, "name" text not null, "email" text not null unique, "emailVerified" integer not null,
      "image" text, "createdAt" date not null, "updatedAt" date not null, "role" text not null default 'auditor')`,
    `create table "session" ("id" text primary key, "expiresAt" date not null, "token" text not null unique, "createdAt" date not null,
      "updatedAt" date not null, "ipAddress" text, "userAgent" text, "userId" text not null references "user" ("id") on delete cascade)`,
    `create table "account" ("id" text primary key, "accountId" text not null, "providerId" text not null,
      "userId" text not null references "user" ("id") on delete cascade, "accessToken" text, "refreshToken" text, "idToken" text,
      "accessTokenExpiresAt" date, "refreshTokenExpiresAt" date, "scope" text, "password" text, "createdAt" date not null, "updatedAt" date not null)`,
    `create table "verification" ("id" text primary key, "identifier" text not null, "value" text not null, "expiresAt" date not null,
      "createdAt" date not null, "updatedAt" date not null)`,
    `create table "rateLimit" ("id" text primary key, "key" text not null unique, "count" integer not null, "lastRequest" bigint not null)`,
    `create index "session_user" on "session" ("userId")`,
    `create index "account_user" on "account" ("userId")`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Changes are about more than shares, and memberships can end. */
async function changesOfAllKinds(db: Kysely<unknown>) {
  await db.schema.alterTable("docket_change").renameColumn("share_id", "subject").execute();
  await db.schema
    .createTable("removal")
    .addColumn("seq", "integer", (c) => c.primaryKey())
    .addColumn("fact_id", "integer", (c) => c.notNull().references("fact.id"))
    .execute();
}

/** What people keep for themselves and for each other about the register, and leave given to break a rule. */
async function register(db: Kysely<unknown>) {
  await db.schema
    .createTable("kept_query")
    .addColumn("id", "text", (c) => c.primaryKey())
    .addColumn("owner", "text", (c) => c.notNull())
    .addColumn("name", "text", (c) => c.notNull())
    .addColumn("view", "text", (c) => c.notNull())
    .addColumn("for_all", "integer", (c) => c.notNull())
    .addColumn("made_at", "text", (c) => c.notNull())
    .addUniqueConstraint("one_name_a_person", ["owner", "name"])
    .execute();
  await db.schema
    .createTable("setting")
    .addColumn("person", "text", (c) => c.notNull())
    .addColumn("name", "text", (c) => c.notNull())
    .addColumn("body", "text", (c) => c.notNull())
    .addPrimaryKeyConstraint("one_setting_a_person", ["person", "name"])
    .execute();
  await db.schema
    .createTable("note")
    .addColumn("id", "integer", (c) => c.primaryKey())
    .addColumn("share_id", "text", (c) => c.notNull())
    .addColumn("author", "text", (c) => c.notNull())
    .addColumn("at", "text", (c) => c.notNull())
    .addColumn("text", "text", (c) => c.notNull())
    .execute();
  await sql`create index note_by_share on note (share_id, id)`.execute(db);
  await db.schema
    .createTable("waiver")
    .addColumn("id", "integer", (c) => c.primaryKey())
    .addColumn("share_id", "text", (c) => c.notNull())
    .addColumn("rule", "text", (c) => c.notNull())
    .addColumn("reason", "text", (c) => c.notNull())
    .addColumn("given_by", "text", (c) => c.notNull())
    .addColumn("given_at", "text", (c) => c.notNull())
    .addColumn("until", "text", (c) => c.notNull())
    .addColumn("ended_at", "text")
    .execute();
  await sql`create index waiver_by_share on waiver (share_id, rule)`.execute(db);
}

/** What has happened, what is watched for, and who is told. */
async function trail(db: Kysely<unknown>) {
  const statements = [
    // What acts speak of, each as it was at some time, once.
    `create table spoken (id integer primary key, body text not null unique)`,
    `create virtual table spoken_words using fts5 (words, content = '', tokenize = "unicode61 remove_diacritics 2")`,
    // One row an act: a store that tells of it twice is not believed twice.
    `create table act (seq integer primary key, at integer not null, source text not null, key text not null, verb text not null,
      who integer not null, item integer not null, share integer not null, whom integer not null,
      remarks integer not null, body text not null)`,
    `create unique index act_key on act (source, key)`,
    // What was told again under the same id in other words.
    `create table act_again (id integer primary key, source text not null, key text not null, told_at text not null, body text not null)`,
    `alter table connection add column act_cursor integer not null default 0`,
    `create table watch (id text primary key, name text not null, body text not null, is_on integer not null,
      since integer not null, made_by text not null, made_at text not null)`,
    `create table watch_hit (watch_id text not null, key text not null, at integer not null, seq integer not null,
      primary key (watch_id, key, at, seq)) without rowid`,
    `create table alert (id integer primary key, watch_id text not null, key text not null, severity text not null,
      state text not null, first_at integer not null, last_at integer not null, raised_at text not null,
      count integer not null, first_seq integer, last_seq integer, share_id text, item_id text, person text,
      words text not null, assigned_to text, settled_by text, settled_at text, note text)`,
    `create index alert_group on alert (watch_id, key, first_at)`,
    `create index alert_state on alert (state, last_at)`,
    `create index alert_share on alert (share_id)`,
    `create table notice (id integer primary key, watch_id text not null, alert_id integer not null references alert (id),
      channel text not null, target text not null, state text not null, made_at integer not null, due_at integer not null,
      next_at integer not null, tries integer not null default 0, sent_at integer, error text)`,
    `create index notice_due on notice (state, next_at)`,
    `create index notice_told on notice (watch_id, channel, target, sent_at)`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** What is demanded of shares, who is asked, what we do ourselves on a day, and what is shown once. */
async function rules(db: Kysely<unknown>) {
  const statements = [
    `create table rule_setting (id integer primary key, rule text not null, body text not null, set_by text not null,
      set_at text not null, ended_at text)`,
    `create unique index rule_setting_now on rule_setting (rule) where ended_at is null`,
    `create table letter (id integer primary key, kind text not null, target text not null, state text not null,
      made_at integer not null, due_at integer not null, next_at integer not null, tries integer not null default 0,
      sent_at integer, error text)`,
    `create index letter_due on letter (state, next_at)`,
    `create index letter_target on letter (target, kind, made_at)`,
    `create table demand (id integer primary key, rule text not null, subject text not null, owner text not null,
      state text not null, found_at integer not null, begun_at integer, due_at integer,
      letter_id integer references letter (id), docket_id text references docket (id), answered_at integer, answer text)`,
    // One at a time about one finding; when it is answered or gone, and found again, a new one begins.
    `create unique index demand_open on demand (rule, subject) where state in ('found', 'asked')`,
    `create index demand_letter on demand (letter_id)`,
    `create table standing_order (id integer primary key, share_id text not null, item_name text not null, on_at text not null,
      state text not null, made_by text not null, made_at text not null, ended_at text, docket_id text references docket (id))`,
    `create unique index standing_order_now on standing_order (share_id) where state = 'standing'`,
    `create table passphrase (change_id text primary key references docket_change (id), share_id text not null, sealed text,
      made_at integer not null, shown_at integer, shown_to text, wiped_at integer)`,
    `create table lease (name text primary key, holder text not null, until integer not null)`,
    `alter table docket add column origin text not null default 'tray'`,
    `alter table docket add column words text`,
    `alter table docket_change add column share_id text`,
    `update docket_change set share_id = body ->> '$.shareId'`,
    `alter table waiver add column warned_at text`,
    `alter table waiver add column over_at text`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** What each change of a docket was decided about. */
async function seen(db: Kysely<unknown>) {
  await sql`alter table docket_change add column seen text`.execute(db);
}

/** What a store answered to each change, and what was taken back by which docket. */
async function undoing(db: Kysely<unknown>) {
  await sql`alter table docket_change add column answered text`.execute(db);
  await sql`alter table docket_change add column undone_in text references docket (id)`.execute(db);
  await sql`create index docket_change_undone on docket_change (undone_in) where undone_in is not null`.execute(db);
}

/** Who asked for a docket to be applied, who approved it, whom it was told to; and whether a change was seen to have taken. */
async function approval(db: Kysely<unknown>) {
  await sql`alter table docket add column asked_by text`.execute(db);
  await sql`alter table docket add column approved_by text`.execute(db);
  await sql`alter table docket_change add column checked integer`.execute(db);
  // Until now nobody noted what came of a look; what was done then counts as checked.
  await sql`update docket_change set checked = 1 where state = 'done'`.execute(db);
  await sql`alter table letter add column docket_id text references docket (id)`.execute(db);
  await sql`alter table letter add column content text`.execute(db);
  await sql`create index letter_docket on letter (docket_id)`.execute(db);
}

/** The words of what acts speak of are folded by us, and not by the index, which knows no script but the Latin one. */
async function words(db: Kysely<unknown>) {
  await sql`drop table spoken_words`.execute(db);
  await sql`create virtual table spoken_words using fts5 (words, content = '', tokenize = "ascii")`.execute(db);
  const { rows } = await sql<{ id: number; body: string }>`select id, body from spoken`.execute(db);
  for (const { id, body } of rows)
    await sql`insert into spoken_words (rowid, words) values (${id}, ${wordsOf(JSON.parse(body)).join(" ")})`.execute(
      db,
    );
}

/**
 * Facts are told apart by their source as well. What a source spoke of that only another one has told goes on to be
 * that one's: so every answer stays as it was.
 */
async function sources(db: Kysely<unknown>) {
  const principals = "('person', 'group')";
  const mentions = [
    ["item", "item", "parentId"],
    ["item", "principal", "ownerId"],
    ["item", "store", "storeId"],
    ["grant", "item", "itemId"],
    ["grant", "principal", "toId"],
    ["grant", "principal", "grantedBy"],
    ["link", "item", "itemId"],
    ["link", "principal", "createdBy"],
    ["member", "principal", "groupId"],
    ["member", "principal", "memberId"],
    ["group", "store", "storeId"],
    ["person", "principal", "managerId"],
  ];
  const statements = [
    `create table source (name text primary key, kind text not null, first_told_at text not null)`,
    `create table own_id (source text not null, space text not null, own text not null, id text not null,
      primary key (source, space, own)) without rowid`,
    `create index own_id_by_id on own_id (space, id)`,
    `drop index fact_now`,
    `create unique index fact_now on fact (source, type, key) where "to" is null`,
    // What is home is said by the house, whoever was the first to know.
    `update fact set source = 'settings' where type = 'estate'`,
    `insert into source (name, kind, first_told_at) select id, 'store', first_read_at from connection where first_read_at is not null`,
    `insert into source (name, kind, first_told_at)
      select 'file', 'import', coalesce((select min(at) from ledger where kind = 'file-imported'), '1970-01-01T00:00:00Z')
      where exists (select 1 from fact where source = 'file') or exists (select 1 from act where source = 'file')`,
    ...mentions.map(
      ([type, space, field]) => `insert or ignore into own_id (source, space, own, id)
        select distinct source, '${space}', body ->> '$.${field}', body ->> '$.${field}' from fact as told
        where type = '${type}' and body ->> '$.${field}' is not null and not exists (select 1 from fact as own
          where own.source = told.source and own.key = told.body ->> '$.${field}'
          and own.type in ${space === "principal" ? principals : `('${space}')`})`,
    ),
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** One word for one thing: what happened is an event, what a rule does by itself is to enforce, what is kept by name is saved. */
async function names(db: Kysely<unknown>) {
  const statements = [
    `alter table kept_query rename to saved_query`,
    `alter table act rename to event`,
    `alter table act_again rename to event_again`,
    `alter table connection rename column act_cursor to event_cursor`,
    `update docket set origin = 'enforce' where origin = 'act'`,
    `update rule_setting set body = json_set(body, '$.mode', 'enforce') where body ->> '$.mode' = 'act'`,
    `update watch set body = json_set(body, '$.kind', 'events') where body ->> '$.kind' = 'acts'`,
    `update setting set name = 'enforcing-stopped' where name = 'acting-stopped'`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Tries are counted in a table of ours; sessions say how somebody signed in; second factors have a place. */
async function doors(db: Kysely<unknown>) {
  const statements = [
    `drop table "rateLimit"`,
    // As the package that counts (rate-limiter-flexible) would make it.
    `create table try_count (key text primary key, points integer not null default 0, expire integer)`,
    `delete from "session"`,
    `alter table "session" add column "by" text`,
    `alter table "session" add column "usedAt" integer`,
    `alter table "user" add column "twoFactorEnabled" integer not null default 0`,
    `alter table "user" add column "zone" text not null default 'UTC'`,
    `create table "twoFactor" ("id" text primary key, "secret" text not null, "backupCodes" text not null,
      "userId" text not null references "user" ("id") on delete cascade, "verified" integer,
      "failedVerificationCount" integer, "lockedUntil" date)`,
    `create index "twoFactor_user" on "twoFactor" ("userId")`,
    `create table "passkey" ("id" text primary key, "name" text, "publicKey" text not null,
      "userId" text not null references "user" ("id") on delete cascade, "credentialID" text not null unique,
      "counter" integer not null, "deviceType" text not null, "backedUp" integer not null, "transports" text,
      "createdAt" date, "aaguid" text)`,
    `create index "passkey_user" on "passkey" ("userId")`,
    `create table used_code ("user_id" text not null references "user" ("id") on delete cascade, code text not null,
      at integer not null, primary key ("user_id", code)) without rowid`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Who had a docket applied: they need not be told what it brought about. */
async function appliers(db: Kysely<unknown>) {
  await sql.raw(`alter table docket add column applied_by text`).execute(db);
}

/** How people want to be told times; null for whoever never said, whose browser knows. */
async function dates(db: Kysely<unknown>) {
  const statements = [
    `alter table "user" add column "dateStyle" text`,
    `alter table "user" add column "weekStart" integer`,
    // Whoever chose a zone goes on reading dates as they did.
    `update "user" set "dateStyle" = 'day-first', "weekStart" = 1 where "zone" <> 'UTC'`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** What whoever applies a docket calls it, and why it is applied. */
async function docketNames(db: Kysely<unknown>) {
  await sql.raw(`alter table docket add column name text`).execute(db);
  await sql.raw(`alter table docket add column reason text`).execute(db);
}

/** How much was open, day by day. */
async function openness(db: Kysely<unknown>) {
  await sql
    .raw(
      `create table openness (day text, weights text, mass real not null, afterwards integer not null, primary key (weights, day)) without rowid`,
    )
    .execute(db);
}

/** Rounds in which owners say what may stay: their lines, who decides, what was sent, and what was looked at again. */
async function rounds(db: Kysely<unknown>) {
  const statements = [
    `create table round (id integer primary key autoincrement, body text not null, series integer,
      state text not null, opens_at integer not null, closes_at integer not null, made_by text not null,
      made_at integer not null, opened_at integer, closed_at integer, ended_by text, lines integer not null default 0,
      lines_hash text, docket_id text references docket (id), seen_fact integer not null default 0)`,
    `create index round_state on round (state)`,
    `create table round_line (id integer primary key, round_id integer not null references round (id),
      share_id text not null, decider text not null, decider_name text not null, decided_as text, instead_of text,
      department text not null, item_name text not null, place text not null, audience text not null,
      audience_key text not null, audience_title text not null, sentence text not null, asked text not null,
      suggested text, suggested_until integer, because text not null, state text not null, decision text, reason text,
      until integer, decided_by text, decided_at integer, seconds real, overruled integer, settled_at integer, docket_id text references docket (id),
      changed_at integer, before text, passed_from text not null default '')`,
    // Lines are put down decider by decider, so that this grows at its end; an index by share would be written all over.
    `create index round_line_decider on round_line (round_id, decider, state)`,
    `create index round_line_confirmed on round_line (share_id, until) where state = 'kept'`,
    `create index round_line_docket on round_line (docket_id) where docket_id is not null`,
    // All that is counted of a round, kept by the database itself: to count a quarter of a million lines takes too long.
    `create table round_tally (round_id integer not null, decider text not null, state text not null, name text not null,
      department text not null, lines integer not null, changed integer not null, passed integer not null,
      primary key (round_id, decider, state)) without rowid`,
    ...tallying("insert", ["new"]),
    ...tallying("delete", ["old"]),
    ...tallying("update of decider, state, changed_at, passed_from", ["old", "new"]),
    `create table round_decider (round_id integer not null references round (id), person text not null,
      seen_at integer, finished_at integer, primary key (round_id, person)) without rowid`,
    `create table round_passing (id integer primary key, round_id integer not null references round (id),
      share_id text not null, "from" text not null, "to" text not null, reason text not null, by text not null, at integer not null)`,
    `create index round_passing_line on round_passing (round_id, share_id)`,
    `create table round_mail (round_id integer not null references round (id), person text not null, stage text not null,
      at integer not null, primary key (round_id, person, stage)) without rowid`,
    `create table look (id integer primary key, round_id integer not null references round (id), percent integer not null,
      confidence integer not null, seed text not null, "of" integer not null, made_by text not null, made_at integer not null)`,
    `create table look_line (look_id integer not null references look (id), share_id text not null, position integer not null,
      decision text, decided_by text, decided_at integer, primary key (look_id, share_id)) without rowid`,
    `create table deputy (id integer primary key, person text not null, deputy text not null, from_at integer not null,
      until_at integer not null, given_by text not null, ended_at integer)`,
    `create table department_head (department text primary key, person text not null) without rowid`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** What keeps the tally of a round: whatever becomes of a line is taken from where it was, and added to where it is. */
function tallying(event: string, sides: readonly ("old" | "new")[]): string[] {
  const steps = sides.map((side) => {
    const by = side === "new" ? 1 : -1;
    return `insert into round_tally values (${side}.round_id, ${side}.decider, ${side}.state, ${side}.decider_name,
      ${side}.department, ${by}, ${by} * (${side}.changed_at is not null), ${by} * (${side}.passed_from <> ''))
      on conflict do update set lines = lines + excluded.lines, changed = changed + excluded.changed,
        passed = passed + excluded.passed;`;
  });
  const name = `round_tally_${event.split(" ")[0]}`;
  return [`create trigger ${name} after ${event} on round_line begin ${steps.join("\n")} end`];
}

/** What is said here of organisations outside: the stance on each, and which domains are one firm's. */
async function outsiders(db: Kysely<unknown>) {
  const statements = [
    `create table stance (id integer primary key, domain text not null, stance text not null, reason text not null,
      set_by text not null, set_at integer not null, until integer, ended_at integer)`,
    `create unique index stance_now on stance (domain) where ended_at is null`,
    `create table same_firm (id integer primary key, domain text not null, other text not null, said_by text not null,
      said_at integer not null, ended_at integer)`,
    `create unique index same_firm_now on same_firm (domain, other) where ended_at is null`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Who leaves and when, as it is said here; which leavers still have something standing; engagements that are made here. */
async function leaversAndEngagements(db: Kysely<unknown>) {
  const statements = [
    `create table last_day (id integer primary key, person text not null, at integer not null, reason text not null,
      set_by text not null, set_at integer not null, ended_at integer)`,
    `create unique index last_day_now on last_day (person) where ended_at is null`,
    `create table leaver (person text primary key, since integer not null) without rowid`,
    `create table engagement (id text primary key, responsible text not null, made_by text not null, made_at integer not null,
      warned_at integer, docket_at integer)`,
    `create table organisation_note (id integer primary key, domain text not null, author text not null, at integer not null,
      text text not null)`,
    `create index organisation_note_domain on organisation_note (domain)`,
    `create table extension (id integer primary key, engagement_id text not null references engagement (id),
      "from" integer not null, until integer not null, reason text not null, by text not null, at integer not null)`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Reports that are made again and again; and by which key a pack turned outsiders into pseudonyms. */
async function reports(db: Kysely<unknown>) {
  const statements = [
    `create table report_schedule (id integer primary key, kind text not null, every text not null, target text not null,
      zone text not null, added_by text not null, next_at integer not null, due_at integer not null, sent_at integer,
      tries integer not null default 0, error text, unique (kind, every, target))`,
    `create table pack_key (seq integer primary key, sealed text not null)`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** What has begun or ended since an instant is found by it: so is a past day. */
async function beginnings(db: Kysely<unknown>) {
  const statements = [
    `create index fact_begun on fact ("from") where "from" is not null`,
    `create index fact_ended on fact ("to") where "to" is not null`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** How reports of stores are read, and which have been. */
async function imports(db: Kysely<unknown>) {
  const statements = [
    `create table import_mapping (name text primary key, source text not null, title text not null, body text not null,
      saved_by text not null, saved_at integer not null) without rowid`,
    `create table import_run (id integer primary key, source text not null, file text not null, mapping text not null,
      by text not null, at integer not null, state text not null, digest text not null, last_fact integer not null,
      rows integer not null, skipped integer not null, changed integer not null default 0,
      ended integer not null default 0)`,
    `create index import_run_source on import_run (source, id)`,
    `create table label_rule (id integer primary key, label text not null, kind text not null, subject text not null,
      set_by text not null, set_at integer not null, ended_at integer)`,
    `alter table connection add column reads_again integer not null default 0`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Who wants to share what, and what has become of it; when links that are over are cleared by themselves. */
async function sharing(db: Kysely<unknown>) {
  const statements = [
    `create table share_request (id text primary key, item_id text not null, item_name text not null, wish text not null,
      why text not null, asked_by text not null, asked_at integer not null, state text not null, waivers text not null,
      word text, decided_by text, decided_at integer, due_at integer, docket_id text, shares text not null default '[]')
      without rowid`,
    `create index share_request_docket on share_request (docket_id) where docket_id is not null`,
    `create index share_request_state on share_request (state, asked_at)`,
    `create index event_sent_in on event (seq) where verb = 'sent-in'`,
    `create table clearing (id integer primary key, month text not null unique, docket_id text, links integer not null)`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** A docket of ten thousand is looked at page by page, and how far it is, many times while it goes on. */
async function pagesOfDockets(db: Kysely<unknown>) {
  const statements = [
    `create index docket_change_order on docket_change (docket_id, position)`,
    `create index docket_change_state on docket_change (docket_id, state, checked, store_id)`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

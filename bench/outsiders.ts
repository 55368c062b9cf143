import Database from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LookAlikes } from "../core/outsiders/lookAlikes";
import { ORGANISATION_COLUMNS } from "../core/outsiders/organisations";
import { signIn, startServer, URL_HERE } from "./console";
import { writeDatabase } from "./database";
import { measureDirectory } from "./directory";
import { firmDomain } from "./generate";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const FIRMS = 20_000;
const DOMAINS = 50_000;
const RUNS = 20;

/** Organisations outside as people wait for them, through the routes of the running application; and look-alikes alone. */
export async function measureOutsiders(report: Report, shares: number) {
  const add = (what: string, value: number, wanted: number | null) =>
    report.add({ size: shares, what: `outsiders: ${what}`, value, unit: "ms", wanted, isAsked: true });
  await measureLookAlikes(add);
  const data = mkdtempSync(join(tmpdir(), "latch-outsiders-"));
  const path = join(data, "latch.sqlite");
  await writeDatabase(path, ITEMS, shares, FIRMS);
  const { server, code } = await startServer(data);
  try {
    const cookie = await signIn(code);
    const ask = async (path: string, body?: object) => {
      const headers = { Cookie: cookie, Origin: URL_HERE, "Content-Type": "application/json" };
      const response = await fetch(URL_HERE + path, {
        headers,
        ...(body && { method: "POST", body: JSON.stringify(body) }),
      });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    const began = performance.now();
    const { total } = await ask("/api/outsiders");
    add(`${total} organisations asked for the first time`, performance.now() - began, null);
    const by = (run: number) => ORGANISATION_COLUMNS[Math.abs(run) % ORGANISATION_COLUMNS.length];
    const list = await timed(RUNS, (run) => ask(`/api/outsiders?by=${by(run)}`), 3);
    add("the first page through the route, by any column, median", list.median, 60);
    add("the same, p95", list.p95, 60);
    const { page } = (await ask("/api/outsiders?by=shares")) as { page: { domain: string }[] };
    const one = (run: number) => ask(`/api/outsiders/one?domain=${page[(run + 5) % page.length].domain}`);
    add("one of the hundred with most shares", (await timed(RUNS, one, 3)).median, 100);
    add("look-alikes through the route", (await timed(5, () => ask("/api/outsiders/look-alikes"), 1)).median, null);
    add("the first page in bare SQL, by shares, without findings, risk and projects", await inSql(path), null);
    await measureDirectory(add, ask, path);
  } finally {
    server.kill("SIGINT");
    await new Promise((resolve) => server.once("exit", resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

async function measureLookAlikes(add: (what: string, value: number, wanted: number | null) => void) {
  const domains = Array.from({ length: DOMAINS }, (_, i) => firmDomain(i));
  const all = await timed(3, () => {
    const known = new LookAlikes();
    return { known, pairs: domains.flatMap((domain) => known.take(domain)).length };
  });
  add(`${all.result.pairs} look-alike pairs among ${DOMAINS} domains`, all.median, 2_000);
  const { known } = all.result;
  const more = await timed(RUNS, (run) => known.take(firmDomain(DOMAINS + run)));
  add("look-alikes of a new domain", more.p95, 20);
}

/**
 * The first page by shares, with all columns but those that the rules give, of tables made for this question alone: a
 * line for each share, organisation and person that it lets in, and the items with what is above them.
 */
async function inSql(path: string): Promise<number> {
  const db = new Database(":memory:");
  db.prepare("attach ? as facts").run(path);
  db.exec(`
    create table person (id text primary key, organisation text) without rowid;
    insert or ignore into person select key, substr(body ->> 'email', instr(body ->> 'email', '@') + 1)
      from facts.fact where type = 'person';
    create table item (id text primary key, parent text, kind text, label text) without rowid;
    insert or ignore into item select key, body ->> 'parentId', body ->> 'kind', body ->> 'label'
      from facts.fact where type = 'item' and body ->> 'state' = 'live';
    create index item_parent on item (parent, id, kind, label);
    create table let_in (organisation text, person text, share text, item text, maker text, made text, used text);
    insert into let_in select organisation, person.id, key, body ->> 'itemId', body ->> 'grantedBy', body ->> 'grantedAt', body ->> 'lastUsedAt'
      from facts.fact join person on person.id = body ->> 'toId' where type = 'grant';
    insert into let_in select substr(one.value ->> 'email', instr(one.value ->> 'email', '@') + 1), one.value ->> 'email', fact.key,
      body ->> 'itemId', body ->> 'createdBy', body ->> 'createdAt', body ->> 'lastUsedAt'
      from facts.fact, json_each(body, '$.recipients') as one where fact.type = 'link';
    create index let_in_organisation on let_in (organisation, item);`);
  const statement = db.prepare(`
    with recursive listed as materialized (
      select organisation, count(distinct share) as shares, count(distinct person) as people, count(distinct maker) as makers,
        min(made) as since, max(used) as last_used from let_in
      where organisation <> 'home.example' group by organisation order by shares desc limit 100
    ), reached (organisation, id, kind, label) as (
      select organisation, item.id, item.kind, item.label from listed join let_in using (organisation) join item on item.id = let_in.item
      union
      select organisation, item.id, item.kind, item.label from reached join item on item.parent = reached.id
    )
    select listed.*, sum(kind = 'file') as files, sum(kind = 'folder') as folders, sum(label = 'public') as public,
      sum(label = 'internal') as internal, sum(label = 'confidential') as confidential, sum(label = 'restricted') as restricted
    from listed left join reached using (organisation) group by organisation`);
  const { median } = await timed(3, () => statement.all(), 1);
  db.close();
  return median;
}

import Database from "better-sqlite3";
import type { OutlookTold } from "../contract/directory";
import { timed } from "./timing";

const PEOPLE = 100_000;

type Add = (what: string, value: number, wanted: number | null) => void;
type Ask = (path: string, body?: object) => Promise<unknown>;

/** A directory's list as people wait for it, through the routes of the running application. */
export async function measureDirectory(add: Add, ask: Ask, databasePath: string) {
  const given = { directory: "personnel", kind: "people", file: "people.csv", text: list() };
  const first = await reading(ask, given);
  add(`a list of ${PEOPLE} people, read for the first time: shown and read`, first.ms, null);
  const again = await reading(ask, given);
  if (again.outlook.turns.length > 0) throw new Error("reading the same list again would change somebody");
  add(`a list of ${PEOPLE} people, unchanged, read again: shown and read`, again.ms, 10_000);
  add("the same compared in bare SQL with what is kept", await inSql(databasePath, given.text), null);
  const began = performance.now();
  await ask("/api/insiders");
  add("insiders: asked for the first time", performance.now() - began, null);
  const by = ["name", "department", "manager", "status"];
  const page = await timed(20, (run) => ask(`/api/insiders?by=${by[Math.abs(run) % by.length]}`), 4);
  add("insiders: the first page through the route, by any column, p95", page.p95, 60);
  const one = (run: number) => ask(`/api/insiders/one?address=n${Math.abs(run) * 997}@home.example`);
  add("insiders: one person's page", (await timed(20, one, 2)).median, 100);
}

async function reading(ask: Ask, given: object): Promise<{ ms: number; outlook: OutlookTold }> {
  const began = performance.now();
  const outlook = (await ask("/api/directories/look", given)) as OutlookTold;
  await ask("/api/directories/read", { ...given, digest: outlook.digest, inactive: null });
  return { ms: performance.now() - began, outlook };
}

function list(): string {
  const lines = Array.from(
    { length: PEOPLE },
    (_, i) =>
      `n${i}@home.example,Person ${i},active,Department ${i % 40},n${Math.floor(i / 9)}@home.example,Team ${i % 900}`,
  );
  return ["address,name,status,department,manager,groups", ...lines].join("\r\n");
}

/** As somebody would who keeps the list as a table: which lines differ from what is kept. */
async function inSql(path: string, text: string): Promise<number> {
  const db = new Database(":memory:");
  db.prepare("attach ? as facts").run(path);
  db.exec("create table line (address text primary key, name text, department text, manager text) without rowid");
  const insert = db.prepare("insert into line values (?, ?, ?, ?)");
  const run = db.transaction(() => {
    for (const line of text.split("\r\n").slice(1)) {
      const [address, name, , department, manager] = line.split(",");
      insert.run(address, name, department, manager);
    }
  });
  const { median } = await timed(
    3,
    () => {
      db.exec("delete from line");
      run();
      return db
        .prepare(
          `select count(*) from line left join facts.fact on source = 'personnel' and type = 'person' and key = address and "to" is null
           where fact.id is null or body ->> 'name' <> name or body ->> 'department' <> department`,
        )
        .get();
    },
    1,
  );
  db.close();
  return median;
}

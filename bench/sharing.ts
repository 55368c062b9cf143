import Database from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DAY, rfc3339 } from "../core/time/instant";
import { signIn, startServer, URL_HERE } from "./console";
import { writeDatabase } from "./database";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const RUNS = 20;
const NOW = "2026-10-05T08:00:00Z";

/** The sentence that makes a share, and the lists of intake and of links that are over, as people wait for them. */
export async function measureSharing(report: Report, shares: number) {
  const add = (what: string, value: number) =>
    report.add({ size: shares, what: `sharing: ${what}`, value, unit: "ms", wanted: null, isAsked: true });
  const data = mkdtempSync(join(tmpdir(), "latch-sharing-"));
  const path = join(data, "latch.sqlite");
  await writeDatabase(path, ITEMS, shares);
  const items = sayThatItIsRead(path);
  const { server, code } = await startServer(data, NOW);
  try {
    const cookie = await signIn(code);
    const ask = async (path: string, body?: object) => {
      const headers = { Cookie: cookie, Origin: URL_HERE, "Content-Type": "application/json" };
      const given = body && { method: "POST", body: JSON.stringify(body) };
      const response = await fetch(URL_HERE + path, { headers, ...given });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    await ask("/api/register?query=outside:yes");
    const wish = (run: number) => ({
      ...{ itemId: items[Math.abs(run) % items.length], to: [`somebody${run + 9}@new-firm${run + 9}.example`] },
      ...{ role: "view", from: null, until: rfc3339(Date.parse(NOW) / 1_000 + 20 * DAY), password: false },
      ...{ download: true, maxUses: null, mailTo: [] },
    });
    const look = await timed(RUNS, (run) => ask("/api/sharing/look", { wish: wish(run) }), 3);
    add(`${look.result.sentences.length} share looked at as it is filled in, median`, look.median);
    add("the same, p95", look.p95);
    add(
      "the register's first rows in the same run, to compare",
      (await timed(RUNS, () => ask("/api/register?query=outside:yes"), 3)).median,
    );
    add("intake links", (await timed(5, () => ask("/api/intake"), 1)).median);
    add("links that are over, and twelve months of live ones", (await timed(5, () => ask("/api/clearing"), 1)).median);
  } finally {
    server.kill("SIGINT");
    await new Promise((resolve) => server.once("exit", resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

/** Shares are made in stores that are read. @returns some of their items, files and folders */
function sayThatItIsRead(path: string): string[] {
  const db = new Database(path);
  db.prepare(`insert or replace into source (name, kind, first_told_at) values ('bench', 'store', '${NOW}')`).run();
  const rows = db.prepare("select key from fact where type = 'item' order by id limit 20000").all() as {
    key: string;
  }[];
  db.close();
  return rows.filter((_, i) => i % 997 === 0).map(({ key }) => key);
}

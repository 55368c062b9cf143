import { type ChildProcess, spawn } from "node:child_process";
import { openAsBlob, createWriteStream, mkdtempSync, rmSync } from "node:fs";
import { once } from "node:events";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Papa from "papaparse";
import { readFileSync } from "node:fs";
import { setTimeout as wait } from "node:timers/promises";
import type { HandTold, LookTold } from "../contract/imports";
import { guessHeadings } from "../core/imports/headings";
import { proposeMapping } from "../core/imports/propose";
import { DAY, rfc3339, seconds } from "../core/time/instant";
import { signIn, startServer, URL_HERE } from "./console";
import { latch } from "./latch";
import { memoryOf } from "./processes";
import type { Line, Report } from "./report";
import { timed } from "./timing";

const NOW = seconds("2026-11-30T08:00:00Z");
const HEAD = "Path,Type,Shared with,Sharing type,Role,Password,Download,Expires,Last used,Shared by,Shared on";

/** A report as a store of some size exports it, imported through the application as it is started: as people wait for it. */
export async function measureImports(report: Report, rows: number) {
  const data = mkdtempSync(join(tmpdir(), "latch-imports-"));
  const file = join(data, "report.csv");
  const add = (what: string, value: number, wanted: number | null, unit: Line["unit"] = "ms") =>
    report.add({ size: rows, what, value, unit, wanted, isAsked: rows === MOST_ROWS ? true : undefined });
  await writeReport(file, rows, 0);
  add("the report read by Papa Parse whole, and nothing done with it", parsedWhole(file), null);
  add("the report sent to a bare server that saves it", await sentBare(file, data), null);
  const { server, code } = await startServer(join(data, "latch"), rfc3339(NOW));
  try {
    const hand = new Hand(await signIn(code));
    const before = memoryOf(server).now;
    const look = await timed(SENDINGS, () => hand.send(file));
    add("a report: sent, its first rows shown and its rows counted", look.median, 2_000);
    add("a report: the same without sending it", (await timed(SENDINGS, () => hand.lookAgain())).median, null);
    const check = await took(() => hand.check());
    const take = await took(() => hand.take());
    add("a report: all rows checked", check, null);
    add("a report: checked and imported, and the register right", check + take, 60_000);
    add(
      "a report: memory of the server, the engine that holds it included",
      memoryOf(server).most - before,
      null,
      "MB",
    );
    add("the same report again", await took(async () => (await hand.send(file), await hand.check())), 20_000);
    await writeReport(file, rows, 1);
    await hand.send(file);
    add(
      "the next report, a hundredth changed: checked and imported",
      await took(async () => (await hand.check(), await hand.take())),
      null,
    );
  } finally {
    await stopped(server);
  }
  await writeReport(file, rows, 0);
  const again = await latch(join(data, "latch"), "import-report", file, "--mapping", "archive");
  add("a hundredth changed, imported by command: memory at most", again.ownMegabytes, 400, "MB");
  const first = await latch(join(data, "latch"), "import-report", file, "--mapping", "archive", "--as", "second");
  add("the whole report for another store, imported by command: memory at most", first.ownMegabytes, 400, "MB");
  add("the same, with the engine that then reads it", first.megabytes, null, "MB");
  rmSync(data, { recursive: true, force: true });
}

export const MOST_ROWS = 500_000;
const SENDINGS = 5;

/** What somebody does on the screen, asked as the screen asks it. */
class Hand {
  private look!: LookTold;

  constructor(private readonly cookie: string) {}

  private async ask<T>(path: string, init: RequestInit = {}): Promise<T> {
    const headers = { Cookie: this.cookie, Origin: URL_HERE, "Content-Type": "application/json", ...init.headers };
    const answer = await fetch(URL_HERE + path, { ...init, headers });
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return answer.json() as Promise<T>;
  }

  async send(file: string) {
    const headers = { "Content-Type": "application/octet-stream" };
    const body = await openAsBlob(file);
    this.look = await this.ask("/api/imports/file?name=report.csv", { method: "POST", headers, body });
  }

  async lookAgain() {
    await this.ask("/api/imports/look", { method: "POST", body: "{}" });
  }

  async check() {
    const { rows, encoding, separator, sheet } = this.look;
    const mapping = proposeMapping(rows, guessHeadings(rows), { encoding, separator, sheet, zone: "UTC" });
    const body = JSON.stringify({ source: "archive", title: "The archive", mapping });
    await this.ask("/api/imports/check", { method: "POST", body });
    await this.done();
  }

  async take() {
    const { outlook } = await this.done();
    const { digest, isHeld, endedCount } = outlook!;
    const body = JSON.stringify({ digest, mapping: "archive", skips: false, ended: isHeld ? endedCount : null });
    await this.ask("/api/imports/take", { method: "POST", body });
    if (!(await this.done()).imported) throw new Error("nothing was imported");
  }

  private async done(): Promise<HandTold> {
    for (;;) {
      const { hand } = await this.ask<{ hand: HandTold }>("/api/imports/now");
      if (hand.problem) throw new Error(hand.problem);
      if (!hand.step) return hand;
      await wait(100);
    }
  }
}

async function took(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

function parsedWhole(file: string): number {
  const began = performance.now();
  Papa.parse(readFileSync(file, "utf8"), { delimiter: "," });
  return performance.now() - began;
}

/** What sending costs by itself: to a process that does nothing but save what comes. */
async function sentBare(file: string, folder: string): Promise<number> {
  const server = spawn(process.execPath, ["-e", BARE_SERVER, join(folder, "sent.csv")], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  const [port] = (await once(server.stdout!, "data")) as [Buffer];
  const send = async () => fetch(`http://127.0.0.1:${port}`, { method: "POST", body: await openAsBlob(file) });
  const { median } = await timed(SENDINGS, send);
  await stopped(server);
  return median;
}

const BARE_SERVER = `
  const server = require("node:http").createServer((request, response) =>
    request.pipe(require("node:fs").createWriteStream(process.argv[1])).on("finish", () => response.end()));
  server.listen(0, "127.0.0.1", () => process.stdout.write(String(server.address().port)));`;

async function stopped(server: ChildProcess) {
  server.kill("SIGINT");
  await once(server, "exit");
}

/** @param turn in the next one a hundredth of the rows is otherwise, and as many are new or gone */
async function writeReport(path: string, rows: number, turn: number) {
  const out = createWriteStream(path);
  out.write(`${HEAD}\r\n`);
  let lines: string[] = [];
  for (let i = 0; i < rows; i++) {
    lines.push(`${rowOf(i, turn > 0 && i % 100 === 0)}\r\n`);
    if (lines.length < 5_000) continue;
    if (!out.write(lines.join(""))) await once(out, "drain");
    lines = [];
  }
  out.end(lines.join(""));
  await once(out, "finish");
}

const two = (number: number) => String(number).padStart(2, "0");

/** Two and a half rows to a file; a fifth are open links, a fifth links for two people outside, the rest colleagues. */
function rowOf(i: number, isOther: boolean): string {
  const item = Math.floor(i / 2.5);
  const means = i % 5 === 0 ? "Open link" : i % 5 === 1 ? "Named link" : "Person";
  const outside = `p${i % 9_000}@firm${i % 700}.example; q${i % 5_000}@other${i % 300}.example`;
  const who = means === "Person" ? `p${i % 8_000}@home.example` : means === "Open link" ? "" : outside;
  const path = `/Department ${item % 40}/Folder ${item % 1_000}/Year ${item % 7}/Document ${item}.pdf`;
  const ends = i % 2 ? rfc3339(NOW + (i % 300) * DAY).slice(0, 10) : "";
  const made = rfc3339(NOW - (i % 900) * DAY).slice(0, 10);
  const used = `2026-1${i % 2}-0${1 + (i % 9)} 10:${two(i % 60)}`;
  const role = (i % 4 === 0) === isOther ? "view" : "edit";
  return [
    path,
    "File",
    who,
    means,
    role,
    i % 3 ? "no" : "yes",
    i % 6 ? "yes" : "no",
    ends,
    used,
    `p${item % 8_000}@home.example`,
    made,
  ].join(",");
}

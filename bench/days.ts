import { createWriteStream, mkdtempSync, rmSync, statSync } from "node:fs";
import { once } from "node:events";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { DAY, type Seconds } from "../core/time/instant";
import { EngineClient } from "../server/engine/client";
import { Clock } from "../server/platform/clock";
import { generateEstate } from "./generate";
import { latch } from "./latch";
import type { Line, Report } from "./report";
import { timed } from "./timing";

const QUIET_RUNS = 60;
const PAUSE_MS = 50;
const DAYS = 365;

/**
 * An estate is imported by the command that people type, and the engine asked as the server asks it: the first rows after
 * a start, a past day, the history by day, and what somebody else who asks for the register waits meanwhile.
 */
export async function measureDays(report: Report, size: number) {
  const data = mkdtempSync(join(tmpdir(), "latch-days-"));
  const path = join(data, "latch.sqlite");
  const add = (what: string, value: number, wanted: number | null, unit: Line["unit"] = "ms") =>
    report.add({ size, what, value, unit, wanted });
  try {
    const { file, records, asOf } = await writeEstate(data, size);
    const imported = await latch(data, "import", file, "--as", "house");
    add("imported, and the engine made ready: records a second", records / (imported.ms / 1_000), 50_000, "rows/s");
    add("imported: memory at most", imported.megabytes, 350, "MB");
    const engine = new Asker(path, asOf);
    add("started after the import: the first rows", await engine.first(), 6_000);
    const quiet = await timed(QUIET_RUNS, () => engine.page());
    add("the register's first page, nobody else asking, p95", quiet.p95, null);
    add("rules, the first look", await engine.took((one) => one.ask("ruleCounts", {})), 200);
    const day = asOf - 30 * DAY;
    const past = await engine.meanwhile((one) => one.ask("register", PAGE, day));
    add("the register on a past day, the first time", past.ms, 4_500);
    add("the register meanwhile, p95", past.p95, 2 * quiet.p95);
    add("the same day again", await engine.took((one) => one.ask("register", PAGE, day)), 60);
    await engine.client.ask("refresh", {});
    add("the same day after a minute's jobs", await engine.took((one) => one.ask("register", PAGE, day)), 60);
    const instants = Array.from({ length: DAYS }, (_, i) => asOf - (DAYS - i) * DAY);
    const history = await engine.meanwhile((one) => one.ask("history", { instants }));
    add("the history by day, the first time", history.ms, 300);
    add("the register meanwhile, p95, while days are counted", history.p95, 2 * quiet.p95);
    add("the history by day again", await engine.took((one) => one.ask("history", { instants })), 300);
    await engine.client.close();
    const again = new Asker(path, asOf);
    add("started again: the first rows", await again.first(), 2_000);
    await again.client.close();
    add("the columns that are kept", statSync(`${path}.columns`).size / 1e6, null, "MB");
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
}

const PAGE = {
  ...{ query: "outside:yes", group: null, open: [], groups: "first" as const, from: 0, count: 40 },
  order: [{ by: "risk" as const, reversed: false }],
};

/** Asks the engine as the server does, from another thread. */
class Asker {
  readonly client: EngineClient;

  constructor(path: string, now: Seconds) {
    this.client = new EngineClient(resolve("dist/engine.mjs"), path, new Clock(new Date(now * 1_000)));
  }

  first(): Promise<number> {
    return this.took(() => this.page());
  }

  page(): Promise<unknown> {
    return this.client.ask("register", PAGE);
  }

  /** @returns in how many milliseconds it was answered */
  async took(ask: (client: EngineClient) => Promise<unknown>): Promise<number> {
    const began = performance.now();
    await ask(this.client);
    return performance.now() - began;
  }

  /** The same, with the register asked for again and again meanwhile. */
  async meanwhile(ask: (client: EngineClient) => Promise<unknown>): Promise<{ ms: number; p95: number }> {
    let isDone = false;
    const long = this.took(ask).finally(() => (isDone = true));
    const waits: number[] = [];
    while (!isDone) {
      waits.push(await this.first());
      await new Promise((later) => setTimeout(later, PAUSE_MS));
    }
    waits.sort((a, b) => a - b);
    return { ms: await long, p95: waits[Math.floor(0.95 * (waits.length - 1))] };
  }
}

async function writeEstate(data: string, size: number) {
  const file = join(data, "estate.jsonl");
  const out = createWriteStream(file);
  let records = 0;
  let asOf: Seconds = 0;
  for (const record of generateEstate(size, 1, size / 4)) {
    records++;
    if (record.type === "estate") asOf = Date.parse(record.asOf) / 1_000;
    if (!out.write(`${JSON.stringify(record)}\n`)) await once(out, "drain");
  }
  out.end();
  await once(out, "finish");
  return { file, records, asOf };
}

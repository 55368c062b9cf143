import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { DAY, type Seconds } from "../core/time/instant";
import { EngineClient } from "../server/engine/client";
import { Clock } from "../server/platform/clock";
import { measureAtOnce } from "./atOnce";
import { latch } from "./latch";
import { measureApp, measureStart } from "./app";
import { live, LIVED_DAYS, someChanges, tell, writeEstate } from "./lived";
import type { Line, Report } from "./report";
import { timed } from "./timing";

const QUIET_RUNS = 60;
const PAUSE_MS = 50;
const DAYS = 365;
const CHANGES = 7;

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
    add("imported: memory at most", imported.ownMegabytes, 350, "MB");
    add("the same, with the engine that then reads it", imported.megabytes, null, "MB");
    const { stop } = await measureStart(add, data, asOf, "after the import", 6_000);
    await stop();
    await live(path, size, "house", asOf);
    const now = asOf + (LIVED_DAYS + 1) * DAY;
    await measurePasts(new Asker(path, now), now, asOf, add);
    await measureChanges(new Asker(path, now), path, size, now, add);
    await measureApp(add, data, now);
    await measureAtOnce(add, data, size, now);
    add("the columns that are kept", statSync(`${path}.columns`).size / 1e6, null, "MB");
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
}

type Add = (what: string, value: number, wanted: number | null, unit?: Line["unit"]) => void;

async function measurePasts(engine: Asker, now: Seconds, asOf: Seconds, add: Add) {
  await engine.first();
  const quiet = await timed(QUIET_RUNS, () => engine.page());
  add("the register's first page, nobody else asking, p95", quiet.p95, null);
  add("rules, the first look", await engine.took((one) => one.ask("ruleCounts", {})), 200);
  const instants = Array.from({ length: DAYS }, (_, i) => now - (DAYS - i) * DAY);
  const history = await engine.meanwhile((one) => one.ask("history", { instants }));
  add("the history by day, the first time, with what it is told from", history.ms, 300);
  add("the register meanwhile, p95, while days are counted", history.p95, 2 * quiet.p95);
  add("the history by day again", await engine.took((one) => one.ask("history", { instants })), 300);
  const first = await engine.meanwhile((one) => one.ask("register", PAGE, now - 2 * DAY));
  add("the first past day of all, two days ago", first.ms, null);
  add("the register meanwhile, p95", first.p95, 2 * quiet.p95);
  add("yesterday, the first time", await engine.took((one) => one.ask("register", PAGE, now - DAY)), 400);
  for (const [what, day, wanted] of [
    ["a month ago, a twentieth changed since, the first time", now - 30 * DAY, 1_200],
    ["before a tenth changed, the first time", asOf + DAY / 2, 1_200],
    ["before anything was told of groups, the first time", asOf - DAY, 4_500],
  ] as const)
    add(what, await engine.took((one) => one.ask("register", PAGE, day)), wanted);
  const day = asOf + DAY / 2;
  add("the same day again", await engine.took((one) => one.ask("register", PAGE, day)), 60);
  await engine.client.ask("refresh", {});
  add("the same day after a minute's jobs", await engine.took((one) => one.ask("register", PAGE, day)), 60);
  add("its funnel", await engine.took((one) => one.ask("funnel", { query: PAGE.query }, day)), 60);
  add("memory with three past days held", process.memoryUsage().rss / 1e6, 700, "MB");
  await engine.client.close();
}

/** From when the engine is told that something has changed until the register is right again. */
async function measureChanges(engine: Asker, path: string, size: number, now: Seconds, add: Add) {
  await engine.first();
  const { moved, left } = someChanges(size);
  for (const [what, turns, wanted] of [
    ["an item moved, until the register is right", moved, 1_000],
    ["somebody left, until the register is right", left, null],
  ] as const) {
    const times: number[] = [];
    for (let run = 0; run < CHANGES; run++) {
      await tell(path, "house", turns[run % turns.length], now + run);
      times.push((await engine.took((one) => one.ask("refresh", {}))) + (await engine.first()));
    }
    add(`${what}, the first time`, times[0], null);
    add(`${what}, median of ${CHANGES}`, times.sort((a, b) => a - b)[Math.floor(CHANGES / 2)], wanted);
  }
  await engine.client.close();
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

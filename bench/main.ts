import { mkdirSync, writeFileSync } from "node:fs";
import { cpus } from "node:os";
import { exposures } from "../core/access/exposure";
import { pathsTo } from "../core/access/paths";
import { reachOf } from "../core/access/reach";
import { WaysIn } from "../core/access/waysIn";
import { previewOf } from "../core/dockets/preview";
import { buildEstate } from "../core/estate/estate";
import { Random } from "../demo/random";
import { generateEstate } from "./generate";
import { bySql } from "./sqlite";

/** Measures the engine on generated estates, each beside its baseline in the same run. Times are medians, in ms. */
const SIZES = (process.argv[2] ?? "10000,100000,1000000").split(",").map(Number);
const RUNS = 5;
const LARGEST_FOR_SQL = 100_000;

interface Line {
  size: number;
  what: string;
  ms: number;
  baselineMs?: number;
  baseline?: string;
}

const lines: Line[] = [];
for (const size of SIZES) measure(size);
mkdirSync("bench", { recursive: true });
writeFileSync(
  "bench/latest.json",
  JSON.stringify({ node: process.version, cores: cpus().length, lines }, null, 2) + "\n",
);

function measure(size: number) {
  const records = [...generateEstate(size)];
  const build = timed(() => buildEstate(records));
  report({ size, what: "estate built from records", ms: build.ms });
  const estate = build.result;
  const t = estate.asOf;
  const sweep = timed(() => exposures(estate, t));
  const sql = size <= LARGEST_FOR_SQL ? bySql(records, estate, sweep.result) : undefined;
  report({ size, what: "exposure of every item", ms: sweep.ms, baselineMs: sql, baseline: "recursive CTE in SQLite" });

  const random = new Random(7);
  const index = timed(() => new WaysIn(estate));
  report({ size, what: "ways in by person", ms: index.ms });
  const person = () => random.between(0, estate.people.length - 1);
  const position = () => random.between(0, estate.tree.length - 1);
  report({
    size,
    what: "all paths, one person to one item (p99 of 2,000)",
    ms: p99(2_000, () => pathsTo(estate, t, person(), position())),
  });
  report({
    size,
    what: "all that one person reaches (p99 of 500)",
    ms: p99(500, () => reachOf(estate, t, person(), index.result)),
  });
  const changes = [...estate.allShares()].slice(0, 1_000).map(({ id }) => ({ action: "revoke" as const, shareId: id }));
  report({ size, what: "before and after of 1,000 revokes", ms: timed(() => previewOf(estate, changes, t), 1).ms });
  report({ size, what: "resident memory, MB", ms: process.memoryUsage().rss / 1e6 });
}

function timed<T>(work: () => T, runs = RUNS): { ms: number; result: T } {
  const times: number[] = [];
  let result!: T;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    result = work();
    times.push(performance.now() - start);
  }
  return { ms: times.sort((a, b) => a - b)[Math.floor(runs / 2)], result };
}

function p99(runs: number, work: () => unknown): number {
  const times = Array.from({ length: runs }, () => timed(work, 1).ms).sort((a, b) => a - b);
  return times[Math.floor(runs * 0.99)];
}

function report(line: Line) {
  lines.push(line);
  const beside =
    line.baselineMs === undefined
      ? ""
      : `${line.baseline}: ${line.baselineMs.toFixed(0)} (${(line.baselineMs / line.ms).toFixed(0)} times)`;
  console.log(
    `${String(line.size).padStart(8)}  ${line.what.padEnd(50)} ${line.ms.toFixed(3).padStart(11)}  ${beside}`,
  );
}

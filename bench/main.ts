import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Exposures } from "../core/access/exposure";
import { pathsTo } from "../core/access/paths";
import { Plan } from "../core/access/plan";
import { eachReached, reachOf } from "../core/access/reach";
import { Standing } from "../core/access/standing";
import { WaysIn } from "../core/access/waysIn";
import { previewOf } from "../core/preview/preview";
import { buildEstate, type Estate } from "../core/estate/estate";
import type { GrantRecord, ItemRecord } from "../core/estate/records";
import { buildTree } from "../core/estate/tree";
import { DAY } from "../core/time/instant";
import { Random } from "../demo/random";
import { serveBigStore } from "./bigStore";
import { measureConsole } from "./console";
import { measureDays } from "./days";
import { measureDemo } from "./demo";
import { measureDockets } from "./dockets";
import { writeDatabase } from "./database";
import { inDuckdb } from "./duckdb";
import { generateEstate } from "./generate";
import { inObjects, objectRows } from "./objects";
import { compare } from "./outside";
import { measureImports, MOST_ROWS } from "./imports";
import { measureLedger } from "./ledger";
import { measureOutsiders } from "./outsiders";
import { LARGEST, Report } from "./report";
import { measurePacks } from "./packs";
import { measureRegister } from "./register";
import { measureRules } from "./rules";
import { measureSharing } from "./sharing";
import { measureShortlist } from "./shortlist";
import { inSqlite } from "./sqlite";
import { coldStart, type Start } from "./start";
import { measureTrail } from "./trail";
import { timed } from "./timing";

/** Measures the engine on generated estates, each answer beside its baseline in the same run. */
const RUNS = 5;
const WARM_UPS = 5;
const BASELINE_WARM_UPS = 1;
const MOST_EVENTS = 5_000_000;
const report = new Report();

if (process.argv[2] === "--start") {
  process.stdout.write(JSON.stringify(await coldStart(process.argv[3])));
} else if (process.argv[2] === "--store") {
  serveBigStore(Number(process.argv[3]));
} else {
  const [
    ,
    ,
    sizeText = "10000,100000,1000000",
    shareText = "250000,1000000",
    eventText = "5000000",
    ruleText = "250000",
    demoText = "yes",
    docketText = "yes",
  ] = process.argv;
  const sizes = numbers(sizeText);
  for (const size of sizes) await measure(size);
  if (sizes.includes(LARGEST)) report.save("bench/latest.json");
  const register = new Report();
  for (const shares of numbers(shareText)) {
    await measureRegister(register, shares);
    await measureConsole(register, shares);
    await measureOutsiders(register, shares);
    await measureSharing(register, shares);
  }
  if (numbers(shareText).includes(LARGEST)) register.save("bench/register.json");
  const days = new Report();
  // Before anything large stands in memory here.
  for (const size of sizes) await measureDays(days, size);
  if (sizes.includes(LARGEST)) days.save("bench/days.json");
  const imports = new Report();
  // As large as a store of some hundred thousand files makes it, and a tenth of that.
  if (sizes.includes(LARGEST)) for (const rows of [MOST_ROWS / 10, MOST_ROWS]) await measureImports(imports, rows);
  if (sizes.includes(LARGEST)) imports.save("bench/imports.json");
  const ledger = new Report();
  await measureLedger(ledger);
  for (const events of numbers(eventText)) await measurePacks(ledger, 250_000, events);
  ledger.save("bench/ledger.json");
  const trail = new Report();
  for (const events of numbers(eventText)) await measureTrail(trail, events);
  if (numbers(eventText).includes(MOST_EVENTS)) trail.save("bench/trail.json");
  const rules = new Report();
  for (const shares of numbers(ruleText)) {
    await measureRules(rules, shares);
    await measureShortlist(rules, shares);
  }
  if (numbers(ruleText).length > 0) rules.save("bench/rules.json");
  // In a process of their own, as the application has one: what stands in memory here would be gone over again and again.
  if (docketText === "yes")
    execFileSync(process.execPath, [...process.execArgv, process.argv[1], "", "", "", "", "no", "alone"], {
      stdio: "inherit",
    });
  if (docketText === "alone") {
    const dockets = new Report();
    await measureDockets(dockets);
    dockets.save("bench/dockets.json");
  }
  if (demoText === "yes") {
    const demo = new Report();
    await measureDemo(demo);
    demo.save("bench/demo.json");
  }
}

function numbers(text: string): number[] {
  return text.split(",").filter(Boolean).map(Number);
}

async function measure(size: number) {
  // Before anything large stands in memory, and in processes of their own.
  await measureStart(size);
  const estate = buildEstate(generateEstate(size));
  const total = await measureWhole(size, estate);
  await measureQuestions(size, estate);
  await measureBaselines(size, estate, total);
  await measureChanges(size, new Standing(estate));
}

/** Tree, closures, plan and sweep, each by itself and together; then another instant, and insiders too. */
async function measureWhole(size: number, estate: Estate): Promise<number> {
  const add = (what: string, value: number, wanted: number | null = null) =>
    report.add({ size, what, value, unit: "ms", wanted });
  const t = estate.asOf;
  const tree = await timed(RUNS, () => buildTree(estate.items), WARM_UPS);
  const closures = await timed(RUNS, () => estate.principals.settleGroups(), WARM_UPS);
  // The pool of members has grown by what was worked out again and again.
  estate.put(generateEstate(10).next().value!);
  estate.settle();
  const plan = await timed(RUNS, () => new Plan(estate, "outside"), WARM_UPS);
  const outside = new Exposures(estate, "outside");
  const sweep = await timed(RUNS, () => outside.evaluate(t), WARM_UPS);
  const total = tree.median + closures.median + plan.median + sweep.median;
  add("order of the tree", tree.median);
  add("closures of all groups", closures.median);
  add("plan of what leads outside", plan.median);
  add("sweep", sweep.median);
  add("everything outside for every item, warm: the four together", total, 150);
  const instant = await timed(RUNS, (run) => outside.evaluate(t + (run + 1) * DAY));
  add("another instant", instant.median, 30);
  const everyonePlan = await timed(RUNS, () => new Plan(estate, "everyone"), WARM_UPS);
  const everyone = new Exposures(estate, "everyone");
  const everyoneSweep = await timed(RUNS, () => everyone.evaluate(t), WARM_UPS);
  add(
    "the same with insiders counted",
    tree.median + closures.median + everyonePlan.median + everyoneSweep.median,
    500,
  );
  return total;
}

async function measureQuestions(size: number, estate: Estate) {
  const t = estate.asOf;
  const random = new Random(7);
  const add = (what: string, value: number, wanted: number | null) =>
    report.add({ size, what, value, unit: "ms", wanted });
  const waysIn = new WaysIn(estate);
  const person = () => random.between(0, estate.people.length - 1);
  const position = () => random.between(0, estate.tree.length - 1);
  const paths = await timed(20_000, () => pathsTo(estate, t, person(), position()));
  add("all paths from one person to one item, p99", paths.p99, 0.05);
  const reach = await timed(5_000, () => reachOf(estate, t, person(), waysIn));
  add("all that one person reaches, as ranges, p99", reach.p99, 1);
  const each = await timed(500, () => {
    let count = 0;
    for (const _ of eachReached(estate, reachOf(estate, t, person(), waysIn))) count++;
    return count;
  });
  add("the same item by item, p99", each.p99, null);
  const changes = Array.from({ length: 1_000 }, () => {
    const slot = random.between(0, estate.shares.count - 1);
    return { action: "revoke" as const, shareId: estate.shares.idOf(slot) };
  });
  const preview = await timed(RUNS, () => previewOf(estate, changes, t, waysIn), WARM_UPS);
  add("before and after of a docket of 1,000 changes", preview.median, 300);
}

async function measureBaselines(size: number, estate: Estate, value: number) {
  const ours = new Exposures(estate, "outside").evaluate(estate.asOf);
  const what = "everything outside for every item, warm: the four together";
  const add = (name: string, median: number, wantedRatio: number) =>
    report.add({ size, what, value, unit: "ms", wanted: null, baseline: { what: name, value: median, wantedRatio } });
  const objects = await timed(RUNS, inObjects(estate), BASELINE_WARM_UPS);
  compare("The object version", estate, ours, objectRows(objects.result));
  add("good objects", objects.median, 10);
  const duckdb = await timed(RUNS, await inDuckdb(estate), BASELINE_WARM_UPS);
  compare("DuckDB", estate, ours, duckdb.result);
  add("DuckDB", duckdb.median, 40);
  const sqlite = await timed(RUNS, inSqlite(estate), BASELINE_WARM_UPS);
  compare("SQLite", estate, ours, sqlite.result);
  add("recursive CTE in SQLite", sqlite.median, 300);
}

/** One change, and the answers are true again. */
async function measureChanges(size: number, standing: Standing) {
  const { estate } = standing;
  const t = estate.asOf;
  const random = new Random(11);
  const add = (what: string, value: number, wanted: number) => report.add({ size, what, value, unit: "ms", wanted });
  standing.outsideAt(t);
  const groupCount = estate.principals.groups.length;
  const share = await timed(600, (run) => {
    const itemId = estate.items.idOf(random.between(0, size - 1));
    // New ones and, in between, the same again with another role or revoked.
    const id = `bench${run - (run % 3)}`;
    const change = [{}, { role: "edit" as const }, { revokedAt: "2026-10-01T00:00:00Z" }][run % 3];
    const known = estate.share(id);
    const record: GrantRecord = { ...grantTo(id, known?.itemId ?? itemId, Math.floor(run / 3) % 10), ...change };
    standing.apply({ put: [record], removed: [] });
  });
  add("one share new, changed or revoked, p95", share.p95, 0.3);
  const largest = await timed(
    RUNS,
    (run) => {
      standing.apply({ put: [grantTo(`largest${run}`, largestSpace(estate), 3)], removed: [] });
    },
    WARM_UPS,
  );
  add("one share on the largest space", largest.median, 50);
  const group = await timed(
    RUNS,
    (run) => {
      const member = {
        type: "member" as const,
        groupId: `g${(run + WARM_UPS) % groupCount}`,
        memberId: `p${run + WARM_UPS}`,
      };
      standing.apply({ put: [member], removed: [] });
      standing.outsideAt(t);
    },
    WARM_UPS,
  );
  add("a group has a new member", group.median, 100);
  const moved = await timed(
    RUNS,
    (run) => {
      standing.apply({ put: [itemUnder(estate, `i${size - 1 - WARM_UPS - run}`, largestSpace(estate))], removed: [] });
      standing.outsideAt(t);
    },
    WARM_UPS,
  );
  add("an item is moved", moved.median, 200);
}

function grantTo(id: string, itemId: string, outsider: number): GrantRecord {
  return {
    type: "grant",
    id,
    itemId,
    toId: `p${outsider}`,
    role: "view",
    download: true,
    expiresAt: null,
    grantedBy: "p0",
    grantedAt: "2026-01-01T00:00:00Z",
    lastUsedAt: null,
  };
}

function itemUnder({ items }: Estate, id: string, parentId: string): ItemRecord {
  const made = "2026-01-01T00:00:00Z";
  const slot = items.find(id)!;
  return {
    type: "item",
    id,
    storeId: items.storeOf(slot),
    parentId,
    kind: items.kindOf(slot),
    name: items.names.get(slot),
    ownerId: null,
    label: null,
    inherits: true,
    state: "live",
    createdAt: made,
    modifiedAt: made,
  };
}

function largestSpace({ tree }: Estate): string {
  let largest = 0;
  for (let position = 0; position < tree.length; position = tree.end[position])
    if (tree.end[position] - position > tree.end[largest] - largest) largest = position;
  return tree.idAt(largest);
}

/** Cold starts, each in a process of its own: from the facts alone, then from the columns that the first left behind. */
async function measureStart(size: number) {
  const folder = mkdtempSync(join(tmpdir(), "latch-bench-"));
  const path = join(folder, "latch.sqlite");
  await writeDatabase(path, size);
  const start = (): Start =>
    JSON.parse(execFileSync(process.execPath, [process.argv[1], "--start", path], { encoding: "utf8" }));
  const fromFacts = start();
  const fromColumns = await timed(RUNS, start);
  const starts = [fromColumns.result, ...Array.from({ length: RUNS - 1 }, start)];
  const middle = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
  const add = (what: string, value: number, unit: "ms" | "MB", wanted: number | null) =>
    report.add({ size, what, value, unit, wanted });
  add("cold, all facts parsed, to the first answer", fromFacts.firstAnswer, "ms", null);
  add(
    "cold, from the columns kept on disk, to the first answer",
    middle(starts.map((one) => one.firstAnswer)),
    "ms",
    1_200,
  );
  add("resident memory of the engine's process", middle(starts.map((one) => one.memory)), "MB", 300);
  add("of that, a bare process", middle(starts.map((one) => one.bareMemory)), "MB", null);
  rmSync(folder, { recursive: true });
}

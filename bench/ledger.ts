import { randomBytes } from "node:crypto";
import { type Kysely } from "kysely";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { entryText, type EntryText, nextEntry } from "../core/ledger/chain";
import { parted } from "../core/ledger/details";
import { KINDS } from "../core/ledger/kinds";
import { leafHash, TreeEdge } from "../core/ledger/merkle";
import { type Db, openDatabase, writing } from "../server/platform/db/open";
import { append } from "../server/records/ledger/ledger";
import { sha256 } from "../server/records/ledger/sha256";
import { inclusionProof, rootAt } from "../server/records/ledger/tree";
import { verifyLedger } from "../server/records/ledger/verify";
import type { Report } from "./report";
import { timed } from "./timing";

const ENTRIES = 1_000_000;
const APPENDS = 2_000;
const PROOFS = 100;
const MOST_ENTRIES_A_STEP = 50_000;

/** A long ledger: adding to it beside adding to one without a tree, verifying it, and proofs out of it. */
export async function measureLedger(report: Report) {
  const add = (what: string, value: number, wanted: number | null) =>
    report.add({ size: ENTRIES, what: `ledger: ${what}`, value, unit: "ms", wanted, isAsked: true });
  const folder = mkdtempSync(join(tmpdir(), "latch-ledger-"));
  const path = join(folder, "latch.sqlite");
  let db = await openDatabase(path);
  try {
    await fill(db);
    await measureAppending(db, report);
    await db.destroy();
    db = await openDatabase(path);
    const began = performance.now();
    await rootAt(db, ENTRIES);
    add("the root after a cold start, the tree's nodes being kept", performance.now() - began, 200);
    const proof = (run: number) => inclusionProof(db, Math.abs(run * 9_973) % ENTRIES, ENTRIES);
    add("an inclusion proof, p95", (await timed(PROOFS, proof, 5)).p95, 5);
    const whole = performance.now();
    const { unbroken } = await verifyLedger(db);
    if (!unbroken) throw new Error("the ledger doesn't hold");
    add(`${ENTRIES} entries verified whole`, performance.now() - whole, 10_000);
  } finally {
    await db.destroy();
    rmSync(folder, { recursive: true, force: true });
  }
}

function body(i: number) {
  const change = { action: "revoke" as const, shareId: `share-${i}` };
  return { docket: `docket-${i % 900}`, change, answer: "The store has done it.", probe: null };
}

/** As if it had been written entry by entry. */
async function fill(db: Db) {
  const edge = new TreeEdge(sha256);
  const insert = db.sqlite.prepare("insert into ledger values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
  let last: EntryText | undefined;
  for (let from = 0; from < ENTRIES; from += MOST_ENTRIES_A_STEP)
    await writing(db, async () => {
      for (let i = from; i < from + MOST_ENTRIES_A_STEP; i++) {
        const { body: plain, detail } = parted(KINDS["change-done"], body(i), () => randomBytes(16));
        const fact = { at: "2026-10-05T08:00:00Z", actor: "imre.varga@home.example", kind: "change-done", body: plain };
        const entry: EntryText = (last = nextEntry(last, fact));
        const nodes = Buffer.concat(edge.add(leafHash(sha256, entryText(entry))));
        const { seq, at, actor, kind, previous, hash } = entry;
        insert.run(seq, at, actor, kind, entry.body, previous, hash, nodes, detail!.text, detail!.salt);
      }
    });
}

/** Turn by turn, so that a slow spell of the machine is both's. */
async function measureAppending(db: Db, report: Report) {
  db.sqlite.exec(
    "create table plain (seq integer primary key, at text, actor text, kind text, body text, previous text, hash text)",
  );
  const times = { tree: 0, plain: 0 };
  for (let i = 0; i < APPENDS; i++) {
    const began = performance.now();
    await append(db, "imre.varga@home.example", "change-done", body(i));
    const between = performance.now();
    await appendPlainly(db, body(i));
    times.tree += between - began;
    times.plain += performance.now() - between;
  }
  report.add({
    ...{
      size: ENTRIES,
      what: "ledger: an entry added, by itself",
      value: times.tree / APPENDS,
      unit: "ms",
      wanted: null,
    },
    baseline: { what: "one without a tree", value: times.plain / APPENDS, wantedRatio: 0.91 },
  });
  report.add({
    ...{ size: ENTRIES, what: "ledger: an entry added, of one without a tree", unit: "%" },
    ...{ value: (100 * times.tree) / times.plain, wanted: 110, isAsked: true },
  });
}

/** As an entry was added before there was a tree. */
async function appendPlainly(db: Db, told: object) {
  await writing(db, async (given) => {
    const tx = given as unknown as Kysely<{ plain: EntryText }>;
    KINDS["change-done"].parse(told);
    const last = await tx
      .selectFrom("plain")
      .select(["seq", "hash"])
      .orderBy("seq", "desc")
      .limit(1)
      .executeTakeFirst();
    const fact = { at: db.clock.text(), actor: "imre.varga@home.example", kind: "change-done", body: told };
    const entry = nextEntry(last, fact);
    await tx
      .insertInto("plain")
      .values({ ...entry, body: JSON.stringify(told) })
      .execute();
  });
}

import { randomBytes } from "node:crypto";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { PassThrough } from "node:stream";
import type { Manifest } from "@/core/evidence/pack";
import { BY_NAME } from "@/core/evidence/pseudonyms";
import { canonicalText } from "@/core/ledger/chain";
import { recordLine } from "@/core/estate/estateFile";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { AskingEstate } from "../../engine/client";
import type { OneInstant } from "../../engine/oneInstant";
import { writing } from "../../platform/db/open";
import { installed } from "../../platform/installation";
import type { Platform } from "../../platform/platform";
import { exportEstate, type ExportScope } from "../../records/exportEstate";
import { makeCheckpointNow } from "../../records/ledger/checkpoints";
import { publicKeys } from "../../records/ledger/keys";
import { appendWithin } from "../../records/ledger/ledger";
import { ruleSettings } from "../../rules";
import { removeAbandoned } from "./abandoned";
import { packFile } from "./packFile";
import { KEY_BYTES, keepPackKey, pseudonymsOfAll } from "./packKeys";
import { checkNamesNobody, firstEntry, keyFile, ledgerFiles } from "./ledgerFiles";
import { readme } from "./readme";
import { openSections } from "./openSections";
import { endsOf, type PackAsked, packSpan } from "./span";
import { type Extract, type PackSpan, RECORD_TABLES, recordLines, registerLines, type Scoped } from "./tables";
import { PackWriter } from "./writer";

/** A finished pack: the number of its ledger entry, and its path. */
export interface PackMade {
  seq: number;
  path: string;
}

/** Progress of making a pack. */
interface Making {
  /** Called with each file before it is written. */
  tell?: (path: string) => void;
  /** Stops it; nothing of the pack is kept. */
  signal?: AbortSignal;
}

/** What a pack is made with: an engine that is only this pack's, and of which nothing is left when it has answered. */
export interface PackMaker extends AskingEstate {
  readonly engine: OneInstant;
}

/**
 * Makes a pack, file by file, so that however much there is, little is in memory: first what the engine knows, about the
 * last day and then about the first one; and when that has gone, what the records say.
 * @throws {Problem} if what is asked for isn't available
 */
export async function makePack(
  app: PackMaker,
  asked: PackAsked,
  actor: string,
  { tell = () => {}, signal }: Making = {},
): Promise<PackMade> {
  const key = asked.pseudonyms ? randomBytes(KEY_BYTES) : null;
  const span = packSpan(app, asked, key ? await pseudonymsOfAll(app, key) : BY_NAME);
  if (key) await checkNamesNobody(app.db, await firstEntry(app.db, span.from));
  const { note } = await writing(app.db, (tx) => makeCheckpointNow(app, tx));
  const madeAt = app.clock.seconds();
  const packs = join(app.settings.data, "packs");
  await removeAbandoned(packs);
  const writer = new PackWriter(packs, madeAt, tell, signal);
  try {
    await writeListed(app, span, writer, note);
    const [{ name }] = await publicKeys(app.db);
    const manifest: Manifest = {
      ...{ version: 1, house: name.slice(name.indexOf("/") + 1), scope: told(span), from: asked.from, to: asked.to },
      ...{ madeAt: rfc3339(madeAt), madeBy: actor, pseudonyms: key !== null, files: writer.listed() },
    };
    const { sha256 } = await writer.write("manifest.json", [canonicalText(manifest)]);
    const seq = await writeLedger(app, span, writer, actor, { sha256, files: manifest.files.length, key });
    const path = packFile(app, seq);
    await writer.end(path);
    return { seq, path };
  } finally {
    app.engine.forget();
    await writer.discard();
  }
}

/** The query that a pack is about, as printed in the pack. */
const told = ({ scope, naming }: PackSpan) => naming.text(scope);

/** All that the manifest lists. */
async function writeListed(app: PackMaker, span: PackSpan, writer: PackWriter, note: string) {
  await writeRegister(app, span, writer);
  const [first, last] = endsOf(span);
  const atLast = await extractAt(app, span, last);
  const open = await openSections(app, span);
  const atFirst = await extractAt(app, span, first);
  const scoped: Scoped = atFirst && atLast && [atFirst, atLast];
  app.engine.forget();
  await writeEstate(app, span, writer, scoped);
  for (const table of RECORD_TABLES) await writer.write(`${table}.csv`, recordLines(app, table, span, scoped));
  const rules = await ruleSettings(app.db, rfc3339(span.to));
  await writer.write("rules.json", [`${canonicalText(rules)}\n`]);
  await writer.write("README.txt", [readme(span)]);
  await writer.write("verify.html", [await verifyPage()]);
  // Loaded when the engine has gone: what draws takes much room.
  const [{ drawn }, { packReport }] = await Promise.all([import("../report/draw"), import("./report")]);
  await writer.write("report.pdf", await drawn(await packReport(app, span, open), note, app.clock.seconds()));
}

/** The register, and beside it what breaks a rule. */
async function writeRegister(app: PackMaker, span: PackSpan, writer: PackWriter) {
  const findings = new PassThrough({ encoding: "utf8" });
  const lines = registerLines(app, span, (some) => findings.write(some));
  const register = writer.write("register.csv", lines).finally(() => findings.end());
  await Promise.all([register, writer.write("findings.csv", findings)]);
}

/** What a pack’s query finds at an instant; null where it is about everything. */
async function extractAt({ engine }: PackMaker, { scope }: PackSpan, at: Seconds): Promise<Extract | null> {
  if (scope === "") return null;
  const { items, shares } = await engine.ask("extract", { query: scope }, at);
  return { items: new Set(items), shares: new Set(shares) };
}

async function writeEstate(app: Platform, span: PackSpan, writer: PackWriter, scoped: Scoped) {
  // A span of one day has both ends on it.
  const days = new Map(span.days.map((day, i) => [day, { at: endsOf(span)[i], only: scoped?.[i] }]));
  for (const [day, { at, only }] of days)
    await writer.write(`estate/${day}.jsonl`, estateLines(app, span, { at: rfc3339(at), only }));
}

async function* estateLines({ db }: Platform, { naming }: PackSpan, scope: ExportScope): AsyncGenerator<string> {
  for await (const record of exportEstate(db, scope))
    yield `${recordLine(naming.record(record), { withAddresses: false })}\n`;
}

/** The ledger in a pack ends with the pack's own entry, which its checkpoint covers. */
async function writeLedger(
  app: Platform,
  span: PackSpan,
  writer: PackWriter,
  actor: string,
  { sha256: manifest, files, key }: { sha256: string; files: number; key: Buffer | null },
): Promise<number> {
  const [from, to] = span.days;
  const { size, note } = await writing(app.db, async (tx) => {
    await appendWithin(tx, actor, "pack-made", { manifest, from, to, scope: span.scope, files });
    const checkpoint = await makeCheckpointNow(app, tx);
    if (key) await keepPackKey(app, tx, checkpoint.size, key);
    return checkpoint;
  });
  const keys = await publicKeys(app.db);
  const scope = { first: await firstEntry(app.db, span.from), size, note, keys, hasDetails: key === null };
  for (const [path, pieces] of await ledgerFiles(app.db, scope)) await writer.write(path, pieces);
  await writer.write("key.txt", [keyFile(keys)]);
  return size;
}

/** One page that checks a pack in a browser; it is built with the application. */
function verifyPage(): Promise<string> {
  return readFile(installed("dist", "verify.html"), "utf8");
}

import pLimit from "p-limit";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { WaysIn } from "../core/access/waysIn";
import type { Change } from "../core/changes/change";
import { previewOf } from "../core/preview/preview";
import { buildEstate } from "../core/estate/estate";
import { Random } from "../demo/random";
import { allCarriedOut, applyDocket } from "../server/dockets/executor";
import { AT_MOST } from "../server/dockets/pace";
import { docketView } from "../server/dockets/receipts";
import { stage, trayOf } from "../server/dockets/tray";
import { type App, createApp } from "../server/app";
import { readStores } from "../server/stores/read";
import { settingsFrom } from "../server/platform/settings";
import { connect } from "../server/stores/connections";
import { httpStore } from "../server/stores/httpStore";
import { generateEstate } from "./generate";
import { answers, KEY, startStore, writeLinks } from "./linkStore";
import type { Report } from "./report";
import { timed } from "./timing";

const CHANGES = 10_000;
const ITEMS = 1_000_000;
const ADMIN = "admin@home.example";
const RUNS = 5;

/** Large dockets: what they would do, and carried out through a stand-in beside a bare loop of the same requests. */
export async function measureDockets(report: Report) {
  await measurePreview(report);
  await measureApplying(report);
}

/** Of all kinds that the register stages at once. */
async function measurePreview(report: Report) {
  const estate = buildEstate(generateEstate(ITEMS));
  const t = estate.asOf;
  const waysIn = new WaysIn(estate);
  const random = new Random(7);
  const changes = Array.from({ length: CHANGES }, (_, i): Change => {
    const shareId = estate.shares.idOf(random.between(0, estate.shares.count - 1));
    if (i % 10 === 0) return { action: "set-expiry", shareId, expiresAt: "2026-12-31T00:00:00Z" };
    return i % 10 === 1 ? { action: "block-download", shareId } : { action: "revoke", shareId };
  });
  const ends = changes.filter(({ action }) => action === "revoke");
  const preview = await timed(RUNS, () => previewOf(estate, changes, t, waysIn), 1);
  report.add({
    size: ITEMS,
    what: "preview of 10,000 changes of three kinds",
    value: preview.median,
    unit: "ms",
    wanted: 2_000,
  });
  const revokes = await timed(RUNS, () => previewOf(estate, ends, t, waysIn), 1);
  report.add({ size: ITEMS, what: "preview of 8,000 revokes", value: revokes.median, unit: "ms", wanted: null });
}

async function measureApplying(report: Report) {
  const folder = mkdtempSync(join(tmpdir(), "latch-dockets-"));
  process.env.LATCH_DATA = join(folder, "latch");
  const seed = writeLinks(folder, CHANGES);
  const stores = [startStore(folder, seed, 0), startStore(folder, seed, 1)];
  const add = (what: string, value: number, wanted: number | null = null) =>
    report.add({ size: CHANGES, what, value, unit: "ms", wanted, isAsked: true });
  const app = await createApp({ settings: settingsFrom(process.env) });
  try {
    await Promise.all(stores.map(({ url }) => answers(url)));
    const bare = await bareLoop(stores[1].url);
    const ours = await applied(app, stores[0].url, add);
    add("10,000 revokes by a bare loop of the same requests", bare);
    add("10,000 revokes with receipts and looks", ours, bare * 1.3);
    add("how many times the bare loop, in hundredths", (ours / bare) * 100, 130);
  } finally {
    for (const { child } of stores) child.kill("SIGTERM");
    await app.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The same requests with the same concurrency, and nothing kept. */
async function bareLoop(url: string): Promise<number> {
  const store = httpStore("Stacks", url, KEY);
  const addresses = new Map<string, string>();
  for (let cursor = 0, isLast = false; !isLast;) {
    const page = await store.read(cursor);
    for (const { record } of page.entries) if (record.type === "link") addresses.set(record.id, record.address!);
    ({ next: cursor, isLast } = page);
  }
  const headers = { Authorization: `Bearer ${KEY}`, "Content-Type": "application/json" };
  const limit = pLimit(AT_MOST);
  const began = performance.now();
  await Promise.all(
    [...addresses].map(([shareId, address]) =>
      limit(async () => {
        await (await fetch(`${url}/api/shares/${shareId}`, { headers })).json();
        const body = JSON.stringify({ key: `of the bare loop ${shareId}`, change: { action: "revoke", shareId } });
        const answer = await fetch(`${url}/api/changes`, { method: "POST", headers, body });
        if (!answer.ok) throw new Error(await answer.text());
        await answer.json();
        const look = await fetch(address, { redirect: "manual" });
        if (look.status !== 410 && look.status !== 404) throw new Error(`${address} still answers`);
        await look.text();
      }),
    ),
  );
  return performance.now() - began;
}

/** How long it takes from the press of "Apply" until the docket is closed. */
async function applied(
  app: App,
  url: string,
  add: (what: string, value: number, wanted?: number) => void,
): Promise<number> {
  await connect(app, { id: "stacks", name: "Stacks", url, key: KEY }, "bench");
  await readStores(app);
  await app.engine.ask("refresh", {});
  await stage(
    app,
    ADMIN,
    Array.from({ length: CHANGES }, (_, i) => ({ action: "revoke" as const, shareId: `l${i}` })),
  );
  const opened = await timed(RUNS, () => trayOf(app, ADMIN), 1);
  add("a tray of 10,000 changes with its preview, asked of the server", opened.median, 200);
  const { docketId } = await trayOf(app, ADMIN);
  const began = performance.now();
  await applyDocket(app, docketId!, ADMIN);
  await allCarriedOut(app);
  const took = performance.now() - began;
  const { progress } = await docketView(app, docketId!);
  if (progress.counts.done !== CHANGES || progress.unchecked > 0)
    throw new Error(`Only ${progress.counts.done} of ${CHANGES} were done and checked.`);
  return took;
}

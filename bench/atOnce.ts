import { type ChildProcess } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join, resolve } from "node:path";
import { setTimeout as later } from "node:timers/promises";
import type { estateOperations } from "../contract/estate";
import type { AnswerOf } from "../contract/operation";
import type { DocketProgress } from "../core/changes/states";
import { printOrder } from "../core/query/order";
import { rfc3339, type Seconds } from "../core/time/instant";
import { Random } from "../demo/random";
import { createApp } from "../server/app";
import { Clock } from "../server/platform/clock";
import { settingsFrom } from "../server/platform/settings";
import { connect } from "../server/stores/connections";
import { readStores } from "../server/stores/read";
import { startBigStore } from "./bigStore";
import { signIn, startServer, URL_HERE } from "./console";
import { answers, KEY, startStore, writeLinks } from "./linkStore";
import { childrenOf, memoryOf } from "./processes";
import { mixedQuery } from "./registerQueries";
import type { Line } from "./report";

type Add = (what: string, value: number, wanted: number | null, unit?: Line["unit"]) => void;
type Send = <T>(method: "GET" | "POST", path: string, body?: object) => Promise<T>;

const CHANGES = 10_000;
const PEOPLE = 10;
/** Between two questions of one person. */
const THINKS_MS = 500;
const QUIET_MS = 20_000;
const PREVIEWS_EVERY_MS = 2_000;
/** A generated estate has so many records an item. */
const RECORDS_AN_ITEM = 1.3;

/**
 * While ten people are in the register: as many records as the estate has items are read from another store, ten thousand
 * changes are carried out in a third, and a tray is looked at. How long the register takes meanwhile, and how late the
 * event loop of the server is.
 */
export async function measureAtOnce(add: Add, data: string, size: number, now: Seconds) {
  const links = startStore(data, writeLinks(data, 2 * CHANGES), 0);
  const big = await startBigStore(Math.round(size / RECORDS_AN_ITEM));
  try {
    await answers(links.url);
    await connectBoth(data, now, links.url, big.url);
    const lateness = join(data, "lateness");
    const loaded = { NODE_OPTIONS: `--import ${resolve("bench/lateness.mjs")}`, LATENESS: lateness };
    const { server, code } = await startServer(data, rfc3339(now), loaded);
    try {
      await measureAll(add, server, await sender(code), () => latenessOf(server, lateness), big.open);
    } finally {
      server.kill("SIGINT");
      await new Promise((resolve) => server.once("exit", resolve));
    }
  } finally {
    big.stop();
    links.child.kill("SIGTERM");
  }
}

/** The store with links is read at once, so that they can be revoked; the big one only when all else is going on. */
async function connectBoth(data: string, now: Seconds, links: string, big: string) {
  const settings = settingsFrom({ ...process.env, LATCH_DATA: data });
  const app = await createApp({ settings, clock: new Clock(new Date(now * 1_000)) });
  await connect(app, { id: "stacks", name: "Stacks", url: links, key: KEY }, "bench");
  await readStores(app);
  await connect(app, { id: "big", name: "Big", url: big, key: KEY }, "bench");
  await app.close();
}

async function measureAll(
  add: Add,
  server: ChildProcess,
  send: Send,
  late: () => Promise<Late>,
  open: () => Promise<unknown>,
) {
  const { ids } = await send<{ ids: string[] }>("GET", "/api/register/ids?query=store:Stacks");
  if (ids.length < 2 * CHANGES) throw new Error(`only ${ids.length} links are there`);
  const stage = (some: string[]) =>
    send("POST", "/api/tray", { changes: some.map((shareId) => ({ action: "revoke", shareId })) });
  await stage(ids.slice(0, CHANGES));
  const tray = await send<{ docketId: string; digest: string }>("GET", "/api/tray");
  await late();
  const quiet = await inTheRegister(send, later(QUIET_MS));
  const quietLate = await late();
  await open();
  const began = performance.now();
  const reading = send<Read>("POST", "/api/reading").then(({ results }) => {
    const { changed, error } = results.find(({ store }) => store === "Big")!;
    if (error) throw new Error(error);
    return changed / ((performance.now() - began) / 1_000);
  });
  await send("POST", `/api/dockets/${tray.docketId}/apply`, { digest: tray.digest });
  await stage(ids.slice(CHANGES));
  let isOver = false;
  const carried = carriedOut(send, tray.docketId).then(() => performance.now() - began);
  const previews = (async () => {
    const times: number[] = [];
    for (; !isOver; await later(PREVIEWS_EVERY_MS)) times.push(await took(() => send("GET", "/api/tray")));
    return median(times);
  })();
  const busy = await inTheRegister(send, Promise.all([reading, carried]));
  isOver = true;
  const busyLate = await late();
  add("ten people in the register, nothing else going on, p95", quiet.p95, null);
  add("the same while records are read, a docket applied and a tray looked at", busy.p95, 2 * quiet.p95);
  add("the longest that one of them waits, nothing else going on", quiet.most, null);
  add("the same meanwhile", busy.most, null);
  add("event loop of the server, at most so late, nothing else going on", quietLate.most, null);
  add("event loop of the server, at most so late meanwhile", busyLate.most, 50);
  add("event loop of the server, p99 meanwhile", busyLate.p99, null);
  add("records a second through the stand-ins' protocol meanwhile", await reading, 20_000, "rows/s");
  add("the docket of 10,000 meanwhile", await carried, null);
  add("a tray of 10,000 with its preview meanwhile, median", await previews, null);
  add("memory of the server at most, with all that", memoryOf(server).most, null, "MB");
}

/** Ten people ask mixed questions of the register, one after the other, until something is over. */
async function inTheRegister(send: Send, until: Promise<unknown>): Promise<Waits> {
  let isOver = false;
  const over = until.finally(() => (isOver = true));
  const waits: number[] = [];
  const person = async (number: number) => {
    const random = new Random(number + 1);
    await later((number * THINKS_MS) / PEOPLE);
    for (; !isOver; await later(THINKS_MS)) {
      const { query, order } = mixedQuery(random, Date.now() / 1_000);
      const asked = new URLSearchParams({ query, order: printOrder(order) });
      waits.push(await took(() => send("GET", `/api/register?${asked}`)));
    }
  };
  await Promise.all([over, ...Array.from({ length: PEOPLE }, (_, i) => person(i))]);
  waits.sort((a, b) => a - b);
  return { p95: waits[Math.floor(0.95 * (waits.length - 1))], most: waits.at(-1)! };
}

async function carriedOut(send: Send, docketId: string) {
  for (;;) {
    const { progress } = await send<{ progress: DocketProgress }>("GET", `/api/dockets/${docketId}`);
    if (progress.counts.done === CHANGES) return;
    await later(PREVIEWS_EVERY_MS);
  }
}

type Read = AnswerOf<typeof estateOperations.readNow>;

/** In milliseconds. */
interface Waits {
  p95: number;
  most: number;
}

interface Late {
  most: number;
  p99: number;
}

/** How late the event loops of a command's processes have been since they were last asked, in milliseconds. */
async function latenessOf({ pid }: ChildProcess, path: string): Promise<Late> {
  const all: Late[] = [];
  for (const one of childrenOf(pid!)) {
    const file = `${path}.${one}`;
    process.kill(one, "SIGUSR2");
    while (!existsSync(file)) await later(20);
    all.push(JSON.parse(readFileSync(file, "utf8")));
    rmSync(file);
  }
  return { most: Math.max(...all.map(({ most }) => most)), p99: Math.max(...all.map(({ p99 }) => p99)) };
}

async function sender(code: string | null): Promise<Send> {
  const headers = { Cookie: await signIn(code), Origin: URL_HERE, "Content-Type": "application/json" };
  return async (method, path, body) => {
    const sent = method === "POST" ? JSON.stringify(body ?? {}) : undefined;
    const response = await fetch(URL_HERE + path, { method, headers, body: sent });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return response.json();
  };
}

async function took(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

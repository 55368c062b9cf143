import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { printOrder } from "../core/query/order";
import { Random } from "../demo/random";
import { writeDatabase } from "./database";
import { openBrowser, signInOn } from "./browser";
import { measureMeanwhile } from "./meanwhile";
import { measureRounds } from "./rounds";
import { mixedQuery } from "./registerQueries";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const QUERIES = 200;
const WARM_UPS = 30;
const PORT = 4610;
export const URL_HERE = `http://localhost:${PORT}`;
const NOW = "2026-10-05T08:00:00Z";
/** The last of the generated estate’s people works there. */
export const PERSON = { name: "Imre Varga", email: "p19999@home.example", password: "tern-gravel-lantern-oboe" };
const RUNS = 5;
const SCROLL_MS = 8_000;
/** Longer than this, and a frame is seen to stick. */
const STICKS_MS = 50;

/** The register as people have it: through its routes, and scrolled in a browser. */
export async function measureConsole(report: Report, shares: number) {
  const data = mkdtempSync(join(tmpdir(), "latch-console-"));
  await writeDatabase(join(data, "latch.sqlite"), ITEMS, shares);
  const began = performance.now();
  const { server, code } = await startServer(data);
  const add = (what: string, value: number, wanted: number | null) =>
    report.add({ size: shares, what, value, unit: "ms", wanted, isAsked: true });
  try {
    add("the application from its start to its first page", performance.now() - began, null);
    const cookie = await signIn(code);
    const random = new Random(3);
    const t = Date.parse(NOW) / 1000;
    const asked = Array.from({ length: QUERIES + WARM_UPS }, () => mixedQuery(random, t));
    const ask = async (path: string) => {
      const response = await fetch(URL_HERE + path, { headers: { Cookie: cookie } });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    const askRegister = (run: number) => {
      const { query, order } = asked[run + WARM_UPS];
      return ask(`/api/register?${new URLSearchParams({ query, order: printOrder(order) })}`);
    };
    const route = await timed(QUERIES, askRegister, WARM_UPS);
    add("the same through the route, median", route.median, null);
    add("the same through the route, p95", route.p95, shares > 500_000 ? 60 : 40);
    const send = async (path: string, body: unknown) => {
      const headers = { Cookie: cookie, Origin: URL_HERE, "Content-Type": "application/json" };
      const response = await fetch(URL_HERE + path, { method: "POST", headers, body: JSON.stringify(body) });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    };
    await measureMeanwhile({ ask, askRegister, add });
    await measureRounds({ ask, send, askRegister, add, now: NOW, person: PERSON.email });
    await measureScroll(add);
    await measureTray(cookie, add);
  } finally {
    server.kill("SIGINT");
    await new Promise((resolve) => server.once("exit", resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

/** @returns with the code that the first administrator needs, where there is none yet */
export async function startServer(
  data: string,
  now = NOW,
  more: Record<string, string> = {},
): Promise<{ server: ChildProcess; code: string | null }> {
  const env = {
    ...process.env,
    ...more,
    LATCH_DATA: data,
    LATCH_PORT: String(PORT),
    LATCH_NOW: now,
    LATCH_READ_EVERY: "0",
  };
  const server = spawn(process.execPath, ["scripts/start.mjs"], { env, stdio: ["ignore", "pipe", "inherit"] });
  let output = "";
  server.stdout!.on("data", (text) => (output += text));
  const later = () => new Promise((resolve) => setTimeout(resolve, 200));
  while (!(await fetch(`${URL_HERE}/sign-in`).catch(() => undefined))?.ok) await later();
  const isFirst = !(await fetch(`${URL_HERE}/first-run`)).redirected;
  const code = () => /give this code: (\S+)/.exec(output)?.[1] ?? null;
  while (isFirst && code() === null) await later();
  return { server, code: code() };
}

/** @param code without it, whoever is to sign in is known already */
export async function signIn(code: string | null): Promise<string> {
  const headers = { "Content-Type": "application/json", Origin: URL_HERE };
  const post = (path: string, body: unknown) =>
    fetch(URL_HERE + path, { method: "POST", headers, body: JSON.stringify(body) });
  if (code !== null) await post("/api/first-run", { code, ...PERSON });
  const { email, password } = PERSON;
  const response = await post("/api/auth/sign-in/email", { email, password });
  if (!response.ok) throw new Error(await response.text());
  return response.headers
    .getSetCookie()
    .map((one) => one.split(";")[0])
    .join("; ");
}

/** Scrolls through the whole list, in a recorded trace: the longest task of the page's main thread, and the frames. */
async function measureScroll(add: (what: string, value: number, wanted: number | null) => void) {
  const browser = await openBrowser();
  const page = await browser.newPage();
  await signInOn(page, URL_HERE, PERSON.email, PERSON.password);
  await page.goto(`${URL_HERE}/register`);
  await page.waitForSelector("#row-5 input");
  await new Promise((resolve) => setTimeout(resolve, 2_000));
  await page.tracing.start({
    categories: ["devtools.timeline", "disabled-by-default-devtools.timeline", "toplevel", "__metadata"],
  });
  const frames = await page.evaluate(scrollThrough, SCROLL_MS);
  const trace = JSON.parse(Buffer.from((await page.tracing.stop())!).toString()) as { traceEvents: TraceEvent[] };
  await browser.close();
  const longest = Math.max(...frames);
  add("scrolling through all: longest frame", longest, STICKS_MS);
  add("scrolling through all: longest task in the trace", longestTask(trace.traceEvents), STICKS_MS);
  console.log(
    `${frames.length} frames, ${frames.filter((one) => one > STICKS_MS).length} of them over ${STICKS_MS} ms`,
  );
}

const STAGED = 10_000;

/** A tray of ten thousand changes: asked for with its preview, and opened in the browser until it is painted. */
async function measureTray(cookie: string, add: (what: string, value: number, wanted: number | null) => void) {
  const headers = { Cookie: cookie, Origin: URL_HERE, "Content-Type": "application/json" };
  const matching = await fetch(`${URL_HERE}/api/register/ids?query=${encodeURIComponent("state:live")}`, { headers });
  const { ids } = (await matching.json()) as { ids: string[] };
  const changes = ids.slice(0, STAGED).map((shareId) => ({ action: "revoke", shareId }));
  const staged = await fetch(`${URL_HERE}/api/tray`, { method: "POST", headers, body: JSON.stringify({ changes }) });
  if (!staged.ok) throw new Error(await staged.text());
  const tray = await timed(RUNS, async () => (await fetch(`${URL_HERE}/api/tray`, { headers })).json(), 1);
  add("a tray of 10,000 changes asked for, with its preview", tray.median, 2_000);
  const browser = await openBrowser();
  const page = await browser.newPage();
  await signInOn(page, URL_HERE, PERSON.email, PERSON.password);
  await page.waitForSelector("footer button[aria-expanded]");
  const opened = await timed(RUNS, () => page.evaluate(openTray), 1);
  add("a tray of 10,000 changes opened in the browser", opened.median, 200);
  await browser.close();
}

/** Runs in the page: presses what opens the tray, waits until it is painted, and shuts it again. */
async function openTray(): Promise<void> {
  const button = document.querySelector<HTMLElement>("footer button[aria-expanded]")!;
  const painted = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
  button.click();
  while (!document.querySelector("section[aria-label='Staged changes'] li")) await painted();
  await painted();
  button.click();
}

interface TraceEvent {
  name: string;
  pid: number;
  tid: number;
  dur?: number;
  args?: { name?: string };
}

/** In milliseconds, of the main threads of pages. */
function longestTask(events: TraceEvent[]): number {
  const mains = new Set(
    events
      .filter(({ name, args }) => name === "thread_name" && args?.name === "CrRendererMain")
      .map(({ pid, tid }) => `${pid} ${tid}`),
  );
  const tasks = events.filter(({ name, pid, tid }) => name === "RunTask" && mains.has(`${pid} ${tid}`));
  return Math.max(...tasks.map(({ dur = 0 }) => dur)) / 1_000;
}

/** Runs in the page. @returns how long each frame took, in milliseconds */
function scrollThrough(lasts: number): Promise<number[]> {
  const table = document.querySelector("[data-table]")!;
  const end = table.scrollHeight - table.clientHeight;
  const frames: number[] = [];
  return new Promise((resolve) => {
    const began = performance.now();
    let last = began;
    const step = () => {
      const now = performance.now();
      frames.push(now - last);
      last = now;
      // Slowly at first, as one reads, and then through to the end.
      const part = (now - began) / lasts;
      table.scrollTop = part < 0.5 ? part * 20_000 : 10_000 + (part - 0.5) * 2 * (end - 10_000);
      if (part < 1) requestAnimationFrame(step);
      else resolve(frames.slice(1));
    };
    requestAnimationFrame(step);
  });
}

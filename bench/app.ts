import { readdirSync, readFileSync } from "node:fs";
import type { ChildProcess } from "node:child_process";
import type { Page } from "puppeteer-core";
import { DAY, rfc3339, type Seconds } from "../core/time/instant";
import { openBrowser, signInOn } from "./browser";
import { PERSON, signIn, startServer, URL_HERE } from "./console";
import { timed } from "./timing";

type Add = (what: string, value: number, wanted: number | null, unit?: "ms" | "MB") => void;

const RUNS = 5;
/** Each screen, what shows that its content is there, and what is wanted of it when it is looked at for the first time. */
const SCREENS: [path: string, content: string, wanted: number | null][] = [
  ["/desk", "canvas[aria-label^='Outside shares by day']", 500],
  ["/register", "#row-5", null],
  ["/rules", "dl dd", null],
  ["/people", "tbody tr", null],
  ["/estate", "main section, main table", null],
  ["/ledger", "tbody tr", null],
];

/** `npm start` until somebody has signed in and sees the first rows. @param wanted of that, in milliseconds */
export async function measureStart(add: Add, data: string, now: Seconds, when: string, wanted: number) {
  const began = performance.now();
  const { server, code } = await startServer(data, rfc3339(now));
  add(`npm start ${when} until its first page`, performance.now() - began, null);
  const cookie = await signIn(code);
  const rows = await fetch(`${URL_HERE}/api/register?query=outside:yes`, { headers: { Cookie: cookie } });
  if (!rows.ok) throw new Error(await rows.text());
  await rows.json();
  add(`npm start ${when} until the first rows`, performance.now() - began, wanted);
  return { server, stop: () => stopped(server) };
}

async function stopped(server: ChildProcess) {
  server.kill("SIGINT");
  await new Promise((resolve) => server.once("exit", resolve));
}

/** The application as people have it, over an estate that was imported and has gone on since, looked at in a browser. */
export async function measureApp(add: Add, data: string, now: Seconds) {
  const { server, stop } = await measureStart(add, data, now, "again", 2_000);
  try {
    const browser = await openBrowser();
    const page = await browser.newPage();
    await signInOn(page, URL_HERE, PERSON.email, PERSON.password);
    await measureScreens(page, add, now);
    await measureInteractions(page, add);
    await browser.close();
    const { now: resident, most } = memoryOf(server);
    add("memory of the server, with what was looked at", resident, 700, "MB");
    add("memory of the server at most", most, null, "MB");
  } finally {
    await stop();
  }
}

async function measureScreens(page: Page, add: Add, now: Seconds) {
  const month = `/register?at=${rfc3339(now - 30 * DAY)}`;
  for (const [path, content, wanted] of [...SCREENS, [month, "#row-5", null] as const]) {
    const name = path === month ? "the register a month ago" : path;
    add(`${name} in the browser, the first time`, await shown(page, path, content), wanted);
    add(`${name} again`, (await timed(RUNS, () => shown(page, path, content))).median, null);
  }
}

/** @returns in how many milliseconds a screen's content is there, from when it is gone to */
async function shown(page: Page, path: string, content: string): Promise<number> {
  const began = performance.now();
  await page.goto(URL_HERE + path, { waitUntil: "domcontentloaded" });
  await page.waitForSelector(content, { timeout: 120_000 });
  return performance.now() - began;
}

/** From a press to the next paint that shows what it brought. */
async function measureInteractions(page: Page, add: Add) {
  await shown(page, "/register", "#row-5");
  const pressed = async (press: () => Promise<unknown>, holds: string) => {
    const began = performance.now();
    await press();
    await page.waitForFunction(holds, { polling: "raf", timeout: 60_000 });
    return performance.now() - began;
  };
  add("a row is opened", await pressed(() => page.click("#row-3"), "document.querySelector('aside h2')"), 200);
  add(
    "all that is found is marked",
    await pressed(() => page.keyboard.press("a"), "/ marked/.test(document.body.innerText)"),
    200,
  );
}

/** In megabytes: what the processes that a command has started hold, and the most that they have held. */
function memoryOf({ pid }: ChildProcess): { now: number; most: number } {
  const sums = { now: 0, most: 0 };
  for (const one of [pid!, ...childrenOf(pid!)]) {
    const status = readFileSync(`/proc/${one}/status`, "utf8");
    sums.now += Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_000;
    sums.most += Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_000;
  }
  return sums;
}

function childrenOf(pid: number): number[] {
  const parents = readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map((name) => ({ pid: Number(name), parent: parentOf(name) }));
  const own = parents.filter(({ parent }) => parent === pid).map((one) => one.pid);
  return [...own, ...own.flatMap(childrenOf)];
}

function parentOf(pid: string): number {
  try {
    return Number(/PPid:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]);
  } catch {
    // It has just ended.
    return 0;
  }
}

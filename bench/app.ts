import type { ChildProcess } from "node:child_process";
import type { Page } from "puppeteer-core";
import { DAY, rfc3339, type Seconds } from "../core/time/instant";
import { openBrowser, signInOn } from "./browser";
import { PERSON, signIn, startServer, URL_HERE } from "./console";
import { memoryOf } from "./processes";
import { timed } from "./timing";

type Add = (what: string, value: number, wanted: number | null, unit?: "ms" | "MB") => void;

const RUNS = 5;
/** Of 250,000 shares some 10,000: as many as are staged at once. */
const FEW = 'department:"Department 1","Department 2"';
/** Each screen, what shows that its content is there, and what is wanted of it when it is looked at for the first time. */
const SCREENS: [path: string, content: string, wanted: number | null][] = [
  ["/desk", "canvas[aria-label^='Outside shares by day']", 500],
  ["/register", "#row-5", null],
  ["/rules", "dl dd", null],
  ["/people", "tbody tr", null],
  ["/estate", "main li b", null],
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
    await measureInteractions(page, add, now);
    await browser.close();
    const { now: resident, most } = memoryOf(server);
    add("memory of the server, with what was looked at", resident, 700, "MB");
    add("memory of the server at most", most, null, "MB");
  } finally {
    await stop();
  }
  await measureDeskAgain(add, data, now);
}

/** The Desk after another start, as most people meet it: its days were counted before. */
async function measureDeskAgain(add: Add, data: string, now: Seconds) {
  const { server } = await startServer(data, rfc3339(now));
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await signInOn(page, URL_HERE, PERSON.email, PERSON.password);
    const [path, content, wanted] = SCREENS[0];
    add(`${path} in the browser after another start, the first time`, await shown(page, path, content), wanted);
    add("memory of the server then", memoryOf(server).now, 700, "MB");
  } finally {
    await browser.close();
    await stopped(server);
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
async function measureInteractions(page: Page, add: Add, now: Seconds) {
  const pressed = async (what: string, wanted: number | null, press: () => Promise<unknown>, holds: string) => {
    const began = performance.now();
    await press();
    await page.waitForFunction(holds, { polling: "raf", timeout: 60_000 });
    add(what, performance.now() - began, wanted);
  };
  const ask = async (query: string) => {
    await page.$eval("[data-query]", (field) => (field as HTMLInputElement).select());
    await page.type("[data-query]", query);
    return page.keyboard.press("Enter");
  };
  const found = () => page.evaluate(() => /Mark all [\d,]+/.exec(document.body.innerText)![0]);
  await shown(page, "/register", "#row-5");
  await pressed("a row is opened", 200, () => page.click("#row-3"), "document.querySelector('aside h2')");
  await pressed(
    "all that is found is marked",
    200,
    () => page.keyboard.press("a"),
    "/[1-9][\\d,]{3,} marked/.test(document.body.innerText)",
  );
  await page.evaluate(() => {
    const buttons = [...document.querySelectorAll("button")];
    buttons.find((one) => one.textContent === "Mark none")!.click();
  });
  await page.waitForFunction("/^0 marked/m.test(document.body.innerText)");
  const before = await found();
  const isOther = `!document.body.innerText.includes(${JSON.stringify(before)})`;
  await pressed("a query of two departments, typed and asked", null, () => ask(FEW), isOther);
  await pressed(
    "all of them are marked",
    200,
    () => page.keyboard.press("a"),
    "/[1-9][\\d,]{3,} marked/.test(document.body.innerText)",
  );
  const isStaged = "document.querySelector('footer button[aria-expanded]')";
  await pressed("all of them are staged", null, () => page.keyboard.press("x"), isStaged);
  const isGrouped = "document.querySelector('[data-table] [aria-expanded]')";
  const group = () => page.select("select[aria-label='Group by']", "organisation");
  await pressed("they are grouped by organisation", null, group, isGrouped);
  await shown(page, `/register?at=${rfc3339(now - 30 * DAY)}`, "#row-5");
  const isNow = "!location.search.includes('at=') && document.querySelector('#row-5')";
  await pressed("back to now from a past day", 200, () => page.click("[role=status] button"), isNow);
}

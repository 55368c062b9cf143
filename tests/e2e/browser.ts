import AxeBuilder from "@axe-core/puppeteer";
import puppeteer, { type Browser, type Page } from "puppeteer-core";

/** A busy machine may take its time; what never comes is still found out. */
const PATIENCE_MS = 90_000;

/** Optimising code pays off only where a page computes for seconds. */
const FOR_BRIEF_PAGES = "--js-flags=--no-maglev,--no-turbofan,--min-semi-space-size=64,--max-semi-space-size=64";

/**
 * Debian's Chromium, without a window and without connections of its own, with one page of the usual size.
 * @param computes whether its pages have heavy work of their own to do
 */
export async function openBrowser({ computes = false } = {}): Promise<{ browser: Browser; page: Page }> {
  const browser = await puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--no-first-run",
      // As whoever reads days before months.
      "--accept-lang=en-GB",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      ...(computes ? [] : [FOR_BRIEF_PAGES]),
    ],
  });
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  page.setDefaultTimeout(PATIENCE_MS);
  return { browser, page };
}

/** Goes to an address, and waits until its screen is ready. */
export async function openOn(page: Page, address: string) {
  const response = await page.goto(address, { waitUntil: "domcontentloaded" });
  await readyOn(page);
  return response;
}

/** Waits until a screen answers to clicks and keys and has loaded what it shows: not for silence on the network. */
export async function readyOn(page: Page) {
  await holdsOn(page, () => {
    const part = document.querySelector("main, form, h1");
    // React leaves its mark on what it has made its own.
    return part !== null && Object.keys(part).some((name) => name.startsWith("__reactFiber"));
  });
  // What it asks for it has asked for once it is idle.
  await page.evaluate(() => new Promise((idle) => requestIdleCallback(idle)));
  await holdsOn(page, () => document.querySelector("[aria-busy=true]") === null);
}

/** Waits until some words stand on a page. */
export const showsOn = (page: Page, words: string) =>
  holdsOn(page, (wanted) => document.body.innerText.includes(wanted), words);

/** Waits until a page has something that a selector finds. */
export const hasOn = (page: Page, selector: string) =>
  holdsOn(page, (wanted) => document.querySelector(wanted) !== null, selector);

/** Waits until a page's address asks for something; it follows a moment after what the screen shows. */
export const addressHasOn = (page: Page, name: string, value: string) =>
  holdsOn(page, (key, wanted) => new URL(location.href).searchParams.get(key) === wanted, name, value);

/**
 * Waits until a test holds on a page, or on the one that comes after it. It is asked again and again from here: a wait
 * within the browser is lost at times when another page comes meanwhile, and its asking at every frame costs much.
 * @throws with what stands on the page instead
 */
export async function holdsOn<Given extends unknown[]>(
  page: Page,
  test: (...given: Given) => boolean | undefined,
  ...given: Given
): Promise<void> {
  const end = Date.now() + PATIENCE_MS;
  while (!(await onThisPage(() => page.evaluate(test as () => boolean, ...(given as unknown as []))))) {
    if (Date.now() > end) {
      const shown = await page.evaluate(() => document.body.innerText);
      throw new Error(`${test}, with ${JSON.stringify(given)}, never held on ${page.url()}, which shows:\n${shown}`);
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** What a page answers; nothing where it goes away meanwhile. */
async function onThisPage<Answer>(ask: () => Promise<Answer>): Promise<Answer | undefined> {
  try {
    return await ask();
  } catch (error) {
    if (/context|detached|Cannot read properties of null/i.test(String(error))) return undefined;
    throw error;
  }
}

/** What axe finds wrong with a page, in words; nothing is what it should find. */
export async function faultsOf(page: Page): Promise<string[]> {
  // Pages here have no frames, and what is as it should be need not be told.
  const isDark = await page.evaluate(() => matchMedia("(prefers-color-scheme: dark)").matches);
  // In the dark a page is the same but for its colours; all else is looked at in the light.
  const runOnly = isDark ? { runOnly: ["color-contrast"] } : {};
  const axe = new AxeBuilder(page).setLegacyMode(true).options({ resultTypes: ["violations"], ...runOnly });
  // Of a list's rows, all drawn alike, the first dozen stand for the rest.
  for (const row of ["[role=row]", "tbody tr", "li"]) axe.exclude(`${row}:nth-child(n + 13)`);
  const { violations } = await axe.analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(" ")).join(", ")}`);
}

/** The same in the light and in the dark, without loading the page twice. */
export async function faultsInAnyLight(page: Page): Promise<string[]> {
  const faults: string[] = [];
  for (const value of ["light", "dark"]) {
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value }]);
    faults.push(...(await faultsOf(page)).map((fault) => `${value}: ${fault}`));
  }
  return faults;
}

/** Signs in with the form, and waits for what they come to: the console, unless it is said what else. */
export async function signInOn(
  page: Page,
  url: string,
  email: string,
  password: string,
  arrival = "nav[aria-label=Sections]",
) {
  await openOn(page, `${url}/sign-in`);
  await page.type("input[name=email]", email);
  await page.type("input[name=password]", password);
  await page.keyboard.press("Enter");
  await hasOn(page, arrival);
}

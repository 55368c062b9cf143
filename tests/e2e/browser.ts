import AxeBuilder from "@axe-core/puppeteer";
import puppeteer, { type Browser, type Page } from "puppeteer-core";

/** A busy machine may take its time; what never comes is still found out. */
const PATIENCE_MS = 90_000;

/** Debian's Chromium, without a window and without connections of its own, with one page of the usual size. */
export async function openBrowser(): Promise<{ browser: Browser; page: Page }> {
  const browser = await puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  page.setDefaultTimeout(PATIENCE_MS);
  return { browser, page };
}

/** Waits until some words stand on a page. */
export function showsOn(page: Page, words: string) {
  return page.waitForFunction((wanted) => document.body.innerText.includes(wanted), {}, words);
}

/** What axe finds wrong with a page, in words; nothing is what it should find. */
export async function faultsOf(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder(page).analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(" ")).join(", ")}`);
}

/** Signs in by the form, and waits for the console. */
export async function signInOn(page: Page, url: string, email: string, password: string) {
  await page.goto(`${url}/sign-in`, { waitUntil: "networkidle2" });
  await page.type("input[name=email]", email);
  await page.type("input[name=password]", password);
  await Promise.all([page.waitForNavigation({ waitUntil: "networkidle2" }), page.keyboard.press("Enter")]);
}

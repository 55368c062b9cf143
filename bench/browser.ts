import puppeteer, { type Browser, type Page } from "puppeteer-core";

/** A browser without a window, that asks nothing of any network by itself. */
export function openBrowser(): Promise<Browser> {
  return puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
}

export async function signInOn(page: Page, url: string, email: string, password: string): Promise<void> {
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${url}/sign-in`, { waitUntil: "networkidle2" });
  await page.type("input[name=email]", email);
  await page.type("input[name=password]", password);
  await Promise.all([page.waitForNavigation(), page.click("button[type=submit]")]);
}

import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer from "puppeteer-core";
import { CHROMIUM } from "./chromium.mjs";

/** Debian's Chromium, without a window and without any connection of its own. */
export function launchBrowser() {
  return puppeteer.launch({
    executablePath: CHROMIUM,
    userDataDir: mkdtempSync(join(tmpdir(), "latch-browser-")),
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      // As whoever reads days before months.
      "--accept-lang=en-GB",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
}

/** Signs in with the form, and waits for the console. */
export async function signIn(page, url, email, password) {
  await page.goto(`${url}/sign-in`, { waitUntil: "networkidle2" });
  await page.type("input[name=email]", email);
  await page.type("input[name=password]", password);
  await Promise.all([page.waitForNavigation({ waitUntil: "networkidle2" }), page.click("button[type=submit]")]);
}

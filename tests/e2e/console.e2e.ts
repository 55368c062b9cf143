import SQLite from "better-sqlite3";
import type { Browser, Page } from "puppeteer-core";
import { faultsOf, hasOn, holdsOn, openBrowser, openOn, showsOn } from "./browser";
import { ADMINISTRATOR, AUDITOR, Demo, PASSWORD } from "./demo";

/** The whole story through the browser, as a new user would walk it. */
const demo = new Demo();
let browser: Browser;
let page: Page;

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

jest.setTimeout(300_000);

const button = (text: string) => page.locator(`::-p-xpath(//button[contains(normalize-space(.), "${text}")])`);
const shows = (text: string) => showsOn(page, text);
const textOf = (on: Page) => on.evaluate(() => document.body.innerText);
const shareCount = async () => Number((await textOf(page)).match(/([\d,]+) of [\d,]+ shares/)![1].replace(",", ""));

let address: string;

test("somebody who isn't signed in is asked to, and a wrong password is refused", async () => {
  await openOn(page, `${demo.url}/register`);
  expect(page.url()).toBe(`${demo.url}/sign-in?to=%2Fregister`);
  expect(await faultsOf(page)).toEqual([]);
  await page.type("input[name=email]", ADMINISTRATOR);
  await page.type("input[name=password]", "not the password at all");
  await button("Sign in").click();
  await shows("The address or password is wrong.");
});

test("the administrator signs in and sees every share of three stores", async () => {
  await page.locator("input[name=password]").fill(PASSWORD);
  await button("Sign in").click();
  await holdsOn(page, () => /[\d,]+ of [\d,]+ shares/.test(document.body.innerText));
  expect(await shareCount()).toBeGreaterThan(2_000);
  for (const store of ["Stacks", "Alcoves", "Loading Dock"]) {
    await page.locator("[data-query]").fill(`store:"${store}"`);
    await holdsOn(page, (name) => document.querySelector("#row-0")?.textContent?.includes(name), store);
  }
  expect(await faultsOf(page)).toEqual([]);
});

test("a query that isn't understood is pointed at, and the rest of it counts", async () => {
  await page.locator("[data-query]").fill("rech:open");
  await shows("there is no field rech; did you mean reach?");
});

test("open links that nobody uses are marked by keyboard, staged, and their revoke is previewed", async () => {
  await page.locator("[data-query]").fill("reach:open -used:<45d");
  await holdsOn(page, () => new URLSearchParams(location.search).get("q")?.endsWith("<45d"));
  await holdsOn(page, () => document.querySelector("#row-0")?.textContent?.includes("Passport scans"));
  await page.focus("[data-table]");
  await page.keyboard.press("Enter");
  await shows("Anyone who holds this link can look at");
  expect(await textOf(page)).not.toMatch(/\/l\/\w+/);
  await button("Show the address").click();
  await holdsOn(page, () => /http:\/\/127\.0\.0\.1:\d+\/l\/\w+/.test(document.body.innerText));
  address = (await textOf(page)).match(/http:\/\/127\.0\.0\.1:\d+\/l\/\w+/)![0];
  expect(await faultsOf(page)).toEqual([]);
  await page.focus("[data-table]");
  await page.keyboard.press("Space");
  await shows("1 marked");
  await button("Mark all").click();
  const found = await shareCount();
  await shows(`${found} marked`);
  await page.focus("[data-table]");
  await page.keyboard.press("x");
  await shows(`${found} changes.`);
  await shows(`${found} addresses stop working for good.`);
  await button("Preview").click();
  await shows("Who loses what");
  await shows("Anyone, by another open link");
  expect(await faultsOf(page)).toEqual([]);
});

test("an old address works until the docket is applied, and then says that it is no longer available", async () => {
  const recipient = await (await browser.createBrowserContext()).newPage();
  await recipient.goto(address);
  expect(await textOf(recipient)).toContain("Passport scans");

  const found = await shareCount();
  await button(`Apply ${found} changes`).click();
  await shows(`Apply ${found} changes, now?`);
  await page.locator(`::-p-xpath(//*[@role="alertdialog"]//button[contains(., "Apply")])`).click();
  await hasOn(page, "progress");
  await shows(`Applied: ${found} of ${found} changes done.`);
  await shows(`No shares match reach:open -used:<45d`);

  await recipient.goto(address);
  expect(await textOf(recipient)).toContain("This link is no longer available");
  await page.locator("::-p-xpath(//a[contains(., 'Receipts')])").click();
  await shows("The address answers: no longer available.");
  expect(await textOf(page)).toContain(`${found} done, 0 failed, 0 skipped, 0 to do`);
});

test("a past day shows the link as it was, and nothing can be changed from there", async () => {
  await openOn(page, `${demo.url}/register?q=passport%20reach%3Aopen%20-used%3A%3C45d`);
  expect(await shareCount()).toBe(0);
  await button("Now, 23 Nov 2026").click();
  await button("Yesterday").click();
  await shows("The estate as it was on 22 Nov 2026, 09:14 UTC.");
  await holdsOn(page, () => document.querySelector("#row-0")?.textContent?.includes("Passport scans"));
  expect(await textOf(page)).not.toContain("Add revoke to docket");
  expect(await faultsOf(page)).toEqual([]);
  await button("Back to now").click();
  await shows("0 of");
});

test("an end date that a store can't keep becomes a standing order, and that is said before anything is done", async () => {
  await openOn(page, `${demo.url}/register?q=reach%3Anamed%20store%3AStacks%20state%3Alive`);
  await page.focus("[data-table]");
  await page.keyboard.press("Space");
  await page.keyboard.press("e");
  await shows("End date for 1 share");
  await button("Add the end date to the docket").click();
  await shows("1 share gets an end date, 1 by a standing order.");
  await button("Preview").click();
  await shows("because its store can’t keep that end date");
  await button("Remove all").click();
  await shows("The tray is empty.");
});

test("the ledger verifies, and a changed byte breaks it", async () => {
  await openOn(page, `${demo.url}/ledger`);
  await shows("unbroken.");
  expect(await faultsOf(page)).toEqual([]);
  const db = new SQLite(demo.databasePath);
  const seq = db.prepare("select seq from ledger where body like '%house.jsonl%'").pluck().get();
  expect(() => db.exec(`update ledger set actor = 'x' where seq = ${seq}`)).toThrow("the ledger is only added to");
  db.exec(
    `drop trigger ledger_no_update; update ledger set body = replace(body, 'house.jsonl', 'mouse.jsonl') where seq = ${seq}`,
  );
  db.close();
  await button("Verify again").click();
  await shows(`Broken at entry ${seq}: its content is not what was written.`);
});

test("the screens hold up in the dark", async () => {
  await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "dark" }]);
  for (const path of ["/register?q=outside%3Ayes", "/ledger", "/estate"]) {
    await openOn(page, demo.url + path);
    expect(await faultsOf(page)).toEqual([]);
  }
});

test("an auditor sees everything and is refused every change by the server", async () => {
  const auditor = await demo.signIn(AUDITOR);
  const page = await auditor.ask("/api/register?query=outside:yes&count=1");
  expect(page.status).toBe(200);
  const shareId = page.answer.page[0].row.id;
  const changes = [{ action: "revoke", shareId }];
  const refusals = await Promise.all([
    auditor.ask("/api/tray", { changes }),
    auditor.ask("/api/tray", { subjects: null }, "DELETE"),
    auditor.ask("/api/dockets/any/apply", {}),
    auditor.ask("/api/reading", {}),
  ]);
  expect(refusals.map(({ status }) => status)).toEqual([403, 403, 403, 403]);
  expect(refusals[0].answer.error).toBe("This is for administrators only.");
});

test("nobody else gets an answer", async () => {
  const stranger = await fetch(`${demo.url}/api/register`);
  expect([stranger.status, await stranger.json()]).toEqual([401, { error: "Sign in first.", kind: "not-signed-in" }]);
  expect((await fetch(`${demo.url}/api/dockets`)).status).toBe(401);
  const owner = await demo.signIn("sanne.eastermark@wrenmoor.example");
  expect((await owner.ask("/api/register")).status).toBe(403);
  const administrator = await demo.signIn(ADMINISTRATOR);
  const ahead = await administrator.ask("/api/register?at=2027-01-01T00:00:00Z");
  expect([ahead.status, ahead.answer.error]).toEqual([400, expect.stringContaining("at: choose a time in the past.")]);
  const bad = await administrator.ask("/api/tray", { changes: [{ action: "revoke" }] });
  expect([bad.status, bad.answer.error]).toEqual([400, expect.stringContaining("shareId")]);
});

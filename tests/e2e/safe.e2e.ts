import type { Browser, Page } from "puppeteer-core";
import { faultsOf, hasOn, holdsOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** What a careful person meets all day: two tabs, a reload, Back, an address that somebody sent, a query with a slip. */
const demo = new Demo();
const QUERY = "reach:open label:restricted -used:<45d";
let browser: Browser;
let page: Page;
let administrator: Session;
jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
}, 300_000);
afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const button = (on: Page, words: string) => on.locator(`::-p-xpath(//button[normalize-space(.)="${words}"])`);
const registerOf = (query: string) => `${demo.url}/register?q=${encodeURIComponent(query)}`;
const queryOn = (on: Page, query: string) =>
  holdsOn(on, (wanted) => new URLSearchParams(location.search).get("q") === wanted, query);
const stagedIds = async (query: string) =>
  (await administrator.ask(`/api/register/ids?query=${encodeURIComponent(query)}`)).answer.ids as string[];

test("an address that somebody sent survives signing in", async () => {
  const [{ id }] = (await administrator.ask("/api/alerts")).answer.alerts;
  await page.goto(`${demo.url}/alerts?alert=${id}`, { waitUntil: "domcontentloaded" });
  await holdsOn(page, () => location.pathname === "/sign-in");
  await page.locator("input[name=email]").fill(ADMINISTRATOR);
  await page.locator("input[name=password]").fill(PASSWORD);
  await page.locator("button[type=submit]").click();
  await holdsOn(page, (wanted) => location.pathname + location.search === wanted, `/alerts?alert=${id}`);
  // Nobody is led to another site.
  const stranger = await (await browser.createBrowserContext()).newPage();
  await openOn(stranger, `${demo.url}/sign-in?to=${encodeURIComponent("//elsewhere.example/register")}`);
  await signInOn(stranger, demo.url, ADMINISTRATOR, PASSWORD);
  expect(new URL(stranger.url()).host).toBe(new URL(demo.url).host);
});

test("what one tab was shown is not applied with what another has staged since", async () => {
  const [first, ...others] = await stagedIds(QUERY);
  await administrator.ask("/api/tray", { changes: [{ action: "revoke", shareId: first }] });
  await openOn(page, registerOf(QUERY));
  await button(page, "Apply 1 change").click();
  await showsOn(page, "Apply 1 change, now?");
  const more = others.slice(0, 2).map((shareId) => ({ action: "revoke", shareId }));
  await administrator.ask("/api/tray", { changes: more });
  await page.locator("::-p-xpath(//*[@role='alertdialog']//button[contains(., 'Apply')])").click();
  await showsOn(page, "The docket has changed since it was shown to you: it has 3 changes now. Nothing was applied.");
  const tray = (await administrator.ask("/api/tray")).answer;
  expect([tray.changes.length, tray.running]).toEqual([3, null]);
  // It is shown anew, as it is now; a reload shows the same.
  await showsOn(page, "Apply 3 changes");
  await page.reload({ waitUntil: "domcontentloaded" });
  await button(page, "Apply 3 changes").click();
  await showsOn(page, "Apply 3 changes, now?");
  await page.locator("::-p-xpath(//*[@role='alertdialog']//button[contains(., 'Apply')])").click();
  await showsOn(page, "Applied: 3 of 3 changes done.");
  await openOn(page, `${demo.url}/register?share=${first}`);
  await showsOn(page, "This share ended on 23 Nov 2026, 09:14 UTC, by imre.varga@wrenmoor.example.");
  await showsOn(page, "The docket that ended it");
});

test("Back from the register leads to the query before", async () => {
  await openOn(page, registerOf("reach:open"));
  await page.focus('nav[aria-label="Narrow down"] button');
  await page.locator("[data-query]").fill("reach:house");
  await queryOn(page, "reach:house");
  await new Promise((resolve) => setTimeout(resolve, 2_000));
  await page.locator("[data-query]").fill("reach:named");
  await queryOn(page, "reach:named");
  await page.goBack();
  await queryOn(page, "reach:house");
  await page.goBack();
  await queryOn(page, "reach:open");
});

test("a query with a slip in it marks nothing, and says so", async () => {
  await openOn(page, registerOf("label:confidential passwort:none"));
  await showsOn(
    page,
    "The list shows what the rest of the query finds. Correct the query to mark, waive or export all results.",
  );
  expect(await faultsOf(page)).toEqual([]);
  await page.keyboard.press("a");
  await showsOn(page, "0 marked");
  expect(
    await page.$eval("::-p-xpath(//button[contains(., 'Mark all')])", (one) => (one as HTMLButtonElement).disabled),
  ).toBe(true);
  const { found } = (await administrator.ask("/api/register?query=label:confidential%20password:none")).answer;
  await openOn(page, registerOf("label:confidential password:none"));
  await showsOn(page, `${found} of 2,0`);
});

test("tightening leaves alone what is as tight already, and counts it", async () => {
  const { answer } = await administrator.ask(
    `/api/register?count=400&query=${encodeURIComponent("reach:open ends:<10d")}`,
  );
  expect(answer.found).toBeGreaterThan(0);
  const open = await stagedIds("reach:open");
  await openOn(page, registerOf("reach:open"));
  await showsOn(page, `${open.length} of`);
  await page.keyboard.press("a");
  await showsOn(page, `${open.length} marked`);
  await page.keyboard.press("e");
  await button(page, "In 14 days").click();
  await button(page, "Add the end date to the docket").click();
  await holdsOn(page, () =>
    /Left as they are: \d+ shares already end sooner or have ended\./.test(document.body.innerText),
  );
  const left = Number((await page.evaluate(() => document.body.innerText)).match(/Left as they are: (\d+)/)![1]);
  expect(left).toBeGreaterThanOrEqual(answer.found);
  const tray = (await administrator.ask("/api/tray")).answer;
  expect(tray.changes).toHaveLength(open.length - left);
  await administrator.ask("/api/tray", { subjects: null }, "DELETE");
});

test("marks survive a reload of their tab, and are those of no other", async () => {
  await openOn(page, registerOf("reach:open"));
  await hasOn(page, "#row-0 input");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press(" ");
  await showsOn(page, "1 marked");
  await page.reload({ waitUntil: "domcontentloaded" });
  await showsOn(page, "1 marked");
  const other = await browser.newPage();
  await openOn(other, registerOf("reach:open"));
  await showsOn(other, "0 marked");
  await other.close();
  await button(page, "Mark none").click();
  await showsOn(page, "0 marked");
});

test("keys: a section by its number, the row under the cursor without a click, and all of them off", async () => {
  await openOn(page, registerOf("reach:open"));
  await hasOn(page, "#row-1");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("x");
  await showsOn(page, "1 change.");
  const [{ change }] = (await administrator.ask("/api/tray")).answer.changes;
  const { page: rows } = (await administrator.ask("/api/register?count=2&query=reach:open")).answer;
  expect(change).toEqual({ action: "revoke", shareId: rows[1].row.id });
  await administrator.ask("/api/tray", { subjects: null }, "DELETE");
  await page.keyboard.press("Enter");
  await showsOn(page, "Changes");
  await page.keyboard.press("Escape");
  await holdsOn(page, () => document.activeElement?.hasAttribute("data-table"));
  await page.keyboard.press("?");
  await showsOn(page, "Give it a password if it has none");
  expect(await faultsOf(page)).toEqual([]);
  await page.locator("[role=dialog] input[type=checkbox]").click();
  await page.keyboard.press("Escape");
  await holdsOn(page, () => document.querySelector("[role=dialog]") === null);
  await page.keyboard.press("4");
  await button(page, "Keys").click();
  await page.locator("[role=dialog] input[type=checkbox]").click();
  await page.keyboard.press("Escape");
  await holdsOn(page, () => document.querySelector("[role=dialog]") === null);
  expect(new URL(page.url()).pathname).toBe("/register");
  await page.keyboard.press("4");
  await holdsOn(page, () => location.pathname === "/rules");
  // The first stop of Tab leads past the band.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press("Tab");
  await showsOn(page, "Skip to the screen");
});

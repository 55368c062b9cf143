import type { Browser, Page } from "puppeteer-core";
import { faultsOf, openBrowser, showsOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Somebody with three ways in to one folder: found, looked at, and each way closed. */
const demo = new Demo(4570);
let browser: Browser;
let page: Page;
let session: Session;
let itemId: string;
let builder: string;

jest.setTimeout(60_000);

beforeAll(async () => {
  await demo.start();
  session = await demo.signIn(ADMINISTRATOR);
  ({ browser, page } = await openBrowser());
  await page.goto(`${demo.url}/sign-in`, { waitUntil: "networkidle2" });
  await page.type("input[name=email]", ADMINISTRATOR);
  await page.type("input[name=password]", PASSWORD);
  await Promise.all([page.waitForNavigation({ waitUntil: "networkidle2" }), page.click("button[type=submit]")]);
}, 180_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 30_000);

const shows = (text: string) => showsOn(page, text);
const pathsOf = async () => (await session.ask(`/api/trace?item=${itemId}&person=${builder}`)).answer.paths;

test("an item and a person are found by typing, by keyboard alone", async () => {
  itemId = (await session.ask("/api/trace/find?text=stage%20plots")).answer.items[0].id;
  const { people } = (await session.ask(`/api/trace?item=${itemId}`)).answer;
  for (const { address } of people.filter(
    (one: { organisation: string }) => one.organisation === "quayside-staging.example",
  )) {
    builder = address;
    if ((await pathsOf()).length === 3) break;
  }
  await page.goto(`${demo.url}/trace`, { waitUntil: "networkidle2" });
  await page.type("[role=combobox][aria-label=What]", "stage plots");
  await page.waitForSelector("[role=option]");
  await page.keyboard.press("Enter");
  await shows("reach it by name.");
  await page.type("[role=combobox][aria-label=Who]", builder);
  await page.waitForSelector("[role=option]");
  await page.keyboard.press("Enter");
  await shows("has 3 ways in to Stage plots.");
  expect(await faultsOf(page)).toEqual([]);
});

test("the revoke of every way is staged from here, applied, and no way is left", async () => {
  const before = await pathsOf();
  const links: string[] = [];
  for (const { share } of before) {
    const { address } = (await session.ask(`/api/shares/${share}`)).answer;
    if (address) links.push(address);
  }
  expect(links).toHaveLength(1);
  expect((await fetch(links[0])).status).toBe(401);
  await page.locator("::-p-xpath(//button[contains(., 'Stage the revoke of all 3')])").click();
  await shows("3 changes.");
  await page.locator("::-p-xpath(//button[contains(., 'Apply 3 changes')])").click();
  await page.locator(`::-p-xpath(//*[@role="alertdialog"]//button[contains(., "Apply")])`).click();
  await shows("Applied: 3 of 3 changes done.");
  await shows("doesn’t reach Stage plots, by any way.");
  expect(await pathsOf()).toEqual([]);
  expect((await fetch(links[0])).status).toBe(410);
});

test("a name that nobody bears is said", async () => {
  const { status, answer } = await session.ask("/api/trace?person=nobody@nowhere.example");
  expect([status, answer.error]).toEqual([404, "Nobody, or nothing, of that name is known at this time."]);
  expect((await session.ask("/api/trace")).status).toBe(400);
});

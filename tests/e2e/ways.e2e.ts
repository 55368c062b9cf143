import type { Browser, Page } from "puppeteer-core";
import { faultsOf, hasOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, NOW, PASSWORD, type Session } from "./demo";

/** Somebody with three ways in to one folder: found, looked at, and each way closed. */
const demo = new Demo();
let browser: Browser;
let page: Page;
let session: Session;
let itemId: string;
let builder: string;

jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  session = await demo.signIn(ADMINISTRATOR);
  ({ browser, page } = await openBrowser());
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const shows = (text: string) => showsOn(page, text);
const pathsOf = async () => (await session.ask(`/api/ways?item=${itemId}&person=${builder}`)).answer.paths;

test("an item and a person are found by typing, by keyboard alone", async () => {
  itemId = (await session.ask("/api/ways/find?text=stage%20plots")).answer.items[0].id;
  const { people } = (await session.ask(`/api/ways?item=${itemId}`)).answer;
  for (const { address } of people.filter(
    (one: { organisation: string }) => one.organisation === "quayside-staging.example",
  )) {
    builder = address;
    if ((await pathsOf()).length === 3) break;
  }
  await openOn(page, `${demo.url}/ways`);
  await page.type("[role=combobox][aria-label=What]", "stage plots");
  await hasOn(page, "[role=option]");
  await page.keyboard.press("Enter");
  await shows("reach it by name.");
  await page.type("[role=combobox][aria-label=Who]", builder);
  await hasOn(page, "[role=option]");
  await page.keyboard.press("Enter");
  await shows("has 3 ways in to Stage plots.");
  expect(await faultsOf(page)).toEqual([]);
});

/** Somebody from outside with a browser of their own, who shows by a mailed code who they are; the status of the page behind. */
async function opens(address: string): Promise<number> {
  const context = await browser.createBrowserContext();
  const outside = await context.newPage();
  const answer = await outside.goto(address);
  if (answer!.status() !== 401) {
    await context.close();
    return answer!.status();
  }
  await outside.type("#address", builder);
  await Promise.all([outside.waitForNavigation(), outside.click("button")]);
  const [mail] = await mailsTo(builder);
  const code = mail?.text.match(/\b\d{6}\b/)?.[0] ?? "000000";
  await outside.type("#code", code);
  const [behind] = await Promise.all([outside.waitForNavigation(), outside.click("button")]);
  await context.close();
  return behind!.status();
}

/** Mails to somebody since the last look, the newest first. */
async function mailsTo(address: string): Promise<{ to: string; text: string }[]> {
  const all = await demo.mails();
  const mails = all.filter((mail) => mail.to.includes(address));
  const fresh = mails.slice(0, mails.length - mailsSeen);
  mailsSeen = mails.length;
  return fresh;
}
let mailsSeen = 0;
let namedLink: string;
const inside = () => `${demo.storeUrl("stacks")}/i/${itemId}`;

test("before, each way stands open: the named link, and the item itself by right and by group", async () => {
  const shares = (await pathsOf()).map(({ share }: { share: string }) =>
    session.ask(`/api/shares/${share}/address`, {}),
  );
  const addresses = (await Promise.all(shares)).map(({ answer }) => answer.address).filter(Boolean);
  expect(addresses).toHaveLength(1);
  [namedLink] = addresses;
  expect([await opens(namedLink), await opens(inside())]).toEqual([200, 200]);
});

test("one link of a chain can be cut from the picture by keyboard, and is taken out again the same way", async () => {
  const cutter = "svg button[aria-label^='Remove']";
  await page.focus(cutter);
  await page.keyboard.press("Enter");
  await shows("1 change.");
  await hasOn(page, `${cutter}[aria-pressed=true]`);
  await page.keyboard.press("Enter");
  await shows("The tray is empty.");
});

test("the cheapest cut is proposed with its losses, staged, applied, and every way is closed", async () => {
  await shows("3 changes close every way in");
  await shows("Who else loses access");
  expect(await faultsOf(page)).toEqual([]);
  await page.locator("::-p-xpath(//button[contains(., 'Add these 3 changes')])").click();
  await shows("3 changes.");
  await page.locator("::-p-xpath(//button[contains(., 'Apply 3 changes')])").click();
  await page.locator(`::-p-xpath(//*[@role="alertdialog"]//button[contains(., "Apply")])`).click();
  await shows("Applied: 3 of 3 changes done.");
  await shows("can’t reach Stage plots in any way.");
  expect(await pathsOf()).toEqual([]);
  const [docket] = (await session.ask("/api/dockets")).answer.dockets;
  const { receipts } = (await session.ask(`/api/dockets/${docket.id}`)).answer;
  const kinds = receipts.map(({ change, state }: { change: { action: string }; state: string }) => [
    change.action,
    state,
  ]);
  expect(kinds.sort()).toEqual([
    ["drop-recipient", "done"],
    ["leave-group", "done"],
    ["revoke", "done"],
  ]);
});

test("after, no code lets them in any more, neither by the link nor by right or group", async () => {
  expect([await opens(namedLink), await opens(inside())]).toEqual([401, 401]);
  expect(await mailsTo(builder)).toEqual([]);
});

test("yesterday all three ways still stand open in the console, and nothing can be changed there", async () => {
  const at = new Date(Date.parse(NOW) - 86_400_000).toISOString().replace(".000Z", "Z");
  await openOn(page, `${demo.url}/ways?item=${itemId}&person=${builder}&at=${at}`);
  await shows("has 3 ways in to Stage plots.");
  await shows("3 changes close every way in");
  expect(await page.$$("svg button")).toEqual([]);
});

test("an organisation and an item: its people there, and one cut for all of them", async () => {
  await openOn(page, `${demo.url}/ways?item=${itemId}&organisation=quayside-staging.example`);
  await shows("of quayside-staging.example reach it by name.");
  await shows("close every way in");
});

test("a name that nobody bears is said", async () => {
  const { status, answer } = await session.ask("/api/ways?person=nobody@nowhere.example");
  expect([status, answer.error]).toEqual([404, "Nothing and nobody with that name is known at this time."]);
  expect((await session.ask("/api/ways")).status).toBe(400);
});

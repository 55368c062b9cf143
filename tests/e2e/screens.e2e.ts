import type { Browser, Page } from "puppeteer-core";
import { addressHasOn, faultsInAnyLight, hasOn, holdsOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { INSTEAD } from "../plainWords";
import { ADMINISTRATOR, Demo, PASSWORD } from "./demo";

jest.setTimeout(180_000);

const demo = new Demo();
let browser: Browser;
let page: Page;
let docketId: string;

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  const administrator = await demo.signIn(ADMINISTRATOR);
  const { page: rows } = (await administrator.ask("/api/register?count=40&query=reach:open")).answer;
  const changes = rows.map(({ row }: { row: { id: string } }) => ({ action: "revoke", shareId: row.id }));
  await administrator.ask("/api/tray", { changes, query: "reach:open" });
  docketId = (await administrator.ask("/api/tray")).answer.docketId;
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
});
afterAll(async () => {
  await browser?.close();
  await demo.remove();
});

/** Every screen that has a text of its own. */
const SCREENS = () => [
  ...["/desk", "/register?q=reach%3Aopen", "/register?q=reach%3Aopen&group=organisation&groups=count"],
  ...["/register/public", "/register/intake", "/register/print", "/ways?organisation=quayside-staging.example"],
  ...["/trail", "/trail/watches", "/alerts", "/help?on=%2Fregister", "/account", "/my-shares", "/my-shares/ask"],
  ...["/people", "/people/organisation?domain=quayside-staging.example", "/people/look-alikes", "/people/leavers"],
  ...["/people/leaver?address=zita.brackwell@wrenmoor.example", "/people/insiders", "/people/projects"],
  ...["/people/project/new", "/rounds", "/rounds/new", "/share", "/share/requests"],
  ...["/ledger", "/ledger/packs", "/ledger/reports", "/ledger/witnesses"],
  ...["/estate", "/estate/accounts", "/estate/imports", "/estate/imports/new", "/estate/home", "/estate/labels"],
  ...["/estate/parties", "/estate/messages", "/estate/approval", "/estate/orders", "/estate/deciders", "/estate/data"],
  ...["/estate/set-up", "/estate/sharing", "/estate/directory"],
];
/** Those that axe looks at nowhere else. */
const LEFT_TO_AXE = () => [
  ...["/desk/shortlist?group=end-open", "/ways", "/rules?rule=open-password", "/rules/waivers", "/help", "/nowhere"],
  ...["", "/by-hand", "/passphrases", "/notices"].map((page) => `/ledger/dockets/${docketId}${page}`),
];
/** So many of a screen's menus are opened. */
const MENUS = 6;

// Each is opened but once: nothing takes as long.
test("no screen is wider than its window, or says what is said better; axe finds nothing on those it looks at nowhere else", async () => {
  const said: string[] = [];
  const toAxe = LEFT_TO_AXE();
  for (const path of [...SCREENS(), ...toAxe]) {
    await openOn(page, demo.url + path);
    if (toAxe.includes(path)) expect([path, await faultsInAnyLight(page)]).toEqual([path, []]);
    said.push(...(await wordsWithMenus()).map((words) => `${path}: ${words}`));
    expect([path, await scrolledSideways()]).toEqual([path, 0]);
  }
  for (const { subject, text } of await demo.mails()) said.push(`mail: ${subject}`, ...text.split("\n"));
  expect(said.length).toBeGreaterThan(3_000);
  const wrong = said.flatMap((words) =>
    INSTEAD.filter(([not]) => not.test(words)).map(([, instead]) => [words, instead]),
  );
  expect(wrong).toEqual([]);
});

test("in a narrow window the Desk’s cards hold what they say, and the register’s tools stand in one row", async () => {
  await page.setViewport({ width: 1100, height: 800 });
  await openOn(page, `${demo.url}/desk`);
  const start = await page.$eval("[aria-labelledby=where-to-start]", (card) => card.scrollHeight - card.clientHeight);
  await openOn(page, `${demo.url}/register`);
  const tops = await page.evaluate(() =>
    [...document.querySelectorAll("main a")]
      .filter(({ textContent }) => ["Intake", "Over", "Public list"].includes(textContent!))
      .map((link) => Math.round(link.getBoundingClientRect().top)),
  );
  await page.setViewport({ width: 1280, height: 800 });
  expect(start).toBe(0);
  expect(tops).toHaveLength(3);
  expect(new Set(tops).size).toBe(1);
});

test("axe finds nothing on what opens over a screen", async () => {
  await openOn(page, `${demo.url}/ways`);
  const openings: [string, () => Promise<unknown>, string][] = [
    ["the palette", () => chord("Control", "k"), "[cmdk-input]"],
    ["the keys", () => page.keyboard.press("?"), "[role=dialog]"],
    ["the question", () => chord("Control", "Enter"), "[role=alertdialog]"],
    ["the time control", () => page.locator("header [aria-haspopup=dialog]").click(), "[aria-label='Another time']"],
  ];
  for (const [what, open, selector] of openings) {
    await open();
    await hasOn(page, selector);
    expect([what, await faultsInAnyLight(page)]).toEqual([what, []]);
    await page.keyboard.press("Escape");
    await page.waitForSelector(selector, { hidden: true });
  }
});

test("the handle of the curve goes to the nearest point where the mouse is pressed, and follows it", async () => {
  await openOn(page, `${demo.url}/desk/shortlist`);
  await hasOn(page, "[role=slider]");
  const at = () => page.$eval("[role=slider]", (one) => Number(one.ariaValueNow));
  const plot = (await page.$("figure canvas"))!;
  const { x, y, width, height } = (await plot.boundingBox())!;
  const before = await at();
  await page.mouse.move(x + width - 40, y + height / 2);
  await page.mouse.down();
  await holdsOn(page, (was) => Number(document.querySelector("[role=slider]")!.ariaValueNow) > was, before);
  await page.mouse.move(x + 20, y + height / 2, { steps: 5 });
  await page.mouse.up();
  await showsOn(page, "No changes yet: everything stays open");
  expect(await at()).toBe(0);
  await addressHasOn(page, "changes", "0");
});

async function chord(held: "Control", key: "k" | "Enter") {
  await page.keyboard.down(held);
  await page.keyboard.press(key);
  await page.keyboard.up(held);
}

async function wordsWithMenus(): Promise<string[]> {
  const said = await wordsOn(page);
  for (const menu of (await page.$$("main [aria-haspopup]:not(:disabled)")).slice(0, MENUS)) {
    await menu.click();
    said.push(...(await wordsOn(page)));
    await page.keyboard.press("Escape");
  }
  return said;
}

/**
 * By how many pixels a screen is wider than a window of 1280 at 200 % zoom, which leaves 640.
 * WCAG 2.2, success criterion 1.4.10, asks for none down to 320 pixels but for tables.
 */
async function scrolledSideways(): Promise<number> {
  await page.setViewport({ width: 640, height: 400 });
  const tooWide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  await page.setViewport({ width: 1280, height: 800 });
  return tooWide;
}

/** Each text on a page, and each name that is told by a screen reader or beside the pointer. */
function wordsOn(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const names = ["aria-label", "title", "placeholder", "alt"];
    const named = [...document.querySelectorAll(names.map((name) => `[${name}]`).join())];
    const told = named.flatMap((one) => names.flatMap((name) => one.getAttribute(name) ?? []));
    return [...document.body.innerText.split("\n"), ...told].filter((words) => words.trim() !== "");
  });
}

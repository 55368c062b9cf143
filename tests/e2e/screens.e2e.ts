import type { Browser, Page } from "puppeteer-core";
import { faultsInAnyLight, hasOn, openBrowser, openOn, signInOn } from "./browser";
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

const EVERYWHERE = () => [
  "/desk",
  "/desk/shortlist?group=end-open",
  "/register?q=reach%3Aopen",
  "/register?q=reach%3Aopen&group=organisation&groups=count",
  "/register/public",
  "/ways",
  "/ways?organisation=quayside-staging.example",
  "/rules?rule=open-password",
  "/rules/waivers",
  "/trail",
  "/trail/watches",
  "/alerts",
  "/ledger",
  `/ledger/dockets/${docketId}`,
  "/estate",
  "/people",
  "/help",
  "/account",
];

test("at 200 % zoom in a window of 1280 pixels no screen is scrolled sideways", async () => {
  // WCAG 2.2, success criterion 1.4.10, asks for this down to 320 pixels but for tables; 640 is what 200 % leaves.
  await page.setViewport({ width: 640, height: 400 });
  for (const path of EVERYWHERE()) {
    await openOn(page, demo.url + path);
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)]).toEqual([path, 0]);
  }
  await page.setViewport({ width: 1280, height: 800 });
});

test("axe finds nothing on the screens that no other test looks at, in the light and in the dark", async () => {
  for (const path of [
    "/desk/shortlist?group=end-open",
    "/ways",
    "/rules?rule=open-password",
    "/rules/waivers",
    "/help",
    `/ledger/dockets/${docketId}`,
    ...["by-hand", "passphrases", "notices"].map((page) => `/ledger/dockets/${docketId}/${page}`),
  ]) {
    await openOn(page, demo.url + path);
    expect([path, await faultsInAnyLight(page)]).toEqual([path, []]);
  }
});

test("nor on what opens over them", async () => {
  await openOn(page, `${demo.url}/help`);
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

async function chord(held: "Control", key: "k" | "Enter") {
  await page.keyboard.down(held);
  await page.keyboard.press(key);
  await page.keyboard.up(held);
}

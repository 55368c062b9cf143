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
  "/estate/accounts",
  "/people",
  "/people/organisation?domain=quayside-staging.example",
  "/people/look-alikes",
  "/people/leavers",
  "/people/leaver?address=zita.brackwell@wrenmoor.example",
  "/help",
  "/account",
];

const LESS_LOOKED_AT = [
  ...["/estate/imports", "/estate/imports/new", "/estate/home", "/estate/labels"],
  ...["/estate/parties", "/estate/messages", "/estate/approval", "/estate/orders", "/estate/deciders", "/estate/data"],
  ...["/estate/set-up", "/estate/sharing", "/share", "/share/requests", "/register/intake", "/my-shares/ask"],
  ...["/rounds", "/rounds/new", "/people/insiders", "/people/projects", "/people/project/new", "/estate/directory"],
  ...["/ledger/packs", "/ledger/reports", "/ledger/witnesses", "/register/print", "/help?on=%2Fregister", "/my-shares"],
];
/** So many of a screen's menus are opened. */
const MENUS = 6;

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

test("no screen, menu or mail says what is said better", async () => {
  const said: string[] = [];
  for (const path of [...EVERYWHERE(), ...LESS_LOOKED_AT]) {
    await openOn(page, demo.url + path);
    said.push(...(await wordsOn(page)).map((words) => `${path}: ${words}`));
    const menus = await page.$$("main [aria-haspopup]:not(:disabled)");
    for (const menu of menus.slice(0, MENUS)) {
      await menu.click();
      said.push(...(await wordsOn(page)).map((words) => `${path}, opened: ${words}`));
      await page.keyboard.press("Escape");
    }
  }
  for (const { subject, text } of await demo.mails()) said.push(`mail: ${subject}`, ...text.split("\n"));
  expect(said.length).toBeGreaterThan(3_000);
  const wrong = said.flatMap((words) =>
    INSTEAD.filter(([not]) => not.test(words)).map(([, instead]) => [words, instead]),
  );
  expect(wrong).toEqual([]);
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

/** Each text on a page, and each name that is told by a screen reader or beside the pointer. */
function wordsOn(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const names = ["aria-label", "title", "placeholder", "alt"];
    const named = [...document.querySelectorAll(names.map((name) => `[${name}]`).join())];
    const told = named.flatMap((one) => names.flatMap((name) => one.getAttribute(name) ?? []));
    return [...document.body.innerText.split("\n"), ...told].filter((words) => words.trim() !== "");
  });
}

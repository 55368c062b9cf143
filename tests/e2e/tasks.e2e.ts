import type { Browser, KeyInput, Page } from "puppeteer-core";
import { addressHasOn, faultsOf, hasOn, holdsOn, openBrowser, openOn, readyOn, showsOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** What people come to do, from the keyboard alone; each test says how many keys it takes, typed words included. */
jest.setTimeout(180_000);

const demo = new Demo();
let browser: Browser;
let page: Page;
let administrator: Session;
let pressed = 0;

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
});
afterAll(async () => {
  await browser?.close();
  await demo.remove();
});
beforeEach(() => {
  pressed = 0;
});
afterEach(async () => {
  await administrator.ask("/api/tray", { subjects: null }, "DELETE");
});

async function press(...keys: KeyInput[]) {
  for (const key of keys) {
    await page.keyboard.press(key);
    pressed++;
  }
}

/** Keys held together count as one. */
async function chord(held: KeyInput, key: KeyInput) {
  await page.keyboard.down(held);
  await page.keyboard.press(key);
  await page.keyboard.up(held);
  pressed++;
}

async function type(words: string) {
  await page.keyboard.type(words);
  pressed += words.length;
}

const shows = (words: string) => showsOn(page, words);
const isFocused = (selector: string) => holdsOn(page, (wanted) => document.activeElement?.matches(wanted), selector);
const tray = async () => (await administrator.ask("/api/tray")).answer;
const search = (query: string) => `/api/register?count=500&query=${encodeURIComponent(query)}`;

/** Goes by the palette to what has a name. */
async function goTo(name: string, shown: string) {
  await chord("Control", "k");
  await isFocused("[cmdk-input]");
  await type(name);
  await holdsOn(
    page,
    (wanted) => document.querySelector("[cmdk-item][aria-selected=true]")?.textContent?.includes(wanted),
    shown,
  );
  await press("Enter");
  await holdsOn(page, () => document.querySelector("[cmdk-input]") === null);
  await readyOn(page);
}

/** Asks the register for something, and goes on to what it finds. */
async function ask(query: string) {
  await press("2");
  await holdsOn(page, () => location.pathname === "/register");
  await hasOn(page, "#row-0 input");
  await press("/");
  await isFocused("[data-query]");
  await type(query);
  await press("Enter");
  await isFocused("[data-table]");
  const { found } = (await administrator.ask(search(query))).answer;
  await shows(`${found.toLocaleString("en-GB")} of`);
  return found as number;
}

/** Goes on by Tab until something with these words has the focus. */
async function tabTo(words: string) {
  for (let n = 0; n < 60; n++) {
    await press("Tab");
    const isThere = await page.evaluate((wanted) => {
      const one = document.activeElement as HTMLElement;
      const label = (one as HTMLInputElement).labels?.[0]?.innerText ?? "";
      return [one.innerText, one.getAttribute("aria-label"), label].some((text) => text?.includes(wanted));
    }, words);
    if (isThere) return;
  }
  throw new Error(`Nothing with ${words} was reached by Tab.`);
}

const footer = (pattern: string) =>
  holdsOn(page, (wanted) => new RegExp(wanted).test(document.querySelector("footer")!.innerText), pattern);

test("1: at the first sign-in one sees what was found and what to do first", async () => {
  await openOn(page, `${demo.url}/sign-in`);
  await page.focus("input[name=email]");
  await type(ADMINISTRATOR);
  await press("Tab");
  await type(PASSWORD);
  await press("Enter");
  await shows("What to do first");
  expect(await page.$$eval("[aria-labelledby=first-look] li", (all) => all.length)).toBe(3);
  expect(pressed).toBe(ADMINISTRATOR.length + PASSWORD.length + 2);
});

test("2: all that a partner firm can reach is found and ended", async () => {
  const firm = "quayside-staging.example";
  await goTo(firm, firm);
  await shows("End all access everywhere");
  await tabTo("End all access everywhere");
  await press("Enter");
  await footer("\\d+ changes\\.");
  expect((await tray()).changes.length).toBeGreaterThan(10);
  expect(pressed).toBeLessThanOrEqual(firm.length + 12);
});

test("4: confidential open links get an end in 14 days, never a later one, and a password where there is none", async () => {
  const query = "reach:open label:confidential";
  const found = await ask(query);
  await press("a");
  await shows(`${found} marked`);
  await press("e");
  await isFocused("[role=dialog] input");
  await chord("Control", "a");
  await type("in 14 days");
  await shows("7 Dec 2026");
  await press("Enter");
  await shows("Left as they are");
  await press("a");
  await shows(`${found} marked`);
  await press("p");
  await footer("tighten");
  const { changes } = await tray();
  const ends = changes.filter(({ change }: { change: { action: string } }) => change.action !== "set-password");
  expect(ends.length).toBeGreaterThan(0);
  expect(ends.length).toBeLessThan(found);
  expect(pressed).toBe(query.length + "in 14 days".length + 9);
});

test("5: links unused for 90 days are revoked but for those of running projects", async () => {
  const query = "reach:open -used:<90d";
  const found = await ask(query);
  await press("a");
  await shows(`${found} marked`);
  await press("x");
  await footer(`Apply ${found} changes`);
  await tabTo("Preview");
  await press("Enter");
  await shows("that running projects need");
  const { running } = (await tray()).preview.careful;
  expect(running.length).toBeGreaterThan(0);
  await tabTo("that running projects need");
  await press("Enter");
  await footer(`Apply ${found - running.length} changes`);
});

test("12: links that let nobody in any more are cleared", async () => {
  const query = "state:spent,broken";
  const found = await ask(query);
  await press("a");
  await shows(`${found} marked`);
  await press("x");
  await footer(`Apply ${found} changes`);
  expect(pressed).toBe(query.length + 5);
});

test("13: the list of all that is open to anyone is a file with its reasons", async () => {
  await goTo("open to anyone", "What is open to anyone");
  await shows("Export CSV");
  await tabTo("Export CSV");
  expect(pressed).toBeLessThanOrEqual("open to anyone".length + 6);
});

test("14: forty alerts of one kind are settled together", async () => {
  await goTo("alerts", "Alerts");
  await isFocused("[role=listbox]");
  for (let n = 0; n < 39; n++) await chord("Shift", "ArrowDown");
  await shows("40 alerts marked");
  expect(await faultsOf(page)).toEqual([]);
  await tabTo("Settle with a note");
  await type("Agreed with the press office");
  await press("Enter");
  await holdsOn(page, () => !document.body.innerText.includes("alerts marked"));
  const settled = (await administrator.ask("/api/alerts?state=settled")).answer.alerts;
  expect(settled.filter(({ note }: { note: string }) => note === "Agreed with the press office")).toHaveLength(40);
});

test("3: what somebody who left still owns is handed over", async () => {
  const leaver = (await administrator.ask("/api/ways/find?text=zita.brackwell")).answer.people[0];
  expect(leaver.status).toBe("left");
  await goTo(leaver.address, leaver.name);
  await shows("Hand over everything they own");
  await tabTo("Hand over everything they own");
  await press("Enter");
  await isFocused("[role=dialog] input");
  await type("imre varga");
  await hasOn(page, "[role=dialog] [role=option]");
  await press("Enter");
  await holdsOn(page, () => !document.querySelector<HTMLButtonElement>("[role=dialog] [type=submit]")!.disabled);
  await press("Enter");
  await footer("\\d+ changes?\\.");
  const { changes } = await tray();
  expect(changes.some(({ change }: { change: { action: string } }) => change.action === "hand-over")).toBe(true);
  expect(pressed).toBeLessThanOrEqual(leaver.address.length + "imre varga".length + 12);
});

test("7: what one person did is found on the trail, and becomes a watch with a cap", async () => {
  const [{ name, address }] = (await administrator.ask("/api/ways/find?text=maren")).answer.people;
  await goTo(address, name);
  await shows("What happened, on the trail");
  await tabTo("What happened, on the trail");
  await press("Enter");
  await holdsOn(page, () => location.pathname === "/trail" && location.search.includes("person="));
  await shows("Make this a watch");
  await tabTo("Make this a watch");
  await press("Enter");
  await holdsOn(page, () => location.pathname === "/trail/watches");
  await shows("Messages a day");
  await tabTo("Name");
  await type("Maren shares outside");
  await press("Enter");
  await shows("Maren shares outside");
  const { watches } = (await administrator.ask("/api/watches")).answer;
  expect(watches.find((one: { name: string }) => one.name === "Maren shares outside").watch.mostADay).toBe(20);
});

test("9: the estate is seen as it was on 1 June, by a date as one writes it; the ledger is verified and searched", async () => {
  await press("2");
  await holdsOn(page, () => location.pathname === "/register");
  await page.focus("header nav a");
  await tabTo("Now, 23 Nov 2026");
  await press("Enter");
  await isFocused("[aria-label='Another time'] input");
  await chord("Control", "a");
  await type("1 June 2026 12:00");
  await press("Enter");
  await shows("The estate as it was on 1 Jun 2026, 12:00 UTC.");
  await addressHasOn(page, "at", "2026-06-01T12:00:00Z");
  await tabTo("Export");
  await press("Enter");
  await tabTo("CSV");
  await press("Enter");
  await demo.until(
    async () =>
      (await administrator.ask("/api/ledger")).answer.entries.some(
        ({ kind, body }: { kind: string; body: { at: string } }) =>
          kind === "register-exported" && body.at === "2026-06-01T12:00:00Z",
      ),
    "tell of the export",
  );
  await press("Escape", "8");
  await holdsOn(page, () => location.pathname === "/ledger");
  await shows("unbroken.");
  await tabTo("Search the ledger");
  await type("register exported");
  await holdsOn(page, () => {
    const kinds = [...document.querySelectorAll("tbody b")].map((one) => one.textContent);
    return kinds.length > 0 && kinds.every((kind) => kind === "Register exported");
  });
});

test("8: before a rule asks owners one sees how many mails go out, and one of them", async () => {
  await openOn(page, `${demo.url}/desk`);
  await goTo("rules", "Rules");
  await shows("What every share must satisfy");
  await tabTo("Open links end within");
  await press("ArrowDown", "Enter");
  await holdsOn(page, () => location.search.includes("open-password"));
  await tabTo("Observe");
  await press("ArrowDown");
  await tabTo("Preview what that would do");
  await press("Enter");
  await shows("one to each owner.");
  expect(
    (await administrator.ask("/api/rules")).answer.rules.find(({ id }: { id: string }) => id === "open-password").mode,
  ).toBe("observe");
});

test("where to start: the handle is moved, what it stands at is staged and applied, and so much less is open", async () => {
  await openOn(page, `${demo.url}/desk`);
  await goTo("where to start", "Where to start");
  await hasOn(page, "[role=slider]");
  await tabTo("How many changes");
  const bent = await page.$eval("[role=slider]", (one) => one.ariaValueText!);
  await press("Home");
  await shows("No changes yet: everything stays open");
  await press("ArrowRight", "ArrowRight");
  const { points, mass } = (await administrator.ask("/api/shortlist")).answer;
  const { changes, left } = points[2];
  await shows(`${changes} changes shut ${Math.round(100 - (100 * left) / mass)} % of what is open`);
  await addressHasOn(page, "changes", String(changes));
  expect(await page.$eval("[role=slider]", (one) => one.ariaValueText)).not.toBe(bent);
  await tabTo(`Add ${changes} changes to the docket`);
  await press("Enter");
  await shows("They are in the docket");
  expect((await tray()).name).toBe(`Where to start: ${changes} changes`);
  await chord("Control", "Enter");
  await shows(`Apply ${changes} changes, now?`);
  await tabTo("Apply");
  await press("Enter");
  await demo.until(
    async () => (await administrator.ask("/api/shortlist/start")).answer.mass === left,
    "have left open what was told",
  );
  await press("1");
  await shows(`What is open weighs ${left.toLocaleString("en-GB")}`);
});

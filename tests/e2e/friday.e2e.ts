import type { Browser, Page } from "puppeteer-core";
import { faultsOf, openBrowser, openOn, readyOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Stale open links are ended on a Friday, on a day when their stores stumble; five of them are needed again on Monday. */
const demo = new Demo();
const STALE = "reach:open -used:<45d";
const STORES = ["stacks", "alcoves", "dock"] as const;
const OTHER = "thessaly.orrin@wrenmoor.example";
let browser: Browser;
let page: Page;
let session: Session;
jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  session = await demo.signIn(ADMINISTRATOR);
}, 300_000);
afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const shows = (text: string) => showsOn(page, text);
const press = (text: string) =>
  page.locator(`::-p-xpath(//*[self::button or self::a][contains(normalize-space(.), "${text}")])`).click();

async function appliedInStores(): Promise<number> {
  const counts = await Promise.all(STORES.map((store) => demo.control(store)));
  return counts.reduce((sum, { applied }) => sum + applied, 0);
}

let docketId: string;
let left: number;

test("all that is stale is marked and previewed, and what work that goes on still needs is taken out", async () => {
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
  await openOn(page, `${demo.url}/register?q=${encodeURIComponent(STALE)}`);
  const { found } = (await session.ask(`/api/register?query=${encodeURIComponent(STALE)}`)).answer;
  const { total } = (await session.ask("/api/register")).answer;
  await shows(`${found} of ${total.toLocaleString("en-GB")} shares`);
  await page.keyboard.press("a");
  await shows(`${found} marked`);
  await page.keyboard.press("x");
  await shows(`${found} changes.`);
  const tray = (await session.ask("/api/tray")).answer;
  docketId = tray.docketId;
  const { running } = tray.preview.careful;
  expect(running.length).toBeGreaterThan(0);
  await press("Open the full page");
  await shows(`${found} changes: preparing`);
  await shows("Apply it from the tray.");
  expect(await faultsOf(page)).toEqual([]);
  await press("Preview");
  await press(`Remove ${running.length} that running projects need`);
  left = found - running.length;
  await shows(`${left} changes.`);
  expect((await session.ask("/api/tray")).answer.preview.careful.running).toEqual([]);
});

test("it is applied while stores stumble, paused, and goes on where it stood", async () => {
  const before = await appliedInStores();
  for (const store of STORES) await demo.control(store, { slowMs: 40, errorEvery: 10, halfAppliedEvery: 9 });
  await openOn(page, `${demo.url}/register`);
  await press(`Apply ${left} changes`);
  await shows(`Apply ${left} changes, now?`);
  await page.locator(`::-p-xpath(//*[@role="alertdialog"]//button[contains(., "Apply")])`).click();
  await shows("Applying:");
  await press("Pause");
  await shows("Paused:");
  const paused = (await session.ask(`/api/dockets/${docketId}`)).answer.progress;
  expect(paused.counts.staged).toBeGreaterThan(0);
  await press("Resume");
  for (const store of STORES) await demo.control(store, { slowMs: 0 });
  await shows(`${left} of ${left} changes done.`);
  for (const store of STORES) await demo.control(store, { errorEvery: 0, halfAppliedEvery: 0 });
  expect(await appliedInStores()).toBe(before + left);
});

test("its page has a receipt for each, tells the owners in one mail each, and axe finds nothing on either", async () => {
  await press("Receipts");
  await shows(`${left} changes: closed`);
  await shows("The address answers: no longer available");
  expect(await faultsOf(page)).toEqual([]);
  await press("Tell owners and recipients");
  await shows("one mail each");
  expect(await faultsOf(page)).toEqual([]);
  const { telling } = (await session.ask(`/api/dockets/${docketId}/notices`)).answer;
  await press(`Send ${telling.owners.length} mails`);
  await shows(`${telling.owners.length} mails being sent.`);
  demo.latch("tick");
  await demo.until(async () => (await demo.mails()).length >= telling.owners.length, "send the mails");
  const mails = (await demo.mails()).filter(({ subject }) => subject.startsWith("Sharing of your files was changed"));
  expect(new Set(mails.map(({ to }) => to)).size).toBe(telling.owners.length);
});

test("five of them come back as new links, by a docket that another administrator approves", async () => {
  await session.ask("/api/approval", { above: 4, insiders: false }, "PUT");
  await openOn(page, `${demo.url}/ledger/dockets/${docketId}`);
  await shows("Undo 0 marked");
  const boxes = await page.$$("tbody input[type=checkbox]:not(:disabled)");
  for (const box of boxes.slice(0, 5)) await box.click();
  await press("Undo 5 marked");
  await press("Preview it and apply it");
  await shows("5 changes: waiting");
  await shows("it has more than 4 changes");
  expect(await faultsOf(page)).toEqual([]);
  const undoId = new URL(page.url()).pathname.split("/").at(-1)!;
  await press("Ask to apply 5 changes");
  await page.locator(`::-p-xpath(//*[@role="alertdialog"]//button[contains(., "Ask to apply")])`).click();
  await shows("You made it, so you can’t approve it yourself.");
  expect((await session.apply(undoId)).status).toBe(409);

  const other = await demo.signIn(OTHER);
  expect((await other.apply(undoId)).answer).toEqual({ applied: "begun" });
  await demo.until(
    async () => (await other.ask(`/api/dockets/${undoId}`)).answer.progress.state === "done",
    "take back",
  );
  const { receipts, progress, approvedBy } = (await other.ask(`/api/dockets/${undoId}`)).answer;
  // What had ended by itself meanwhile can't come back as something that is over.
  expect(progress.counts.done + progress.counts["set-aside"]).toBe(5);
  expect([progress.counts.done > 0, approvedBy]).toEqual([true, OTHER]);
  for (const { state, response } of receipts)
    if (state === "done") expect(JSON.parse(response)[0].revokedAt).toBeNull();
  await page.reload({ waitUntil: "domcontentloaded" });
  await readyOn(page);
  await shows(`Approved by ${OTHER}`);
  expect((await session.ask("/api/ledger/proof")).answer.unbroken).toBe(true);
});

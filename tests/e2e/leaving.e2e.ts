import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Browser, Page } from "puppeteer-core";
import type { EngagementTold } from "@/core/engagements/engagements";
import type { EstateRecord } from "@/core/estate/records";
import { faultsInAnyLight, hasOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Somebody leaves, and a project ends. */
const demo = new Demo();
const STORES = ["stacks", "alcoves", "dock"] as const;
const LEAVER = { name: "Wanda Fennimoor", address: "wanda.fennimoor@wrenmoor.example" };
let browser: Browser;
let page: Page;
let session: Session;

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
const button = (words: string) => page.locator(`::-p-xpath(//button[starts-with(normalize-space(.), "${words}")])`);
const open = (path: string) => openOn(page, `${demo.url}${path}`);

/** The directory's list of today without some of its lines. */
function listWithout(name: string, isOut: (line: string, at: number) => boolean): string {
  const lines = readFileSync(join(demo.data, "demo/seed/people.csv"), "utf8").split("\r\n");
  const path = join(demo.data, name);
  writeFileSync(path, lines.filter((line, at) => at === 0 || !isOut(line, at)).join("\r\n"));
  return path;
}

async function showWhatWouldChange(path: string) {
  const input = (await page.$("input[type=file]"))!;
  await input.uploadFile(path);
  await page.locator("::-p-xpath(//button[starts-with(., 'Preview the changes') and not(@disabled)])").click();
}

test("half a list is held: nothing changes before somebody says that so many have gone", async () => {
  await open("/estate/directory");
  await shows("Order of sources");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await showWhatWouldChange(listWithout("half.csv", (_, at) => at % 2 === 0));
  await shows("people who are active here would stop being active.");
  expect(await faultsInAnyLight(page)).toEqual([]);
  expect(await page.$("::-p-xpath(//button[. = 'Read the list' and @disabled])")).not.toBeNull();
});

test("a leaver comes by the directory's file, and the Desk says so", async () => {
  await showWhatWouldChange(listWithout("people.csv", (line) => line.startsWith(LEAVER.address)));
  await shows("1 person has left");
  await shows(LEAVER.address);
  await button("Read the list").click();
  await shows("The list has been read, and recorded in the ledger.");
  await open("/desk");
  await shows(`${LEAVER.name} has left`);
  await page.locator(`::-p-text(${LEAVER.name} has left)`).click();
  await shows("Hand it all over to");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("their page says who says what", async () => {
  await page.locator(`::-p-xpath(//a[. = "${LEAVER.address}"])`).click();
  await shows("Who says what");
  await shows("Loading Dock");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await open("/people/insiders?q=fennimoor%20status:left");
  await shows("2 people");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("the sheet hands over and ends; nothing is left, in every store", async () => {
  await open(`/people/leaver?address=${LEAVER.address}`);
  await shows("is their manager");
  await button("End all").click();
  await button("Add all of it to the docket").click();
  await shows("It’s in the tray");
  const { answer: tray } = await session.ask("/api/tray");
  await session.apply(tray.docketId);
  await demo.until(async () => {
    const { progress } = (await session.ask(`/api/dockets/${tray.docketId}`)).answer;
    return progress.state === "done";
  }, "settle the leaver");
  await open(`/people/leaver?address=${LEAVER.address}`);
  await shows("Nothing is left");
  for (const store of STORES) expect([store, await leftIn(store)]).toEqual([store, []]);
});

/** What a store itself holds of the leaver: items, live links, grants to them. */
async function leftIn(store: (typeof STORES)[number]): Promise<string[]> {
  const records = await recordsOf(store);
  const isTheirs = (id: string | null) =>
    records.some((one) => one.type === "person" && one.id === id && one.email === LEAVER.address);
  return records.flatMap((one) => {
    const stands =
      (one.type === "item" && one.state === "live" && isTheirs(one.ownerId)) ||
      (one.type === "link" && !one.revokedAt && isTheirs(one.createdBy)) ||
      (one.type === "grant" && !one.revokedAt && isTheirs(one.toId));
    return stands ? [`${one.type} ${one.id}`] : [];
  });
}

async function recordsOf(store: (typeof STORES)[number]): Promise<EstateRecord[]> {
  const records: EstateRecord[] = [];
  for (let cursor = 0; ;) {
    const path = `/api/records?after=${cursor}`;
    const { entries, next } = await demo.askStore<{ entries: { record: EstateRecord }[]; next: number }>(store, path);
    if (entries.length === 0) return records;
    records.push(...entries.map(({ record }) => record));
    cursor = next;
  }
}

test("whoever answers for a project is asked by mail, and extends it without signing in", async () => {
  await open("/people/projects");
  await shows("Winter tour");
  expect(await faultsInAnyLight(page)).toEqual([]);
  // Another end is told of anew.
  const { answer } = await session.ask("/api/engagements");
  const tour = answer.page.find(({ name }: EngagementTold) => name === "Winter tour");
  const body = { id: tour.id, ends: "2026-11-30T12:00:00Z", reason: "Two days more" };
  expect((await session.ask("/api/engagements/end", body, "PUT")).status).toBe(200);
  demo.latch("tick");
  const mail = (await demo.mails()).find(({ subject }) => subject.includes("of your projects ends"))!;
  expect(mail.to).toBe("runa.eastermark@wrenmoor.example");
  const address = /http\S+\/project#\S+/.exec(mail.text)![0];
  const own = await (await browser.createBrowserContext()).newPage();
  await openOn(own, address);
  await showsOn(own, "Let it end");
  expect(await faultsInAnyLight(own)).toEqual([]);
  await own.locator("::-p-xpath(//button[. = 'Extend it'])").click();
  await own.locator("::-p-xpath(//label[. = 'Reason']/following-sibling::input)").fill("Two more concerts");
  await own.locator("::-p-xpath(//button[. = 'Save the end date'])").click();
  await showsOn(own, "The end date has been changed. You can close this page.");
  await open("/people/projects");
  await page.locator("::-p-xpath(//a[. = 'Winter tour'])").click();
  await shows("Two more concerts");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("a project is made from what a finder finds", async () => {
  await open("/people/project/new");
  await page.locator("::-p-xpath(//label[. = 'Name']/following-sibling::input)").fill("Spring brochure");
  for (const [field, text] of [
    ["Add an item", "Coastal tour"],
    ["Add an organisation", "new-printer.example"],
    ["Responsible", "silas.marrowby"],
  ]) {
    await page.locator(`[role=combobox][aria-label='${field}']`).fill(text);
    await hasOn(page, "[role=option]");
    await page.keyboard.press("Enter");
  }
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button("Create").click();
  await shows("silas.marrowby@wrenmoor.example is responsible");
});

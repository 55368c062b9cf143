import type { Browser, Page } from "puppeteer-core";
import type { LinkRecord } from "@/core/estate/records";
import { addressHasOn, faultsInAnyLight, hasOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** A firm's contract has ended: what it still has is found, and ended from its page. */
const demo = new Demo();
const FIRM = "ferrant-events.example";
let browser: Browser;
let page: Page;
let session: Session;
/** A link for people of the firm alone. */
let theirs: LinkRecord;

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
const found = async (query: string): Promise<number> =>
  (await session.ask(`/api/register?query=${encodeURIComponent(query)}`)).answer.found;

/** Applies what is in the tray, and waits until it is carried out. @param what it does, in words */
async function applyTray(what: string) {
  const { answer: tray } = await session.ask("/api/tray");
  await session.apply(tray.docketId);
  await demo.until(async () => {
    const { progress } = (await session.ask(`/api/dockets/${tray.docketId}`)).answer;
    return progress.state === "done";
  }, what);
}

test("the firm is found in the list, sorted as one likes", async () => {
  await openOn(page, `${demo.url}/people`);
  await shows("lowmark-foundation.example");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button("Findings").click();
  await hasOn(page, "th[aria-sort=descending] svg");
  await addressHasOn(page, "by", "findings");
  await page.locator("[data-query]").fill("reaching:yes ferrant");
  await shows("1 organisation");
  await page.locator(`::-p-text(${FIRM})`).click();
  await shows("What they reach");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("cut off from its page with the links that its people used: its addresses are dead, and it has nothing left", async () => {
  const rows = (
    await session.ask(
      `/api/register?count=100&query=${encodeURIComponent(`organisation:${FIRM} reach:named state:live store:Stacks`)}`,
    )
  ).answer.page as { row: { id: string } }[];
  for (const { row } of rows) {
    const link = await demo.askStore<LinkRecord>("stacks", `/api/shares/${row.id}`);
    if (link.recipients.every(({ email }) => email.endsWith(`@${FIRM}`))) theirs = link;
  }
  expect((await fetch(theirs.address!)).status).toBe(401);
  await button("Add the cut-off").click();
  await shows("It’s in the tray");
  await applyTray("cut the firm off");
  expect((await fetch(theirs.address!)).status).toBe(410);
  expect(await found(`organisation:${FIRM} state:live -way:group`)).toBe(0);
  await openOn(page, `${demo.url}/people/organisation?domain=${FIRM}`);
  await shows("No share lets anybody there in by name.");
});

test("a stance is set with its reason, holds at once, and is ended again", async () => {
  await openOn(page, `${demo.url}/people/organisation?domain=gannet-management.example`);
  await button("Set a stance").click();
  await page.locator("::-p-xpath(//label[contains(., 'Denied')]//input)").click();
  await page.type("form input[required]", "They work for the rival now");
  await button("Save").click();
  await shows("They work for the rival now");
  expect(await faultsInAnyLight(page)).toEqual([]);
  expect(await found("party:denied organisation:gannet-management.example")).toBeGreaterThan(0);
  await button("End it now").click();
  await shows("None.");
});

test("of three look-alikes one is harmless: said to be one firm it is gone, another is denied", async () => {
  await openOn(page, `${demo.url}/people/look-alikes`);
  for (const domain of ["quay-ha11.example", "quayside-staging-files.example", "operavell.example"])
    await shows(domain);
  expect(await faultsInAnyLight(page)).toEqual([]);
  await page.locator("::-p-xpath(//li[contains(., 'operavell.example')]//button[contains(., 'One firm')])").click();
  await shows("One firm with two domains");
  await page.locator("::-p-xpath(//li[contains(., 'quay-ha11.example')]//button[contains(., 'Deny')])").click();
  await demo.until(async () => (await found("party:denied organisation:quay-ha11.example")) > 0, "deny the look-alike");
});

test("of somebody who has left everything is ended or handed over by one docket: nothing is left", async () => {
  await openOn(page, `${demo.url}/people/leavers`);
  await shows("Zita Brackwell");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await page.locator("::-p-text(Zita Brackwell)").click();
  await shows("Hand it all over to");
  await page.locator("[role=combobox][aria-label='New owner']").fill("sanne.eastermark");
  await hasOn(page, "[role=option]");
  await page.keyboard.press("Enter");
  await button("End all").click();
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button("Add all of it to the docket").click();
  await shows("It’s in the tray");
  await applyTray("end and hand over what a leaver left");
  await openOn(page, `${demo.url}/people/leaver?address=zita.brackwell@wrenmoor.example`);
  await shows("Nothing is left");
});

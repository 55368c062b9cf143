import type { Browser, Page } from "puppeteer-core";
import { faultsInAnyLight, hasOn, holdsOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Shares made right from the start, asked for and approved; and files that come in. */
const demo = new Demo();
const OWNER = "sanne.eastermark@wrenmoor.example";
/** One letter away from a partner's. */
const LOOK_ALIKE = "ilse@opera-vel.example";
const PARTNER = "ilse@opera-vell.example";
const PICTURE = "Estuary Mass, rehearsal 13.jpg";
const AFTER_ITS_END = "2027-01-20T09:14:00Z";
let browser: Browser;
let page: Page;
let owner: Page;
let administrator: Session;
jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
  owner = await (await browser.createBrowserContext()).newPage();
  await signInOn(owner, demo.url, OWNER, PASSWORD, "nav[aria-label='Your shares']");
}, 300_000);
afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const button = (on: Page, words: string) =>
  on.locator(`::-p-xpath(//button[starts-with(normalize-space(.), "${words}")])`);

/** Fills the sentence in for a link with a passphrase that is sent to somebody. */
async function askFor(address: string, why: string) {
  await openOn(owner, `${demo.url}/my-shares/ask`);
  await owner.locator("main input").fill("rehearsal 13");
  await button(owner, PICTURE).click();
  await showsOn(owner, "anyone with the link");
  await owner.locator("main textarea").fill(address);
  await owner.locator("::-p-xpath((//main//textarea)[2])").fill(why);
  await showsOn(owner, "What it gives away");
  await button(owner, "Ask for it").click();
  await showsOn(owner, "Your requests");
}

/** The request that waits, opened from the Desk. */
async function openTheRequest() {
  await openOn(page, `${demo.url}/desk`);
  await page.locator("::-p-xpath(//a[contains(., 'to share something waits')])").click();
  await showsOn(page, "Waiting for your word");
  await page.locator(`::-p-xpath(//a[contains(., "${PICTURE}")])`).click();
  await showsOn(page, "Or refuse it, and say why");
}

test("a share is asked for, refused since its address looks like another, asked for again, approved, opened, and over at its end", async () => {
  await askFor(LOOK_ALIKE, "The programme book of the guest performance.");
  await openTheRequest();
  await showsOn(page, "opera-vel.example is one character away from opera-vell.example.");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await page
    .locator("::-p-xpath(//main//form//input[not(@type)])")
    .fill("That is not their address: ask with opera-vell.");
  await button(page, "Refuse it").click();
  await showsOn(page, "Refused");

  await openOn(owner, `${demo.url}/my-shares/requests`);
  await showsOn(owner, "That is not their address: ask with opera-vell.");
  expect(await faultsInAnyLight(owner)).toEqual([]);
  await askFor(PARTNER, "The programme book of the guest performance.");
  await openTheRequest();
  await button(page, "Approve and make it").click();
  await holdsOn(
    page,
    () => /Made(?! |$)|Made \(/.test(document.body.innerText) || document.body.innerText.includes("Made."),
  );
  await page.locator("::-p-xpath(//a[contains(., 'Its docket')])").click();
  await showsOn(page, "Opened as its recipient would: it asks for the passphrase.");

  // Only whoever hands it over is shown the passphrase; in no mail does it stand.
  const [{ id, docketId, shares }] = (await administrator.ask("/api/sharing")).answer;
  expect(id).toBeTruthy();
  const { receipts } = (await administrator.ask(`/api/dockets/${docketId}`)).answer;
  const { passphrase } = (await administrator.ask(`/api/passphrases/${receipts[0].passphrase}`, {})).answer;
  await demo.until(async () => (await demo.mails()).some(({ to }) => to.includes(PARTNER)), "send the link");
  const mails = (await demo.mails()).filter(({ to }) => to.includes(PARTNER));
  expect(mails).toHaveLength(1);
  const address = mails[0].text.match(/http:\/\/\S+/)![0];
  for (const mail of await demo.mails()) expect(mail.text).not.toContain(passphrase);

  const recipient = await (await browser.createBrowserContext()).newPage();
  await recipient.goto(address, { waitUntil: "domcontentloaded" });
  await recipient.type("input[name=password]", passphrase);
  await recipient.keyboard.press("Enter");
  await showsOn(recipient, `${PICTURE}\n`);
  await openOn(page, `${demo.url}/register?share=${shares[0]}`);
  await showsOn(page, PICTURE);

  await demo.restartAt(AFTER_ITS_END);
  await recipient.goto(address, { waitUntil: "domcontentloaded" });
  await showsOn(recipient, "This link is no longer available");
});

test("a bad open link on a folder is replaced by a good one on a file", async () => {
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
  administrator = await demo.signIn(ADMINISTRATOR);
  const query = encodeURIComponent("reach:open state:live kind:folder store:Stacks password:no");
  const [{ row: bad }] = (await administrator.ask(`/api/register?query=${query}&from=0&count=1`)).answer.page;
  await openOn(page, `${demo.url}/register?share=${bad.id}`);
  await page.locator("::-p-xpath(//a[contains(., 'Replace it by one that holds')])").click();
  await showsOn(page, "Share a file instead?");
  await page.locator("::-p-xpath(//a[contains(., 'Share something else in its place')])").click();
  await showsOn(page, "What is to be shared in its place?");
  await page.locator("main input").fill("rehearsal 13");
  await page.locator(`::-p-xpath(//*[@role="option"][contains(., "rehearsal 13")])`).click();
  await showsOn(page, "Let");
  await page.select("select[aria-label=who]", "named");
  await page.locator("main textarea").fill(PARTNER);
  await showsOn(page, "It breaks no rule.");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button(page, "Make it, then revoke the old one").click();
  await page.locator("::-p-xpath(//a[contains(., 'Its docket')])").click();
  await showsOn(page, "Opened as its recipient would: it asks who comes.");
  await demo.until(async () => {
    const { receipts } = (
      await administrator.ask((await page.evaluate(() => location.pathname)).replace("/ledger", "/api"))
    ).answer;
    return receipts.length === 2 && receipts.every(({ state }: { state: string }) => state === "done");
  }, "revoke the old one");
});

test("strangers send three files, one with a double ending: it is marked, the link is closed, and its page says so", async () => {
  const { links } = (await administrator.ask("/api/intake")).answer;
  const link = links.find(({ itemName }: { itemName: string }) => itemName === "Intake, stage plans");
  const { address } = (await administrator.ask(`/api/shares/${link.id}/address`, {})).answer;
  for (const [name, type] of [
    ["Stage left.pdf", "application/pdf"],
    ["Stage right.pdf", "application/pdf"],
    ["Invoice.pdf.exe", "application/octet-stream"],
  ])
    await sendIn(address, name, type);
  await administrator.ask("/api/reading", {});
  await openOn(page, `${demo.url}/register/intake/came-in?marked=yes`);
  await showsOn(page, "Invoice.pdf.exe");
  await showsOn(page, "Runs, and has the ending of a document before its own");
  expect(await page.evaluate(() => document.body.innerText)).not.toContain("Stage left.pdf");
  expect(await faultsInAnyLight(page)).toEqual([]);

  await openOn(page, `${demo.url}/register/intake`);
  const menu = "button[aria-label='What to do with the intake link on Intake, stage plans']";
  await hasOn(page, menu);
  await page.click(menu);
  await hasOn(page, "[role=menuitem]");
  await page.locator("::-p-xpath(//*[@role='menuitem'][contains(., 'Close it')])").click();
  await button(page, "Apply 1 change").click();
  await page.locator("::-p-xpath(//*[@role='alertdialog']//button[contains(., 'Apply')])").click();
  await showsOn(page, "Applied: 1 of 1 change done.");
  const stranger = await (await browser.createBrowserContext()).newPage();
  await stranger.goto(address, { waitUntil: "domcontentloaded" });
  await showsOn(stranger, "This link is no longer available");
});

/** As a stranger does who has but the address: with the page's own form. */
async function sendIn(address: string, name: string, type: string) {
  const cookies = (await fetch(address)).headers.getSetCookie().map((one) => one.split(";")[0]);
  const form = new FormData();
  form.set("sender", "somebody@elsewhere.example");
  form.set("file", new File([`%PDF-1.7 ${name}`], name, { type }));
  const answer = await fetch(`${address}/files`, {
    method: "POST",
    body: form,
    headers: { Cookie: cookies.join("; ") },
  });
  expect(await answer.text()).toContain("has arrived");
}

test("links that are over are cleared from their page, and axe finds nothing there", async () => {
  await openOn(page, `${demo.url}/register/over`);
  await showsOn(page, "links are over and still there");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button(page, "Add their revokes to the docket").click();
  await showsOn(page, "They’re in the tray.");
  await hasOn(page, "table");
});

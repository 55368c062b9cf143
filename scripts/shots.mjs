// Takes the pictures in docs/screenshots of a running demo (or into the folder given), at 1280x800.
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { launchBrowser, signIn } from "./browser.mjs";
import { root } from "./stale.mjs";

const url = process.env.LATCH_URL ?? "http://localhost:4310";
const folder = process.argv[2] ?? join(root, "docs/screenshots");
const only = process.argv.slice(3);
mkdirSync(folder, { recursive: true });

const browser = await launchBrowser();
const page = await browser.newPage();
await page.setViewport({ width: 1280, height: 800 });

async function shot(name, path, prepare = async () => {}) {
  if (only.length > 0 && !only.includes(name)) return;
  if (path) await page.goto(url + path, { waitUntil: "networkidle2" });
  await prepare();
  await new Promise((resolve) => setTimeout(resolve, 700));
  await page.screenshot({ path: join(folder, `${name}.png`) });
}

const click = (text) =>
  page.locator(`::-p-xpath(//*[self::button or self::a][contains(normalize-space(.), "${text}")])`).click();
/** The id of the first item of a name. */
const itemId = (name) =>
  page.evaluate(async (text) => (await (await fetch(`/api/ways/find?text=${text}`)).json()).items[0].id, name);
/** The address of the stage builder who has three ways in to one folder. */
const builder = async () => {
  const item = await itemId("Stage plots");
  return page.evaluate(async (id) => {
    const { people } = await (await fetch(`/api/ways?item=${id}`)).json();
    const isBuilder = (one) => one.organisation === "quayside-staging.example";
    const counts = await Promise.all(
      people.filter(isBuilder).map(async (one) => {
        const { paths } = await (await fetch(`/api/ways?item=${id}&person=${one.address}`)).json();
        return [paths.length, one.address];
      }),
    );
    return counts.sort((a, b) => b[0] - a[0])[0][1];
  }, item);
};
/** Where the mail about the open round leads whoever has most to decide in it. */
const decidersAddress = async () => {
  const mails = await (await fetch(`${url.slice(0, -1)}${Number(url.at(-1)) + 5}/mails.json`)).json();
  const asked = mails.find(({ to, text }) => to.includes("sanne.eastermark") && text.includes("/decide#"));
  return asked.text.match(/http\S+\/decide#\S+/)[0];
};
const OPEN_AND_UNUSED = `/register?q=${encodeURIComponent("reach:open -used:<45d label:restricted,confidential")}`;

await signIn(page, url, "imre.varga@wrenmoor.example", "tern-gravel-lantern-oboe");
await shot("desk", "/desk", () => page.waitForFunction(() => document.body.innerText.includes("at most")));
await shot("shortlist", "/desk/shortlist?changes=40&group=end-open");
await shot("trail", "/trail?label=restricted&label=confidential&verb=downloaded&verb=shared-open");
await shot("alerts", "/alerts");
await shot("register", "/register");
await shot("inspector", `/register?q=${encodeURIComponent("passport reach:open")}`, async () => {
  await page.locator("[role=row][id=row-0]").click();
});
await shot("ways-paths", `/ways?item=${await itemId("Stage plots")}&person=${await builder()}`);
await shot("time", "/register", async () => {
  await click("Now, ");
  await page.waitForFunction(() => document.body.innerText.includes("at most"));
});
await shot("rules", "/rules", async () => {
  await page.locator("input[aria-label=Days]").fill("14");
  await page.locator("::-p-xpath(//label[contains(., 'Ask.')])").click();
  await click("Preview what that would do");
  await page.waitForFunction(() => document.body.innerText.includes("If no owner answers"));
});
await shot("round", "/rounds/1");
await shot("decide", null, async () => {
  await page.goto(await decidersAddress(), { waitUntil: "networkidle2" });
});
await shot("tray", OPEN_AND_UNUSED, async () => {
  await click("Mark all");
  await new Promise((resolve) => setTimeout(resolve, 500));
  await click("Add revoke to docket");
  await page.locator("footer button[aria-expanded]").click();
});
await shot("receipts", null, async () => {
  await click("Apply ");
  await page.locator("[role=alertdialog] button::-p-text(Apply)").click();
  await page.waitForFunction(() => document.body.innerText.includes("Applied:"), { timeout: 60_000 });
  await click("Receipts");
  await page.waitForFunction(() => document.body.innerText.includes("Probe"));
});
await shot("ledger", "/ledger");
await shot("report", "/ledger/reports", async () => {
  await page.locator("form[aria-label='State of sharing outside'] button[type=submit]").click();
  await page.waitForFunction(() => document.body.innerText.includes("The twelve months before"));
});
await shot("share", `/share?item=${await itemId("Stage plots")}`, async () => {
  await page.locator("main textarea, textarea").fill("aino@quayside-staging.example");
  await page.waitForFunction(() => document.body.innerText.includes("What it gives away"));
});
await shot("intake", "/register/intake/came-in?marked=yes");
await shot("estate", "/estate", async () => {
  await page.locator("summary").click();
});
await shot("people", "/people");
await browser.close();

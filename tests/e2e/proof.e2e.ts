import { createHash } from "node:crypto";
import { execFileSync, spawnSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { strToU8, unzipSync, zipSync } from "fflate";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { faultsInAnyLight, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD } from "./demo";

/** An auditor who trusts nobody here: what they are given, they check by themselves. */
jest.setTimeout(240_000);

const AUDITOR = "auditor@wrenmoor.example";
const demo = new Demo();
let browser: Browser;
let page: Page;
let pack: string;

beforeAll(async () => {
  await demo.start();
  const administrator = await demo.signIn(ADMINISTRATOR);
  const isHeld = async () => {
    const { witnesses } = (await administrator.ask("/api/ledger/checkpoints")).answer;
    return witnesses.some(({ sentAt }: { sentAt: string | null }) => sentAt !== null);
  };
  await demo.until(isHeld, "hand its witness a checkpoint");
  // The page in a pack checks signatures and hashes for seconds.
  ({ browser, page } = await openBrowser({ computes: true }));
  await signInOn(page, demo.url, AUDITOR, PASSWORD);
});
afterAll(async () => {
  await browser?.close();
  await demo.remove();
});

test("the Ledger says up to where it is held outside; its witnesses and packs have pages of their own", async () => {
  for (const [path, words] of [
    ["/ledger", "Held by witnesses up to entry"],
    ["/ledger/witnesses", "The newest checkpoint"],
    ["/ledger/packs", "everything"],
  ]) {
    await openOn(page, demo.url + path);
    await showsOn(page, words);
    expect([path, await faultsInAnyLight(page)]).toEqual([path, []]);
  }
});

test("an auditor opens a report, saves it as a PDF, and that they did so is in the ledger", async () => {
  await openOn(page, `${demo.url}/ledger/reports`);
  expect(await faultsInAnyLight(page)).toEqual([]);
  await page.locator("form[aria-label='State of sharing outside'] button[type=submit]").click();
  await showsOn(page, "The twelve months before");
  expect(await faultsInAnyLight(page)).toEqual([]);
  const auditor = await demo.signIn(AUDITOR);
  const { search } = new URL(page.url());
  const pdf = await auditor.bytes(`/api/reports/pdf${search}&kind=state`);
  const text = `${execFileSync("pdftotext", ["-layout", "-", "-"], { input: pdf })}`;
  expect(text).toMatch(/Outside shares +[\d,]+ +[\d,]+/);
  const { entries } = (await auditor.ask("/api/ledger")).answer;
  expect(entries.some(({ body }: { body: { what: string } }) => body.what === "/api/reports/pdf")).toBe(true);
});

test("an auditor has a pack made, takes it along, and checks it with three programs", async () => {
  await openOn(page, `${demo.url}/ledger/packs`);
  await page.locator("::-p-aria(Make pack)").click();
  const auditor = await demo.signIn(AUDITOR);
  const packs = async () => (await auditor.ask("/api/ledger/packs")).answer;
  await demo.until(async () => {
    const { making, packs: made } = await packs();
    return making === null && made.length === 2;
  }, "make the pack");
  const { packs: made } = await packs();
  pack = join(demo.data, "pack.zip");
  writeFileSync(pack, await auditor.bytes(`/api/ledger/packs/${made[0].seq}`));
  expect(demo.latch("verify", pack)).toMatch(/consistent in itself/);
  const [key] = demo.latch("ledger-key").split("\n");
  expect(demo.latch("verify", pack, "--key", key)).toMatch(/It agrees with what you hold/);
  expect(`${execFileSync("python3", [join(__dirname, "../verifyPack.py"), pack])}`).toBe("holds\n");
  demo.latch("pack", "--again", String(made[0].seq), "-o", join(demo.data, "again.zip"));
  expect(readFileSync(join(demo.data, "again.zip")).equals(readFileSync(pack))).toBe(true);
});

test("the page inside the pack checks it in a browser without a network, and finds a changed byte", async () => {
  const own = await (await browser.createBrowserContext()).newPage();
  await own.setOfflineMode(true);
  const files = unzipSync(readFileSync(pack));
  const html = join(demo.data, "verify.html");
  writeFileSync(html, files["verify.html"]);
  await own.goto(`file://${html}`);
  const choose = async (path: string) => ((await own.$("#file")) as ElementHandle<HTMLInputElement>).uploadFile(path);
  await choose(pack);
  await showsOn(own, "Everything is consistent. Compare its key with one that you hold.");
  expect(await faultsInAnyLight(own)).toEqual([]);
  const changed = join(demo.data, "changed.zip");
  const events = files["events.csv"].slice();
  events[events.length - 5] ^= 1;
  writeFileSync(changed, zipSync({ ...files, "events.csv": events }));
  await choose(changed);
  await showsOn(own, "It doesn’t check out. events.csv: isn’t what is listed");
  const none = join(demo.data, "none.zip");
  writeFileSync(none, strToU8("no zip"));
  await choose(none);
  await showsOn(own, "It doesn’t check out. invalid zip data");
});

test("of 100 random changes of the ZIP the page notices each, or it changes nothing in it", async () => {
  const own = await (await browser.createBrowserContext()).newPage();
  await own.setOfflineMode(true);
  await own.goto(`file://${join(demo.data, "verify.html")}`);
  const input = (await own.$("#file")) as ElementHandle<HTMLInputElement>;
  const zip = readFileSync(pack);
  const bytesOf = (one: Uint8Array) =>
    JSON.stringify(Object.entries(unzipSync(one)).map(([name, b]) => [name, sha(b)]));
  const whole = bytesOf(zip);
  // From a fixed beginning, so that what is found once is found again (Park and Miller, CACM 31, 1988).
  let random = 20_261_130;
  const next = (below: number) => (random = (random * 48_271) % 2_147_483_647) % below;
  let noticed = 0;
  for (let i = 0; i < 100; i++) {
    const changed = Buffer.from(zip);
    changed[next(zip.length)] ^= 1 + next(255);
    // A browser tells of no change where the same file is chosen again.
    const path = join(demo.data, `tampered-${i}.zip`);
    writeFileSync(path, changed);
    await own.$eval("#outcome", (outcome) => (outcome.className = ""));
    await input.uploadFile(path);
    await own.waitForSelector("#outcome.holds, #outcome.wrong");
    if (await own.$("#outcome.wrong")) noticed++;
    else expect(bytesOf(changed)).toBe(whole);
  }
  expect(noticed).toBeGreaterThan(80);
});

const sha = (bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex");

test("whoever cuts the ledger in the database is found by the folder of witnesses", async () => {
  expect(demo.latch("verify-ledger")).toMatch(/entries, unbroken/);
  await demo.stop();
  const sql = [
    "drop trigger ledger_no_delete; drop trigger checkpoint_no_delete;",
    "delete from checkpoint where size > 300; delete from ledger where seq > 300;",
  ];
  const code = `new (require("better-sqlite3"))(process.argv[1]).exec(process.argv[2])`;
  spawnSync(process.execPath, ["-e", code, join(demo.data, "demo/latch.sqlite"), sql.join("\n")]);
  expect(() => demo.latch("verify-ledger")).toThrow(/the last \d+ were cut off/);
});

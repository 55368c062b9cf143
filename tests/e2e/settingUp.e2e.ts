import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, ElementHandle, Page } from "puppeteer-core";
import { file, item, link, named, person, store } from "../records";
import { faultsInAnyLight, openBrowser, openOn, readyOn, showsOn } from "./browser";
import { until } from "./until";

/** Somebody sets everything up from the first page on, without a terminal but for the code that it prints. */
const root = join(__dirname, "../..");
const data = mkdtempSync(join(tmpdir(), "latch-set-up-"));
const [PORT, STORE_PORT, SMTP_PORT, MAIL_PORT] = [4_650, 4_651, 4_652, 4_653];
const url = `http://localhost:${PORT}`;
const KEY = "a key that is long enough";
const ADA = "ada@wrenmoor.example";
const ADAS = "four unlike words here";
const children: ChildProcess[] = [];
let output = "";
let browser: Browser;
let page: Page;
jest.setTimeout(300_000);

const STACKS = [
  store("stacks"),
  person("ida", "ida@wrenmoor.example"),
  item("a", null, { storeId: "stacks", ownerId: "ida", name: "Touring" }),
  file("f", "a", { storeId: "stacks", ownerId: "ida", name: "Rider.pdf" }),
  link("l", "f", { createdBy: "ida" }),
  named("n", "f", ["out@quay.example"], { createdBy: "ida" }),
];
const REPORT = [
  "Shares of the archive;;;;",
  "Path;Shared with;Sharing type;Role;Expires",
  "/Payroll/2026/May.xlsx;bea@quay.example;Person;Kijken;31/12/2026",
  "/Payroll/2026;;Open link;Kijken;03/04/2027",
  "/Scores/Hale.pdf;ida@wrenmoor.example;Person;Kijken;",
  "Total: 3;;;;",
].join("\r\n");

function run(args: string[], env: Record<string, string>) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", "pipe", "pipe"],
  });
  child.stdout!.on("data", (text) => (output += text));
  child.stderr!.on("data", (text) => (output += text));
  children.push(child);
}

beforeAll(async () => {
  const seed = join(data, "stacks.jsonl");
  writeFileSync(seed, STACKS.map((record) => JSON.stringify(record)).join("\n"));
  writeFileSync(join(data, "archive.csv"), REPORT);
  const standIn = { STANDIN_DATA: join(data, "standins"), STANDIN_SEED: seed, STANDIN_KEY: KEY };
  run(["dist/standins/main.mjs", "stacks"], { ...standIn, STANDIN_PORT: String(STORE_PORT) });
  run(["dist/standins/main.mjs", "mail"], { STANDIN_PORT: String(MAIL_PORT), LATCH_SMTP_PORT: String(SMTP_PORT) });
  run(["scripts/start.mjs"], { LATCH_DATA: join(data, "latch"), LATCH_PORT: String(PORT) });
  await until(
    async () => (await fetch(`${url}/sign-in`).catch(() => undefined))?.ok ?? false,
    "answer",
    () => output,
  );
  ({ browser, page } = await openBrowser());
  await page.evaluateOnNewDocument(() => {
    Object.assign(window, {
      fieldOf: (label: string) =>
        [...document.querySelectorAll<HTMLInputElement | HTMLSelectElement>("input, select")].find(
          ({ labels }) => labels?.[0]?.textContent?.trim() === label,
        ),
    });
  });
}, 300_000);

afterAll(async () => {
  await browser?.close();
  for (const child of children) {
    const gone = new Promise((resolve) => child.once("exit", resolve));
    if (child.exitCode === null && child.kill("SIGINT")) await gone;
  }
  rmSync(data, { recursive: true, force: true });
}, 60_000);

const press = async (words: string) => {
  await showsOn(page, words);
  const place = `::-p-xpath(//*[self::button or self::a][starts-with(normalize-space(.), "${words}")])`;
  await (await page.waitForSelector(place))!.click();
};
/** The field with a label. */
async function labelled<Of extends HTMLInputElement | HTMLSelectElement>(label: string): Promise<ElementHandle<Of>> {
  await page.waitForFunction((text) => fieldOf(text) !== undefined, {}, label);
  return (await page.evaluateHandle((text) => fieldOf(text), label)) as unknown as ElementHandle<Of>;
}
/** Defined on each page, before anything is looked for on it. */
declare function fieldOf(label: string): Element | undefined;
async function fill(label: string, text: string) {
  const field = await labelled<HTMLInputElement>(label);
  await field.click({ count: 3 });
  await field.type(text);
}
const choose = async (label: string, value: string) => (await labelled<HTMLSelectElement>(label)).select(value);

test("the first administrator is led to setting up, and says who their own people are", async () => {
  await openOn(page, `${url}/first-run`);
  const code = /give this code: (\S+)/.exec(output)![1];
  for (const [name, text] of [
    ["code", code],
    ["name", "Ada Umberlow"],
    ["email", ADA],
    ["password", ADAS],
  ])
    await page.type(`input[name=${name}]`, text);
  await Promise.all([page.waitForNavigation(), press("Create administrator")]);
  await readyOn(page);
  await page.type("input[name=email]", ADA);
  await page.type("input[name=password]", ADAS);
  await press("Sign in");
  await showsOn(page, "Say who your own people are");
  expect(new URL(page.url()).pathname).toBe("/estate/set-up");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await fill("Organisation", "Wrenmoor Philharmonic");
  await fill("Domains, separated by commas", "wrenmoor.example");
  await press("Save");
  await showsOn(page, "Saved.");
});

test("a store is tested, connected and read", async () => {
  await press("Connect a store");
  await showsOn(page, "No store is known yet.");
  await fill("Address", `http://127.0.0.1:${STORE_PORT}`);
  await fill("Key", "a wrong key, and long");
  await press("Test it");
  await showsOn(page, "Check its key.");
  await fill("Key", KEY);
  await press("Test it");
  await showsOn(page, "It answers as");
  await press("Connect and read it");
  await showsOn(page, `http://127.0.0.1:${STORE_PORT}`);
  await until(
    async () => (await page.evaluate(() => document.body.innerText)).includes("records known"),
    "read the store",
    () => output,
  );
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("a report is chosen, mapped, checked and imported; its next one needs one press", async () => {
  await openOn(page, `${url}/estate/imports/new`);
  const send = async (name: string) => {
    const input = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(join(data, name));
  };
  await send("archive.csv");
  await showsOn(page, "What each column says");
  // The word is nobody's English: it is asked for. The dates settle themselves.
  await choose("“kijken” means", "view");
  await showsOn(page, "3 are understood");
  await fill("Store", "The archive");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await press("Check");
  await showsOn(page, "3 new shares");
  await press("Import the report");
  await showsOn(page, "See its shares in the register");
  writeFileSync(join(data, "archive-2.csv"), REPORT.replace("/Payroll/2026;;Open link;Kijken;03/04/2027\r\n", ""));
  await send("archive-2.csv");
  await showsOn(page, "It is read in the same way.");
  await showsOn(page, "1 share of 3 ended: the report no longer names them");
  await press("Import the report");
  await showsOn(page, "1 share ended");
  await openOn(page, `${url}/estate/imports`);
  await showsOn(page, "3 rows, 0 records new or changed, 1 share ended");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("labels and parties are set, each previewed or with its reason", async () => {
  await openOn(page, `${url}/estate/labels`);
  await choose("for", "name");
  await fill("Pattern (* is anything, ? one character)", "payroll");
  await press("Preview it");
  await showsOn(page, "would get another label");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await press("Save the rule");
  await showsOn(page, "names like payroll");
  await openOn(page, `${url}/ways?item=${encodeURIComponent("/Payroll/2026/May.xlsx")}`);
  await showsOn(page, "set here for names like payroll on Payroll, which it is in");
  await openOn(page, `${url}/estate/parties`);
  await fill("Domain", "quay.example");
  await press("Set its stance…");
  await press("Set a stance");
  await fill("Why", "Our agents");
  await press("Save");
  await showsOn(page, "Our agents");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

test("mail is set and tested, and a second administrator is invited", async () => {
  await openOn(page, `${url}/estate/messages`);
  const mail = (await page.waitForSelector("form[aria-label=Mail]"))!;
  for (const [name, text] of [
    ["host", "127.0.0.1"],
    ["port", String(SMTP_PORT)],
    ["from", "latch@wrenmoor.example"],
  ]) {
    const field = (await mail.$(`input[name=${name}]`))!;
    await field.click({ count: 3 });
    await field.type(text);
  }
  await (await mail.$("button[type=submit]"))!.click();
  await showsOn(page, "Mail set");
  await press("Send me a test mail");
  await showsOn(page, `Sent to ${ADA}.`);
  const told = await (await fetch(`http://127.0.0.1:${MAIL_PORT}/`)).text();
  expect(told).toContain("A test from Tight Latch");
  await openOn(page, `${url}/estate/accounts`);
  await page.type("input[name=name]", "Odile Marrowby");
  await page.type("input[name=email]", "odile@wrenmoor.example");
  await page.select("select[name=role]", "administrator");
  await press("Invite");
  await showsOn(page, "odile@wrenmoor.example");
  await openOn(page, `${url}/estate/set-up`);
  await showsOn(page, "2 stores known");
  expect(await page.evaluate(() => [...document.querySelectorAll("li > span")].map((one) => one.textContent))).toEqual(
    Array(5).fill("Done"),
  );
});

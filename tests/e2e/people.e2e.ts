import SQLite from "better-sqlite3";
import type { Browser, BrowserContext, Page } from "puppeteer-core";
import { faultsOf, hasOn, holdsOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Somebody is invited, chooses how they sign in, and is shut out again: at once. */
const demo = new Demo({}, undefined, ["--sso"]);
const ROWAN = "rowan.ashgrove@wrenmoor.example";
const ROWANS = "seven unlike wooden words";
let browser: Browser;
let page: Page;
let administrator: Session;
/** Rowan's own browser, with a device that keeps passkeys. */
let theirs: BrowserContext;
let rowan: Page;

jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
  theirs = await browser.createBrowserContext();
  rowan = await newPage(theirs);
  const device = await rowan.createCDPSession();
  await device.send("WebAuthn.enable");
  await device.send("WebAuthn.addVirtualAuthenticator", {
    options: {
      ...{ protocol: "ctap2", transport: "internal", automaticPresenceSimulation: true },
      ...{ hasResidentKey: true, hasUserVerification: true, isUserVerified: true },
    },
  });
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

async function newPage(context: BrowserContext): Promise<Page> {
  const fresh = await context.newPage();
  fresh.setDefaultTimeout(60_000);
  await fresh.setViewport({ width: 1280, height: 800 });
  return fresh;
}
const button = (on: Page, words: string) => on.locator(`::-p-xpath(//button[normalize-space(.)="${words}"])`);
const statusOn = (on: Page, path: string) => on.evaluate(async (at) => (await fetch(at)).status, path);
const idOf = async (email: string): Promise<string> =>
  (await administrator.ask("/api/accounts")).answer.accounts.find((one: { email: string }) => one.email === email).id;
const console_ = (on: Page) => hasOn(on, "nav[aria-label=Sections]");
const signOut = async (on: Page) => {
  await openOn(on, `${demo.url}/account`);
  await button(on, "Sign out").click();
  await hasOn(on, "input[name=email]");
};

test("an administrator invites somebody, who chooses a password and signs in", async () => {
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
  await openOn(page, `${demo.url}/estate/accounts`);
  expect(await faultsOf(page)).toEqual([]);
  await page.type("input[name=name]", "Rowan Ashgrove");
  await page.type("input[name=email]", ROWAN);
  await button(page, "Invite").click();
  await showsOn(page, `It has been mailed to ${ROWAN}.`);
  const address = await page.$eval("[role=status] .font-mono", (one) => one.textContent!);
  await demo.until(async () => (await demo.mails()).some(({ to }) => to === ROWAN), "mail the invitation");
  expect((await demo.mails()).find(({ to }) => to === ROWAN)!.text).toContain(address);

  await openOn(rowan, address);
  await showsOn(rowan, ROWAN);
  expect(await faultsOf(rowan)).toEqual([]);
  await rowan.type("input[name=password]", "rowan.ashgrove rowan");
  await rowan.keyboard.press("Enter");
  await showsOn(
    rowan,
    "That is too close to your name, your address or the name of this tool. Choose another password.",
  );
  await rowan.$eval("input[name=password]", (input) => ((input as HTMLInputElement).value = ""));
  await rowan.type("input[name=password]", ROWANS);
  await rowan.keyboard.press("Enter");
  await hasOn(rowan, "input[name=email]:not([type=hidden])");
  await signInOn(rowan, demo.url, ROWAN, ROWANS);
  await openOn(rowan, address);
  await showsOn(rowan, "This address has already been used. Ask an administrator for a new one.");
});

test("they add a passkey, and sign in by it alone", async () => {
  await openOn(rowan, `${demo.url}/account`);
  expect(await faultsOf(rowan)).toEqual([]);
  await rowan.locator("input[placeholder^='For example']").fill("Rowan’s laptop");
  await button(rowan, "Add a passkey").click();
  await hasOn(rowan, "[aria-label='Remove Rowan’s laptop']");
  await signOut(rowan);
  await button(rowan, "Use a passkey").click();
  await console_(rowan);
  await openOn(rowan, `${demo.url}/account`);
  await showsOn(rowan, "with a passkey, since");
});

test("they set up codes; a recovery code lets them in once and never again", async () => {
  const part = "//section[contains(., 'Authenticator codes')]";
  await rowan.locator(`::-p-xpath(${part}//input[@name='password'])`).fill(ROWANS);
  await button(rowan, "Set up codes").click();
  const secret = await rowan.waitForSelector(`::-p-xpath(${part}//p[contains(@class, 'font-mono')])`);
  const { Secret, TOTP } = await import("otpauth");
  const totp = new TOTP({ secret: Secret.fromBase32(await secret!.evaluate((one) => one.textContent!)) });
  await rowan.locator("input[name=code]").fill(totp.generate());
  await button(rowan, "Confirm").click();
  await showsOn(rowan, "Your recovery codes, shown this once");
  expect(await faultsOf(rowan)).toEqual([]);
  const [code] = await rowan.$$eval("ul.font-mono li", (all) => all.map((one) => one.textContent!));
  const byRecoveryCode = async () => {
    await signOut(rowan);
    await rowan.locator("input[name=email]").fill(ROWAN);
    await rowan.locator("input[name=password]").fill(ROWANS);
    await button(rowan, "Sign in").click();
    await button(rowan, "Use a recovery code").click();
    await rowan.locator("input[name=code]").fill(code);
    await button(rowan, "Sign in").click();
  };
  await byRecoveryCode();
  await console_(rowan);
  await byRecoveryCode();
  await showsOn(rowan, "That isn’t one of your recovery codes, or it has been used.");
  await openOn(rowan, `${demo.url}/sign-in`);
  await button(rowan, "Use a passkey").click();
  await console_(rowan);
});

test("whoever has an account signs in at the provider of the house; strangers, and people of other houses, don't", async () => {
  const elsewhere = async (name: string) => {
    const fresh = await newPage(await browser.createBrowserContext());
    await openOn(fresh, `${demo.url}/sign-in`);
    await button(fresh, "Use Wrenmoor sign-on").click();
    await holdsOn(fresh, () => document.body.innerText.includes("Who are you?"));
    await fresh.locator(`::-p-xpath(//a[contains(., "${name}")])`).click();
    return fresh;
  };
  const odile = await elsewhere("Odile Marrowby");
  await console_(odile);
  await openOn(odile, `${demo.url}/account`);
  await showsOn(odile, "with single sign-on, since");
  for (const name of ["Nobody here", "Cato Venn"]) {
    const stranger = await elsewhere(name);
    await showsOn(stranger, "Single sign-on did not let you in.");
    expect(await statusOn(stranger, "/api/self")).toBe(401);
  }
  const { accounts } = (await administrator.ask("/api/accounts")).answer;
  expect(accounts.map(({ email }: { email: string }) => email)).not.toContain("nobody@wrenmoor.example");
});

test("whoever decides who can sign in signs in again for it, where the last time is too long ago", async () => {
  const db = new SQLite(demo.databasePath);
  db.prepare(`update session set createdAt = ? where userId = (select id from user where email = ?)`).run(
    new Date(Date.now() - 20 * 60_000).toISOString(),
    ADMINISTRATOR,
  );
  db.close();
  await openOn(page, `${demo.url}/estate/accounts`);
  await page.locator("select[aria-label='Role of Rowan Ashgrove']").fill("administrator");
  await showsOn(page, "Nothing has been done yet.");
  expect(await faultsOf(page)).toEqual([]);
  expect((await administrator.ask("/api/accounts")).answer.accounts.find(isRowan).role).toBe("auditor");
  await page.type("[role=dialog] input[name=password]", PASSWORD);
  await page.keyboard.press("Enter");
  await holdsOn(page, () => document.querySelector("[role=dialog]") === null);
  await demo.until(
    async () => (await administrator.ask("/api/accounts")).answer.accounts.find(isRowan).role === "administrator",
    "change the role",
  );
  administrator = await demo.signIn(ADMINISTRATOR);
});
const isRowan = ({ email }: { email: string }) => email === ROWAN;

test("a role that is lost is lost at once, and so is an account", async () => {
  await openOn(rowan, `${demo.url}/desk`);
  expect(await statusOn(rowan, "/api/register")).toBe(200);
  const id = await idOf(ROWAN);
  expect((await administrator.ask(`/api/accounts/${id}/role`, { role: "owner" }, "PUT")).status).toBe(200);
  expect(await statusOn(rowan, "/api/register")).toBe(403);
  await openOn(page, `${demo.url}/estate/accounts`);
  await page.locator("[aria-label='Remove Rowan Ashgrove']").click();
  await showsOn(page, "This can’t be undone.");
  await page.locator(`::-p-xpath(//div[contains(., "undone")]/div/button[normalize-space(.)="Remove"])`).click();
  await holdsOn(page, () => !document.body.innerText.includes("Rowan Ashgrove"));
  expect(await statusOn(rowan, "/api/self")).toBe(401);
  await rowan.goto(`${demo.url}/desk`);
  await hasOn(rowan, "input[name=password]");
});

test("axe finds nothing where people sign in, on a desk and in the hand, in the light and in the dark", async () => {
  const context = await browser.createBrowserContext();
  const stranger = await newPage(context);
  await openOn(stranger, `${demo.url}/sign-in`);
  await stranger.type("input[name=email]", "sanne.eastermark@wrenmoor.example");
  await stranger.type("input[name=password]", PASSWORD);
  await stranger.keyboard.press("Enter");
  await showsOn(stranger, "My shares");
  for (const scheme of ["light", "dark"])
    for (const width of [1280, 390]) {
      await stranger.emulateMediaFeatures([{ name: "prefers-color-scheme", value: scheme }]);
      await stranger.setViewport({ width, height: 800 });
      for (const path of ["/sign-in", "/account", "/my-shares", "/welcome#nonsense"]) {
        await openOn(stranger, `${demo.url}${path}`);
        expect([scheme, width, path, await faultsOf(stranger)]).toEqual([scheme, width, path, []]);
        const isWider = await stranger.evaluate(() => document.documentElement.scrollWidth > innerWidth);
        expect([width, path, isWider]).toEqual([width, path, false]);
      }
    }
});

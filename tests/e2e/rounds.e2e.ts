import type { Browser, Page } from "puppeteer-core";
import type { DecidedLine } from "@/contract/decisions";
import type { RoundView } from "@/contract/rounds";
import type { LinkRecord } from "@/core/estate/records";
import { faultsInAnyLight, faultsOf, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, NOW, PASSWORD, type Session } from "./demo";

/** A round from the sentence that makes it to what recipients meet, with the owners in between, and what breaks on the way. */
const demo = new Demo();
let browser: Browser;
let page: Page;
let administrator: Session;
let round: string;

jest.setTimeout(300_000);

const inDays = (days: number) => new Date(Date.parse(NOW) + days * 86_400_000).toISOString().replace(".000Z", "Z");
const button = (words: string, within = "") =>
  page.locator(`::-p-xpath((${within}//button[normalize-space(.)="${words}"])[1])`);
const viewOf = async (id: string): Promise<RoundView> => (await administrator.ask(`/api/rounds/one/${id}`)).answer;
const linkIn = (id: string) => demo.askStore<LinkRecord>("stacks", `/api/shares/${id}`);

/** Who decides most in the round, of those who have only links in one store: three people with two lines or more each. */
let people: string[];
/** By address: the page that their mail leads to. */
const addressOf = async (who: string, name: string) =>
  (await demo.mails())
    .filter(({ to, text }) => to.includes(who) && text.includes(name) && text.includes("/decide#"))
    .map(({ text }) => text.slice(text.indexOf(name)).match(/http\S+\/decide#\S+/)![0])[0];
/** Asks as whoever holds the address in a mail: nobody signs in. */
async function byMail<T>(address: string, path: string, body: object = {}): Promise<T> {
  const response = await fetch(`${demo.url}/api/decide/${path}`, {
    method: "POST",
    headers: { "Content-Type": "application/json", Origin: demo.url },
    body: JSON.stringify({ token: address.split("#")[1], ...body }),
  });
  return response.json() as Promise<T>;
}
const linesOf = async (address: string) =>
  (await byMail<{ lines: DecidedLine[] }>(address, "page", { dates: {} })).lines;
const named = (lines: readonly DecidedLine[]) => lines.map(({ shareId, asked }) => ({ shareId, asked }));
const NAME = "Confidential open links";
const QUERY = "reach:open label:confidential store:Stacks state:live";

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
});
afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

test("an administrator makes a round, seeing beforehand how many are asked; the mails land", async () => {
  await openOn(page, `${demo.url}/rounds/new?${new URLSearchParams({ q: QUERY, name: NAME })}`);
  await showsOn(page, "shares, decided by");
  expect(await faultsInAnyLight(page)).toEqual([]);
  const forecast = await page.$eval("section[aria-label='Preview of the round'] p", (p) => p.textContent!);
  await button("Open the round").click();
  await showsOn(page, "still to decide");
  round = page.url().match(/rounds\/(\d+)/)![1];
  const view = await viewOf(round);
  expect(forecast).toContain(`${view.lines} shares`);
  expect((await administrator.ask(`/api/register/ids?query=${encodeURIComponent(QUERY)}`)).answer.ids).toHaveLength(
    view.lines,
  );
  expect(await faultsInAnyLight(page)).toEqual([]);
  const { deciders } = (await administrator.ask(`/api/rounds/one/${round}/deciders`)).answer;
  people = deciders.map(({ address }: { address: string }) => address).filter(Boolean);
  demo.latch("tick");
  await demo.until(async () => Boolean(await addressOf(people[0], NAME)), "mail those who decide");
});

test("one owner decides on a phone, without an account: what they end is dead, what they tighten asks for a password", async () => {
  const address = await addressOf(people[0], NAME);
  const phone = await (await browser.createBrowserContext()).newPage();
  await phone.setViewport({ width: 390, height: 844 });
  await openOn(phone, address);
  await showsOn(phone, "need a decision by");
  expect(await faultsInAnyLight(phone)).toEqual([]);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const [first, second] = await linesOf(address);
  const before = await linkIn(first.shareId);
  expect((await fetch(before.address!)).status).toBeLessThan(402);
  const inCard = (name: string, at: number) => `((//article[.//h3[contains(., "${name}")]])[${at}])`;
  const pressOn = async (xpath: string) => phone.locator(`::-p-xpath(${xpath})`).click();
  await pressOn(`${inCard(first.itemName, 1)}//button[.="End"]`);
  await showsOn(phone, "1 of");
  const same = first.itemName === second.itemName ? 2 : 1;
  await pressOn(`${inCard(second.itemName, same)}//button[.="Tighten…"]`);
  await pressOn(`${inCard(second.itemName, same)}//label[contains(., "Set a password")]`);
  await pressOn(`${inCard(second.itemName, same)}//button[.="Tighten"]`);
  await showsOn(phone, "2 of");
  await pressOn(`//button[.="Finish…"]`);
  await showsOn(phone, "You end 1 and tighten 1.");
  expect(await faultsOf(phone)).toEqual([]);
  await pressOn(`//button[.="Confirm and finish"]`);
  await demo.until(async () => Boolean((await linkIn(first.shareId)).revokedAt), "end it in the store");
  await demo.until(async () => (await linkIn(second.shareId)).password, "give it a password in the store");
  expect((await fetch(before.address!)).status).toBe(410);
  expect((await fetch((await linkIn(second.shareId)).address!)).status).toBe(401);
  await phone.close();
});

test("another passes one on, and keeps the others without looking; a forged address opens nothing", async () => {
  const address = await addressOf(people[1], NAME);
  await openOn(page, address);
  const lines = await linesOf(address);
  await button("Pass on…", "//article").click();
  await page.locator("input[type=email]").fill(people[2]);
  await page.locator("form input:not([type=email])").fill("It belongs to your tour");
  await button("Pass on", "//article").click();
  await demo.until(async () => (await linesOf(address)).length === lines.length - 1, "pass it on");
  const rest = await linesOf(address);
  const keep = { decision: "keep", until: inDays(100), reason: "Needed" };
  expect(await byMail(address, "decide", { lines: named(rest), decision: keep })).toEqual({
    decided: rest.length,
    not: [],
  });
  const { digest } = await byMail<{ digest: string }>(address, "finishing");
  await byMail(address, "finish", { digest });
  const forged = await byMail<{ error: string }>(`${address.slice(0, -3)}abc`, "page", { dates: {} });
  expect(forged.error).toContain("no longer works");
  // What was finished once can't be again by the same words: there is nothing left of it.
  expect(await byMail(address, "finish", { digest })).toMatchObject({ error: expect.stringContaining("have changed") });
  expect((await viewOf(round)).passed).toBe(1);
});

test("the second look finds what was kept blindly, and the record says so", async () => {
  await openOn(page, `${demo.url}/rounds/${round}`);
  await page.locator("::-p-xpath(//button[starts-with(., 'Draw a sample')])").click();
  await showsOn(page, "Would you have kept these?");
  expect(await faultsInAnyLight(page)).toEqual([]);
  await button("End").click();
  await showsOn(page, "1 decided differently");
  expect((await viewOf(round)).looks).toMatchObject([{ decided: 1, differ: 1 }]);
});

test("killed in the middle of decisions, nothing that was saved is lost", async () => {
  const address = await addressOf(people[3], NAME);
  const [first] = await linesOf(address);
  const decided = byMail<{ decided: number }>(address, "decide", {
    lines: named([first]),
    decision: { decision: "end" },
  }).catch(() => null);
  await demo.killApplication();
  const answer = await decided;
  const { state } = (await linesOf(address)).find(({ shareId }) => shareId === first.shareId)!;
  if (answer) expect([answer.decided, state]).toEqual([1, "ended"]);
  else expect(["open", "ended"]).toContain(state);
  const { answer: ledger } = await administrator.ask(
    `/api/ledger?q=${encodeURIComponent(`lines decided ${people[3]}`)}`,
  );
  type Entry = { body: { name: string; shares: string[] } };
  const told = ledger.entries.filter(({ body }: Entry) => body.name === NAME && body.shares.includes(first.shareId));
  expect(told).toHaveLength(state === "ended" ? 1 : 0);
});

test("killed while it opens, a round begins anew and has each share once", async () => {
  administrator = await demo.signIn(ADMINISTRATOR);
  const asked = { ...(await viewOf(round)).asked, name: "Everything outside", query: "outside:yes", opens: NOW };
  const { answer } = await administrator.ask("/api/rounds", asked);
  await demo.killApplication();
  const id = String(answer.id);
  await demo.until(async () => (await viewOf(id)).state === "open", "open it after all");
  const { answer: found } = await administrator.ask("/api/register/ids?query=outside%3Ayes");
  const view = await viewOf(id);
  expect(view.lines).toBe(found.ids.length);
  expect(Object.values(view.counts).reduce((sum, count) => sum + count)).toBe(found.ids.length);
  const { answer: ledger } = await administrator.ask("/api/ledger?q=round+opened");
  expect(JSON.stringify(ledger).split(view.hash!).length - 1).toBe(1);
  expect((await administrator.ask(`/api/rounds/one/${id}/stop`, {})).status).toBe(200);
});

test("a third does nothing: when its time is over it closes by the clock, is killed at that, and ends in one docket", async () => {
  const third = await linesOf(await addressOf(people[2], NAME));
  const open = third.filter(({ state }) => state === "open");
  await demo.restartAt(inDays(15));
  await demo.killApplication();
  administrator = await demo.signIn(ADMINISTRATOR);
  await demo.until(async () => (await viewOf(round)).state === "closed", "close by the clock");
  const view = await viewOf(round);
  expect(view.counts.open).toBe(0);
  expect(Object.values(view.counts).reduce((sum, count) => sum + count)).toBe(view.lines);
  await demo.until(async () => {
    const { progress } = (await administrator.ask(`/api/dockets/${view.docketId}`)).answer;
    return progress.state === "done";
  }, "carry out what the close brought");
  const orders = (await administrator.ask("/api/orders")).answer.orders as { shareId: string }[];
  const links = await Promise.all(open.map(({ shareId }) => linkIn(shareId)));
  const endless = links.filter(
    // The demo's own round closes then too, and may have ended one of them.
    ({ id, expiresAt, revokedAt }) => !expiresAt && !revokedAt && !orders.some(({ shareId }) => shareId === id),
  );
  expect(endless).toEqual([]);
  const { answer: dockets } = await administrator.ask("/api/dockets");
  const closing = dockets.dockets.filter(({ name }: { name: string | null }) => name === `Round “${NAME}”: closed`);
  expect(closing).toHaveLength(1);
  const { answer: ledger } = await administrator.ask("/api/ledger?q=round+closed");
  expect(ledger.entries.filter(({ body }: { body: { name: string } }) => body.name === NAME)).toHaveLength(1);
});

test("whoever signs in as an owner finds the same under My shares", async () => {
  const theirs = await (await browser.createBrowserContext()).newPage();
  await signInOn(theirs, demo.url, "sanne.eastermark@wrenmoor.example", PASSWORD, "nav[aria-label='Your shares']");
  await showsOn(theirs, "Confidential and restricted, shared outside");
  expect(await faultsInAnyLight(theirs)).toEqual([]);
});

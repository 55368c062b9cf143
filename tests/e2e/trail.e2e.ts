import SQLite from "better-sqlite3";
import { parse } from "csv-parse/sync";
import { readEstateFile } from "@/core/estate/estateFile";
import type { Browser, Page } from "puppeteer-core";
import { faultsInAnyLight, faultsOf, hasOn, holdsOn, openBrowser, openOn, readyOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, AUDITOR, Demo, PASSWORD, type Session } from "./demo";

/** Somebody shares outside in a store; within seconds it is known, told, and taken back. And what was long before. */
const demo = new Demo({ LATCH_WATCH_EVERY: "1" });
const WATCH = "Open link to sensitive items";
let browser: Browser;
let page: Page;
let administrator: Session;
let auditor: Session;
/** A sensitive file, and somebody of the house. */
let item: { itemId: string; itemName: string };
let maker: string;

jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
  auditor = await demo.signIn(AUDITOR);
  const { answer } = await administrator.ask("/api/register?query=label:restricted%20kind:file%20store:Stacks&count=1");
  item = answer.page[0].row;
  const form = { search: "verb=shared-open&store=stacks", format: "jsonl" };
  const { bytes } = await administrator.download("/api/trail/export", form);
  // The first line is the file's head. Its store knows whoever it was without the prefix that tells stores apart.
  maker = JSON.parse(bytes.toString().split("\n")[1]).actorId.replace(/^stacks:/, "");
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const shows = (text: string) => showsOn(page, text);
const button = (words: string) => page.locator(`::-p-xpath(//button[normalize-space(.)="${words}"])`);
const shareOpenly = () =>
  demo.askStore<{ id: string; address: string }>("stacks", "/api/shares", {
    itemId: item.itemId,
    by: maker,
    reach: "open",
  });
const toldOf = async (words: string) => (await demo.mails()).filter(({ subject }) => subject.includes(words));

test("a share made in a store is on the Desk and in the mail within seconds, and five keys take it back", async () => {
  await openOn(page, `${demo.url}/desk`);
  const before = (await toldOf(item.itemName)).length;
  const { address, id } = await shareOpenly();
  expect((await fetch(address)).status).toBe(200);
  await holdsOn(page, (name) => document.querySelector("main ul li a")?.textContent?.includes(name), item.itemName);
  await demo.until(async () => (await toldOf(item.itemName)).length > before, "send a mail");
  const [mail] = await toldOf(item.itemName);
  expect([mail.to, mail.subject]).toEqual([
    ADMINISTRATOR,
    expect.stringMatching(new RegExp(`^Urgent: .* made an open link to `)),
  ]);

  await page.focus("main ul li a");
  await page.keyboard.press("Enter");
  await holdsOn(page, () => document.activeElement?.getAttribute("role") === "listbox");
  await page.keyboard.press("x");
  await shows("1 address stops working for good.");
  await page.keyboard.down("Control");
  await page.keyboard.press("Enter");
  await page.keyboard.up("Control");
  await shows("Apply 1 change, now?");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await shows("Applied: 1 of 1 change done.");
  expect((await fetch(address)).status).toBe(410);
  // What the revoke itself does in the store comes back as an event.
  await demo.until(
    async () =>
      (await administrator.ask(`/api/trail?search=${encodeURIComponent(`share=${id}&verb=revoked`)}`)).answer.events
        .length === 1,
    "hear of the revoke",
  );
});

test("the address in a mail marks its alert as seen, for whoever holds it, once it is pressed", async () => {
  const [mail] = await toldOf(item.itemName);
  const alert = Number(mail.text.match(/alerts\?alert=(\d+)/)![1]);
  const stranger = await (await browser.createBrowserContext()).newPage();
  await openOn(stranger, mail.text.match(/http\S+\/seen#\S+/)![0]);
  expect((await auditor.ask(`/api/alerts/${alert}`)).answer.state).toBe("new");
  expect(await faultsOf(stranger)).toEqual([]);
  await stranger.locator("button").click();
  await showsOn(stranger, "Marked as seen. There is nothing more to do here.");
  expect((await auditor.ask(`/api/alerts/${alert}`)).answer.state).toBe("seen");
  await openOn(stranger, `${demo.url}/seen#nonsense.nonsense.nonsense`);
  await stranger.locator("button").click();
  await showsOn(stranger, "This address no longer works. Sign in to see the alert.");
});

test("the cap holds at the 21st message, and the digest lists the rest", async () => {
  // Some alerts were raised while the demo was made, and count for today.
  const told = toldToday();
  const ids: string[] = [];
  for (let i = told; i < 20 + 4; i++) ids.push((await shareOpenly()).id);
  type Alert = { id: number; shareId: string };
  let raised: Alert[] = [];
  await demo.until(async () => {
    const { alerts }: { alerts: Alert[] } = (await auditor.ask("/api/alerts")).answer;
    raised = alerts.filter(({ shareId }) => ids.includes(shareId));
    return raised.length === ids.length;
  }, "raise all alerts");
  const mailsOfRaised = async () => {
    const texts = (await toldOf("made an open link")).map(({ text }) => text);
    return raised.filter(({ id }) => texts.some((text) => text.includes(`alerts?alert=${id}\n`))).length;
  };
  await demo.until(async () => (await mailsOfRaised()) === 20 - told, "send the twentieth");
  await openOn(page, `${demo.url}/trail/watches`);
  await shows("4 messages held for a digest.");
  await button("Send the digest now").click();
  await demo.until(async () => (await toldOf(WATCH)).length === 1, "send the digest");
  const [digest] = await toldOf(WATCH);
  expect(digest.subject).toBe(`4 more alerts: ${WATCH}`);
  expect(digest.text.match(/Open it:/g)).toHaveLength(4);
  expect(await mailsOfRaised()).toBe(20 - told);
});

/** How many messages the watch has sent today, or is about to: those its cap counts. */
function toldToday(): number {
  const db = new SQLite(demo.databasePath, { readonly: true });
  const told = db
    .prepare(
      "select count(*) from notice join watch on watch.id = watch_id where watch.name = ? and notice.state != 'held'",
    )
    .pluck()
    .get(WATCH);
  db.close();
  return Number(told);
}

test("the trail is searched by words, narrowed by what happened, and told like with like", async () => {
  await openOn(page, `${demo.url}/trail`);
  await hasOn(page, "[data-query]");
  await page.type("[data-query]", "passport");
  await page.keyboard.press("Enter");
  await holdsOn(page, () => location.search.includes("q=passport"));
  await page.locator(`::-p-xpath(//nav//button[contains(., "Opened")])`).click();
  await holdsOn(page, () => location.search.includes("verb=opened"));
  const { found, total } = (
    await auditor.ask(`/api/trail/counts?search=${encodeURIComponent("q=passport&verb=opened")}`)
  ).answer;
  expect(found).toBeGreaterThan(0);
  await shows(`${found.toLocaleString("en-GB")} of ${total.toLocaleString("en-GB")} events`);
  const { events } = (await auditor.ask(`/api/trail?search=${encodeURIComponent("q=passport&verb=opened")}&count=500`))
    .answer;
  expect(events).toHaveLength(found);
  await page.locator("input[type=checkbox]").click();
  await holdsOn(page, () => /Opened \d+ times|twice/.test(document.body.innerText));
  await page.focus("[aria-label='Events: from']");
  await page.keyboard.press("ArrowRight");
  await holdsOn(page, () => /from=\d+/.test(location.search));
  await openOn(page, `${demo.url}/trail?q=passport&verb=opened`);
  await page.locator(`::-p-xpath(//li//a[normalize-space(.)="Open link"])`).click();
  await shows("The estate as it was on");
});

test("what was found goes out as CSV and as events of an estate file, and the ledger says so", async () => {
  const search = "verb=downloaded&label=restricted";
  const { found } = (await auditor.ask(`/api/trail/counts?search=${encodeURIComponent(search)}`)).answer;
  const csv = await auditor.download("/api/trail/export", { search, format: "csv" });
  const lines: Record<string, string>[] = parse(csv.bytes, { bom: true, columns: true });
  expect([lines.length, new Set(lines.map(({ Verb, Label }) => `${Verb} ${Label}`))]).toEqual([
    found,
    new Set(["downloaded restricted"]),
  ]);
  const jsonl = await auditor.download("/api/trail/export", { search, format: "jsonl" });
  const { problems, records } = readEstateFile(jsonl.bytes.toString().trim().split("\n"));
  const told = records.map((one) => `${one.type} ${one.type === "event" ? one.verb : ""}`);
  expect([problems, told]).toEqual([[], ["estate ", ...Array(found).fill("event downloaded")]]);
  const { entries } = (await auditor.ask("/api/ledger")).answer;
  const entry = entries.find(({ kind }: { kind: string }) => kind !== "read-by-auditor");
  expect(entry).toMatchObject({ kind: "trail-exported", actor: AUDITOR, body: { search, events: found } });
});

test("a search becomes a watch, is tried on the past, and is kept; an auditor can't", async () => {
  await openOn(page, `${demo.url}/trail?verb=downloaded&party=denied`);
  await page.locator("::-p-xpath(//a[text()='Make this a watch'])").click();
  await shows("A new watch");
  // Its button moves as long as the list beside it loads.
  await readyOn(page);
  await button("Try it on the last 90 days").click();
  await holdsOn(page, () => /It would have raised \d+ alerts? in the last 90 days/.test(document.body.innerText));
  await page.type("form input", "Downloads by denied parties");
  await button("Save and switch on").click();
  await holdsOn(page, () =>
    [...document.querySelectorAll("main li b")].some((one) => one.textContent === "Downloads by denied parties"),
  );
  const { watches } = (await auditor.ask("/api/watches")).answer;
  const kept = watches.find(({ name }: { name: string }) => name === "Downloads by denied parties");
  expect((await auditor.ask("/api/watches", { ...kept, isOn: false })).status).toBe(403);
  expect((await auditor.ask(`/api/watches/${kept.id}`, undefined, "DELETE")).status).toBe(403);
  expect((await auditor.ask("/api/channels")).status).toBe(403);
  const tooMany = { ...kept, watch: { ...kept.watch, mostADay: 0 } };
  expect((await administrator.ask("/api/watches", tooMany)).status).toBe(400);
  expect((await administrator.ask(`/api/watches/${kept.id}`, undefined, "DELETE")).status).toBe(200);
});

test("an alert is settled with a note, and mail is tried out where it is set", async () => {
  const [{ id }] = (await auditor.ask("/api/alerts")).answer.alerts;
  await openOn(page, `${demo.url}/alerts?alert=${id}`);
  await page.locator("aside input").fill("Asked for by the press office");
  await button("Settle").click();
  await demo.until(async () => (await auditor.ask(`/api/alerts/${id}`)).answer.state === "settled", "settle it");
  expect((await administrator.ask("/api/alerts", { ids: [id], does: { act: "settle", note: " " } })).status).toBe(400);
  expect((await administrator.ask("/api/alerts", { ids: [id, 999_999], does: { act: "see" } })).status).toBe(404);
  await openOn(page, `${demo.url}/estate/messages`);
  await button("Send me a test mail").click();
  await shows(`Sent to ${ADMINISTRATOR}.`);
  expect(await toldOf("A test from Tight Latch")).toHaveLength(1);
});

test("axe finds nothing on the Desk, the trail, the watches and the alerts, in the light and in the dark", async () => {
  for (const path of [
    "/desk",
    "/trail",
    "/trail?q=nothing-at-all",
    "/trail?verb=opened&like=yes",
    "/alerts",
    "/estate/messages",
  ]) {
    await openOn(page, demo.url + path);
    expect([path, await faultsInAnyLight(page)]).toEqual([path, []]);
  }
  await openOn(page, `${demo.url}/trail/watches`);
  await page.locator(`[aria-label="Change ${WATCH}"]`).click();
  await shows("Change a watch");
  expect(await faultsInAnyLight(page)).toEqual([]);
});

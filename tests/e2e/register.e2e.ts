import { parse } from "csv-parse/sync";
import type { Browser, Page } from "puppeteer-core";
import { readEstateFile } from "@/core/estate/estateFile";
import {
  addressHasOn,
  faultsInAnyLight,
  faultsOf,
  hasOn,
  holdsOn,
  openBrowser,
  openOn,
  readyOn,
  showsOn,
} from "./browser";
import { ADMINISTRATOR, AUDITOR, Demo, NOW, PASSWORD, type Session } from "./demo";

/** The register as somebody works in it all Friday: by keyboard alone, with queries that are kept and lists that go out. */
const demo = new Demo();
const UNUSED = "reach:open -used:<45d label:restricted,confidential";
let browser: Browser;
let page: Page;
let administrator: Session;
let auditor: Session;

jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  ({ browser, page } = await openBrowser());
  administrator = await demo.signIn(ADMINISTRATOR);
  auditor = await demo.signIn(AUDITOR);
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

const shows = (text: string) => showsOn(page, text);
const focused = () => page.evaluate(() => document.activeElement?.textContent ?? "");

/** Goes on with Tab until what has the focus says some words. */
async function tabTo(words: string) {
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press("Tab");
    if ((await focused()).includes(words)) return;
  }
  throw new Error(`Tab never came to ${words}`);
}

test("by keyboard alone: sign in, ask, mark, look, stage, apply", async () => {
  await openOn(page, `${demo.url}/register`);
  await page.focus("input[name=email]");
  await page.keyboard.type(ADMINISTRATOR);
  await page.keyboard.press("Tab");
  await page.keyboard.type(PASSWORD);
  await page.keyboard.press("Enter");
  const { total } = (await administrator.ask("/api/register")).answer;
  const all = total.toLocaleString("en-GB");
  await shows(`${all} of ${all} shares`);

  await page.keyboard.press("/");
  await page.keyboard.type("reach:op");
  await hasOn(page, "[role=option]");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.keyboard.type(UNUSED.slice("reach:open".length));
  await page.keyboard.press("Enter");
  await holdsOn(page, (query) => new URLSearchParams(location.search).get("q") === query, UNUSED);
  const { found } = (await administrator.ask(`/api/register?query=${encodeURIComponent(UNUSED)}`)).answer;
  await shows(`${found} of ${all} shares`);

  await page.keyboard.press("Enter");
  await shows("Changes");
  await page.keyboard.press("Escape");
  await page.keyboard.press("a");
  await shows(`${found} marked`);
  await page.keyboard.press("x");
  await shows(`${found} changes.`);
  await tabTo(`Apply ${found} changes`);
  await page.keyboard.press("Enter");
  await shows(`Apply ${found} changes, now?`);
  await tabTo("Apply");
  await page.keyboard.press("Enter");
  await shows(`Applied: ${found} of ${found} changes done.`);
  await shows("No shares match");
});

test("the funnel narrows by keys, and its counts are those of the list", async () => {
  await openOn(page, `${demo.url}/register`);
  await shows("How it lets people in");
  await page.focus('nav[aria-label="Narrow down"] button');
  await tabTo("House");
  const count = (await focused()).match(/\d+/)![0];
  await page.keyboard.press("Enter");
  await shows(`${count} of`);
  await addressHasOn(page, "q", "reach:house");
  // Its own choice is left out of its counts.
  await shows("Named");
  await page.focus('[aria-label="Made: from"]');
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowRight");
  await holdsOn(page, () => new URLSearchParams(location.search).get("q")?.includes("made:>=30d"));
});

test("groups open and shut by keys, and the folder tree leads down to shares", async () => {
  await openOn(page, `${demo.url}/register?group=folder&q=reach%3Aopen`);
  await page.focus("[data-table]");
  for (let depth = 0; depth < 4; depth++) {
    await holdsOn(page, (at) => document.querySelector(`#row-${at}[aria-expanded=false]`) !== null, depth);
    await page.keyboard.press("ArrowRight");
    await holdsOn(page, (at) => document.querySelector(`#row-${at}[aria-expanded=true]`) !== null, depth);
    await page.keyboard.press("ArrowDown");
    if (await page.evaluate((at) => document.querySelector(`#row-${at} input`) !== null, depth + 1)) break;
  }
  await hasOn(page, "[data-table] [role=row] input[type=checkbox]");
  expect(await faultsOf(page)).toEqual([]);
});

test("columns, widths and density stay as they were set", async () => {
  await openOn(page, `${demo.url}/register`);
  await page.locator("::-p-xpath(//button[text()='Columns'])").click();
  await page.locator("::-p-xpath(//label[contains(., 'Findings')]/input)").click();
  await page.locator("::-p-xpath(//label[contains(., 'Compact rows')]/input)").click();
  await page.locator('[aria-label="Make Risk wider"]').click();
  await demo.until(async () => {
    const { answer } = await administrator.ask("/api/register/settings", {});
    return answer.table?.isCompact === true && answer.table.widths.risk > 0;
  }, "keep the table");
  await page.reload({ waitUntil: "domcontentloaded" });
  await readyOn(page);
  await holdsOn(page, () =>
    [...document.querySelectorAll("[role=columnheader]")].some((one) => one.textContent === "Findings"),
  );
  expect(await page.evaluate(() => document.querySelector<HTMLElement>("#row-1")!.offsetHeight)).toBe(30);
});

test("a query is kept, counted, begun with, and dropped; only administrators keep one for all", async () => {
  const keep = (name: string, forAll: boolean) => ({ name, view: "q=reach%3Ahouse&sort=ends", forAll });
  expect((await auditor.ask("/api/queries", keep("Theirs", true))).status).toBe(403);
  expect((await auditor.ask("/api/queries", keep("Theirs", false))).status).toBe(200);
  expect((await administrator.ask("/api/queries", keep("House links", true))).status).toBe(200);
  const { queries } = (await administrator.ask("/api/queries")).answer;
  const { found } = (await administrator.ask("/api/register?query=reach:house")).answer;
  expect(queries).toEqual([expect.objectContaining({ name: "House links", forAll: true, isOwn: true, count: found })]);
  expect((await auditor.ask("/api/queries")).answer.queries).toHaveLength(2);
  expect((await auditor.ask(`/api/queries/${queries[0].id}`, undefined, "DELETE")).status).toBe(404);

  await administrator.ask("/api/register/settings", { start: queries[0].id }, "PUT");
  await openOn(page, `${demo.url}/register`);
  await holdsOn(page, () => location.search.includes("reach:house") && location.search.includes("sort=ends"));
  await administrator.ask(`/api/queries/${queries[0].id}`, undefined, "DELETE");
  expect((await administrator.ask("/api/queries")).answer.queries).toEqual([]);
});

test("a note and a waiver are kept, shown and in the ledger; an auditor can leave neither", async () => {
  const first = (await administrator.ask("/api/register?query=rule:open-password&count=1")).answer.page[0].row;
  const at = `/api/shares/${first.id}`;
  const given = { rules: ["open-password"], reason: "Press kit, on purpose", until: "2026-12-24T00:00:00Z" };
  const waiver = { shareIds: [first.id], ...given };
  expect((await auditor.ask(`${at}/notes`, { text: "mine" })).status).toBe(403);
  expect((await auditor.ask("/api/waivers", waiver)).status).toBe(403);
  expect((await administrator.ask(`${at}/notes`, { text: "Asked its maker" })).status).toBe(200);
  const late = await administrator.ask("/api/waivers", { ...waiver, until: "2026-11-22T00:00:00Z" });
  expect([late.status, late.answer.error]).toEqual([400, "until: choose a time in the future."]);
  expect((await administrator.ask("/api/waivers", { ...waiver, shareIds: ["nothing"] })).answer.given).toBe(0);
  expect((await administrator.ask("/api/waivers", { ...given, query: "made:>0d", shareIds: ["x"] })).status).toBe(400);
  expect((await administrator.ask("/api/waivers", waiver)).answer.given).toBe(1);

  const { row, notes, waivers } = (await auditor.ask(at)).answer;
  expect([row.waived, row.latches.password, row.rules.includes("open-password")]).toEqual([
    ["open-password"],
    "waived",
    false,
  ]);
  expect([notes[0].text, waivers[0].reason, waivers[0].isOver]).toEqual(["Asked its maker", waiver.reason, false]);
  expect((await auditor.ask("/api/register?query=waived:open-password")).answer.found).toBe(1);

  await openOn(page, `${demo.url}/register?share=${first.id}`);
  await shows(waiver.reason);
  expect(await faultsOf(page)).toEqual([]);
  expect((await administrator.ask("/api/waivers", { ids: [waivers[0].id] }, "DELETE")).status).toBe(200);
  expect((await auditor.ask("/api/register?query=waived:open-password")).answer.found).toBe(0);
  // Rounds of the demo may have entries of their own meanwhile.
  const kinds = (await auditor.ask("/api/ledger")).answer.entries
    .map((entry: { kind: string }) => entry.kind)
    .filter((kind: string) => !kind.startsWith("lines-") && kind !== "read-by-auditor");
  expect(kinds.slice(0, 3)).toEqual(["waivers-ended", "waivers-given", "note-left"]);
});

test("what a query finds goes out as CSV, XLSX and JSON Lines, and the ledger says so", async () => {
  const query = "store:Stacks reach:named";
  const { found } = (await auditor.ask(`/api/register?query=${encodeURIComponent(query)}`)).answer;
  const csv = await auditor.download("/api/register/export", { query, order: "ends,-made", format: "csv" });
  const lines: Record<string, string>[] = parse(csv.bytes, { bom: true, columns: true });
  expect([csv.type, lines.length]).toEqual(["text/csv; charset=utf-8", found]);
  expect(new Set(lines.map((line) => line.Store))).toEqual(new Set(["Stacks"]));
  expect(csv.bytes.toString()).not.toContain("/l/");
  const xlsx = await auditor.download("/api/register/export", { query, order: "risk", format: "xlsx" });
  expect(xlsx.bytes.subarray(0, 2).toString()).toBe("PK");

  const jsonl = await auditor.download("/api/register/export", { query, order: "risk", format: "jsonl" });
  const { records, problems } = readEstateFile(jsonl.bytes.toString().trim().split("\n"));
  expect([problems, records[0]]).toEqual([[], expect.objectContaining({ type: "estate", asOf: NOW })]);
  expect(records.filter(({ type }) => type === "link" || type === "grant")).toHaveLength(found);
  expect(records.some((record) => record.type === "link" && record.address)).toBe(false);

  const at = "2026-09-01T12:00:00Z";
  const past = await auditor.download(`/api/register/export?at=${at}`, { query, order: "risk", format: "jsonl" });
  const then = readEstateFile(past.bytes.toString().trim().split("\n"));
  expect([then.problems, then.records[0]]).toEqual([[], expect.objectContaining({ asOf: at })]);
  const shares = then.records.filter(({ type }) => type === "link" || type === "grant");
  expect(shares).toHaveLength(
    (await auditor.ask(`/api/register?query=${encodeURIComponent(query)}&at=${at}`)).answer.found,
  );

  const bad = await auditor.download("/api/register/export", { query: "rech:open", order: "risk", format: "csv" });
  expect(bad.bytes.toString()).toContain("Nothing was exported: there is no field rech");
  const { entries } = (await auditor.ask("/api/ledger")).answer;
  const entry = entries.find(({ kind }: { kind: string }) => kind !== "read-by-auditor");
  expect(entry).toMatchObject({
    kind: "register-exported",
    actor: AUDITOR,
    body: { query, at, format: "jsonl", shares: shares.length },
  });
});

test("axe finds nothing on the register's screens, in the light and in the dark", async () => {
  for (const path of [
    "/register?q=outside%3Ayes",
    "/register/public?at=2025-03-03T12:00:00Z",
    "/register/print?q=reach%3Aintake",
    "/register?q=rech%3Aopen",
  ]) {
    await openOn(page, demo.url + path);
    expect([path, await faultsInAnyLight(page)]).toEqual([path, []]);
  }
  // Behind the menus stands what was looked at above: a few rows will do.
  await openOn(page, `${demo.url}/register?q=reach%3Aintake`);
  for (const menu of ["Columns", "Export", "Saved queries", "Search help"]) {
    await page.locator(`::-p-xpath(//button[text()='${menu}'])`).click();
    await hasOn(page, "[role=dialog]");
    expect([menu, await faultsInAnyLight(page)]).toEqual([menu, []]);
    await page.keyboard.press("Escape");
    await holdsOn(page, () => document.querySelector("[role=dialog]") === null);
  }
});

import { writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Browser, Page } from "puppeteer-core";
import { HOSTILE, LYING } from "../corpus";
import { head, file, item, link, named, person, store } from "../records";
import { hasOn, openBrowser, openOn, showsOn, signInOn } from "./browser";
import { ADMINISTRATOR, Demo, PASSWORD, type Session } from "./demo";

/** Names that lie, over every screen: nothing of them runs, and the page's policy has nothing to stop. */
const demo = new Demo();
let browser: Browser;
let page: Page;
let administrator: Session;

jest.setTimeout(300_000);

beforeAll(async () => {
  await demo.start();
  const records = [
    head(["wrenmoor.example"]),
    { ...store("odd"), name: HOSTILE[5] },
    ...HOSTILE.flatMap((name, n) => [
      person(`p${n}`, `p${n}@quay.example`, { name, department: name }),
      item(`d${n}`, null, { storeId: "odd", name }),
      file(`f${n}`, `d${n}`, { storeId: "odd", name, label: "restricted" }),
      link(`l${n}`, `f${n}`, { createdBy: `p${n}` }),
      named(`n${n}`, `f${n}`, [`p${n}@quay.example`], { createdBy: `p${n}` }),
    ]),
  ];
  const path = join(demo.data, "corpus.jsonl");
  writeFileSync(path, records.map((record) => JSON.stringify(record)).join("\n"));
  demo.latch("import", path, "--as", "corpus", "--lenient");
  ({ browser, page } = await openBrowser());
  await page.evaluateOnNewDocument(() => {
    const seen = window as unknown as { broken: string[] };
    seen.broken = [];
    document.addEventListener("securitypolicyviolation", ({ violatedDirective, blockedURI, sourceFile }) =>
      seen.broken.push(`${violatedDirective} ${blockedURI} ${sourceFile}`),
    );
  });
  administrator = await demo.signIn(ADMINISTRATOR);
  await administrator.ask("/api/reading", "POST");
  await signInOn(page, demo.url, ADMINISTRATOR, PASSWORD);
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await demo.remove();
}, 60_000);

/** What is wrong with the page that is open. */
const wrongs = async () => {
  const { broken, ran } = await page.evaluate(() => {
    const { broken, ran } = window as unknown as { broken: string[]; ran?: number };
    return { broken, ran: ran ?? 0 };
  });
  const text = await page.evaluate(() => document.body.innerText);
  const lying = text.split("\n").filter((line) => LYING.test(line.replaceAll("\t", " ")));
  return { broken, ran, lying };
};
const NOTHING_WRONG = { broken: [], ran: 0, lying: [] };

test("every screen shows them, and nothing comes of it", async () => {
  const at = (path: string, parameters: Record<string, string>) => `${path}?${new URLSearchParams(parameters)}`;
  const { answer } = await administrator.ask(
    `/api/register?${new URLSearchParams({ query: "store:invoice", order: "item", count: "200" })}`,
  );
  const rows: { row: { id: string; itemId: string } }[] = answer.page;
  expect(rows).toHaveLength(HOSTILE.length * 2);
  await administrator.ask(
    "/api/tray",
    { changes: rows.slice(0, 40).map(({ row }) => ({ action: "revoke", shareId: row.id })) },
    "POST",
  );
  const paths = [
    at("/register", { q: "store:invoice" }),
    ...rows.filter((_, n) => n % 7 === 0).map(({ row }) => at("/register", { q: "store:invoice", share: row.id })),
    ...rows.filter((_, n) => n % 12 === 0).map(({ row }) => at("/ways", { item: row.itemId })),
    at("/ways", { person: "p5@quay.example" }),
    at("/register/print", { q: "store:invoice" }),
    ...["/register/public", "/desk", "/trail", "/trail/watches", "/alerts", "/rules", "/rules/waivers", "/ledger"],
    ...[
      ...["/estate", "/estate/accounts", "/estate/labels", "/estate/parties", "/estate/imports"],
      "/people",
      "/people/look-alikes",
      "/account",
      at("/register", { q: '"><img src=x onerror=window.ran=1>' }),
    ],
  ];
  for (const path of paths) {
    await openOn(page, demo.url + path);
    expect([path, await wrongs()]).toEqual([path, NOTHING_WRONG]);
  }
  await openOn(page, `${demo.url}/register?q=store%3Ainvoice`);
  await page.locator("::-p-xpath(//button[normalize-space(.)='Preview'])").click();
  await showsOn(page, "Who loses what");
  expect(await wrongs()).toEqual(NOTHING_WRONG);
});

test("menus, sheets and lists that float have styles that the page's policy lets through", async () => {
  await openOn(page, `${demo.url}/register`);
  for (const words of ["Columns", "Export"]) {
    await page.locator(`::-p-xpath(//button[contains(normalize-space(.), "${words}")])`).click();
    await hasOn(page, "[role=menu], [role=dialog]");
    await page.keyboard.press("Escape");
  }
  expect(await wrongs()).toEqual(NOTHING_WRONG);
  const answer = await fetch(`${demo.url}/sign-in`);
  const of = (name: string) => answer.headers.get(name);
  expect([of("cache-control"), of("cross-origin-opener-policy"), of("cross-origin-resource-policy")]).toEqual([
    expect.stringContaining("no-store"),
    "same-origin",
    "same-origin",
  ]);
  expect(of("content-security-policy")).not.toMatch(/script-src[^;]*unsafe|style-src [^;]*unsafe/);
});

import ExcelJS from "exceljs";
import { parse } from "csv-parse/sync";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { OPERATIONS } from "@/contract";
import { addressOf } from "@/contract/address";
import type { Operation } from "@/contract/operation";
import { noticeWords } from "@/core/changes/telling";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { noticesView, sendNotices } from "@/server/dockets/notices";
import { stage, trayOf } from "@/server/dockets/tray";
import { setChannels } from "@/server/messages/channels";
import { readNow } from "@/server/reading";
import { saveShipped } from "@/server/trail/shipped";
import { actorOf } from "./actor";
import { HOSTILE, LYING } from "./corpus";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, head, item, link, named, party, person, store, T } from "./records";

/** Names that lie go in by a store and a file; what is told of them to screens, mails, logs and tables doesn't lie. */
const ADA = "ada@home.example";
let house: House;
/** What begins a cell that a spreadsheet would run. */
const RUN = /^\s*[=+\-@＝＋－＠]/;

jest.setTimeout(120_000);

beforeAll(async () => {
  house = await openHouse(
    {
      stacks: [
        ...PEOPLE,
        ...HOSTILE.flatMap((name, n) => [
          person(`p${n}`, `p${n}@quay.example`, { name, department: name }),
          { type: "group" as const, id: `g${n}`, name },
          item(`d${n}`, null, { ...inStacks, name }),
          file(`f${n}`, `d${n}`, { ...inStacks, name, label: "confidential" }),
          link(`l${n}`, `f${n}`, { createdBy: `p${n}` }),
          named(`n${n}`, `f${n}`, [`p${n}@quay.example`], { createdBy: "ida" }),
        ]),
      ],
      alcoves: [{ ...store("alcoves"), name: HOSTILE[5] }],
      dock: [],
    },
    [
      head(),
      party("quay.example", "denied"),
      ...HOSTILE.slice(0, 3).map((name, n) => person(`x${n}`, `x${n}@home.example`, { name })),
    ],
  );
  house.app.actorFrom = async () => actorOf(ADA);
}, 120_000);
afterAll(() => house.close());

async function ask(operation: Operation, given: { params?: object; query?: object; body?: unknown } = {}) {
  const { url } = house.app.settings;
  const isForm = operation.sentBy === "form";
  const body = isForm ? new URLSearchParams(given.body as Record<string, string>) : JSON.stringify(given.body);
  const answer = await house.app.fetch(
    new Request(`${url}${addressOf(operation, given as never)}`, {
      method: operation.method,
      headers: { Origin: url, ...(!isForm && operation.body && { "Content-Type": "application/json" }) },
      ...(operation.body && { body }),
    }),
  );
  return { status: answer.status, bytes: Buffer.from(await answer.arrayBuffer()) };
}

/** Every text in an answer that lies. */
function lies(value: unknown, path = ""): string[] {
  if (typeof value === "string") return LYING.test(value) ? [`${path}: ${JSON.stringify(value.slice(0, 80))}`] : [];
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([name, one]) => lies(one, `${path}.${name}`));
}

test("no answer to a screen holds what can't be seen, or turns text round", async () => {
  await stage(
    house.app,
    ADA,
    HOSTILE.map((_, n) => ({ action: "revoke", shareId: `l${n}` })),
  );
  const docketId = (await trayOf(house.app, ADA)).docketId!;
  const { registerPage, facet, values, publicList, share, waysIn, find, tray, docket, entries, accounts } = OPERATIONS;
  const asked: [Operation, object][] = [
    [registerPage, { query: { order: "item", count: 500 } }],
    [facet, { query: { field: "store" } }],
    [values, { query: { field: "maker", text: "" } }],
    [publicList, {}],
    ...HOSTILE.flatMap((_, n): [Operation, object][] => [
      [share, { params: { id: `l${n}` } }],
      [share, { params: { id: `n${n}` } }],
      [waysIn, { query: { item: `f${n}` } }],
    ]),
    [waysIn, { query: { person: "p5@quay.example" } }],
    [find, { query: { text: "a" } }],
    [tray, {}],
    [docket, { params: { id: docketId }, query: {} }],
    [entries, { query: {} }],
    [accounts, {}],
    [OPERATIONS.stores, {}],
  ];
  let length = 0;
  for (const [operation, given] of asked) {
    const { status, bytes } = await ask(operation, given);
    expect([operation.path, given, status]).toEqual([operation.path, given, 200]);
    length += bytes.length;
    expect(lies(JSON.parse(bytes.toString()), operation.path)).toEqual([]);
  }
  expect(length).toBeGreaterThan(200_000);
});

test("a name is found by what can be seen of it", async () => {
  const found = async (query: string) =>
    JSON.parse((await ask(OPERATIONS.registerPage, { query: { query, order: "item", count: 9 } })).bytes.toString())
      .page.length;
  expect([await found("invoicegnp.exe"), await found("zerowidth"), await found("שנתית")]).toEqual([2, 2, 2]);
});

test.each(["csv", "xlsx"])(
  "no cell of a table as %s is run, however its cells are parted, and none is too long",
  async (format) => {
    const { bytes } = await ask(OPERATIONS.exportRegister, { body: { format } });
    const tables: string[][][] = [];
    if (format === "csv")
      for (const delimiter of [",", ";", "\t", "|"])
        tables.push(parse(bytes, { delimiter, bom: true, relax_quotes: true, relax_column_count: true }));
    else {
      const book = new ExcelJS.Workbook();
      await book.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer);
      const rows: string[][] = [];
      book.worksheets[0].eachRow((row) =>
        row.eachCell((cell) => void rows.push([cell.formula ?? "", String(cell.value)])),
      );
      expect(rows.filter(([formula]) => formula !== "")).toEqual([]);
      tables.push(rows.map(([, text]) => [text]));
    }
    // What is a text in a workbook runs nowhere; in CSV that is guessed.
    const runs = (cell: string) => format === "csv" && RUN.test(cell);
    for (const cells of tables) {
      expect(cells.length).toBeGreaterThan(HOSTILE.length);
      expect(cells.flat().filter((cell) => runs(cell) || cell.length > 32_767)).toEqual([]);
      expect(cells.flat().filter((cell) => LYING.test(cell))).toEqual([]);
    }
  },
);

test("no mail and no log holds a line, a recipient or a head that a name made", async () => {
  await saveShipped(house.db, ADA, { mail: [ADA], webhook: false, syslog: true, zone: "UTC" }, T - 86_400);
  await setChannels(house.app, { syslog: { to: "file", name: "alerts.log" } }, "tests");
  for (let n = 0; n < HOSTILE.length; n++) await house.share("stacks", { itemId: `f${n}`, by: `p${n}`, reach: "open" });
  await readNow(house.app);
  await house.tick();
  const docketId = (await trayOf(house.app, ADA)).docketId!;
  expect(await applyDocket(house.app, docketId, ADA)).toBe("begun");
  await allCarriedOut(house.app);
  const { telling } = await noticesView(house.app, docketId);
  const addresses = telling.owners.map(({ address }) => address);
  await sendNotices(
    house.app,
    docketId,
    { audience: "owners", ...noticeWords("owners", { name: null, reason: null }), addresses },
    ADA,
  );
  await house.tick();

  expect(house.mails.length).toBeGreaterThan(10);
  for (const { subject, text, html, to, cc, bcc, headers } of house.mails) {
    expect([LYING.test(subject!), /[\r\n]/.test(subject!), cc, bcc]).toEqual([false, false, undefined, undefined]);
    expect([to].flat().flatMap((one) => one!.value.map(({ address }) => address))).toHaveLength(1);
    expect(headers.has("set-cookie")).toBe(false);
    const forged = text!
      .split("\n")
      .filter((line) => LYING.test(line) || /^\s*(Bcc:|It has been approved|forged$)/.test(line));
    expect(forged).toEqual([]);
    expect(html ? /<script|<img|<style>\*/.test(html) : false).toBe(false);
  }
  const logs = readdirSync(house.app.settings.logs);
  expect(logs).toEqual(["alerts.log"]);
  const lines = readFileSync(join(house.app.settings.logs, "alerts.log"), "utf8").trimEnd().split("\n");
  expect(lines.length).toBeGreaterThan(10);
  expect(lines.filter((line) => !/^<\d+>1 /.test(line) || LYING.test(line.replaceAll("\ufeff", "")))).toEqual([]);

  const { bytes } = await ask(OPERATIONS.exportTrail, { body: { search: "", format: "csv" } });
  for (const delimiter of [",", ";", "\t", "|"]) {
    const cells: string[][] = parse(bytes, { delimiter, bom: true, relax_quotes: true, relax_column_count: true });
    expect(cells.flat().filter((cell) => RUN.test(cell) || LYING.test(cell))).toEqual([]);
  }
});

test("what somebody writes here themselves they are told to write so that it can be read", async () => {
  const texts = HOSTILE.filter((name) => LYING.test(name.replace(/[\r\n\t]/g, " ").trim()));
  expect(texts.length).toBeGreaterThan(8);
  const { leaveNote, saveQuery, saveWatch, giveWaivers, invite, setSelf, handleAlerts, decide } = OPERATIONS;
  const tell = OPERATIONS.sendNotices;
  for (const text of texts) {
    const answers = [
      await ask(leaveNote, { params: { id: "l0" }, body: { text } }),
      await ask(saveQuery, { body: { name: text, view: "q=reach:open", forAll: true } }),
      await ask(giveWaivers, { body: { shareIds: ["l0"], rules: null, reason: text, until: "2026-12-01T00:00:00Z" } }),
      await ask(invite, { body: { name: text, email: "new@home.example", role: "auditor" } }),
      await ask(setSelf, { body: { name: text } }),
      await ask(handleAlerts, { body: { ids: [1], does: { act: "settle", note: text } } }),
      await ask(decide, {
        body: {
          token: "a.b.c",
          answer: { decision: "keep", subject: "l0", reason: text, until: "2026-12-01T00:00:00Z" },
        },
      }),
      await ask(tell, {
        params: { id: "x" },
        body: { audience: "owners", subject: text, head: "Read this.", addresses: [ADA] },
      }),
      await ask(saveWatch, { body: { name: text, watch: {}, isOn: true } }),
    ];
    for (const { status, bytes } of answers) {
      expect([text, status]).toEqual([text, 400]);
      expect(bytes.toString()).toMatch(/invisible characters|half a character/);
      expect(lies(bytes.toString().replaceAll("\n", ""))).toEqual([]);
    }
  }
});

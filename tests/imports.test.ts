import Excel from "exceljs";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { importsOperations } from "@/contract/imports";
import { addressOf } from "@/contract/address";
import type { AnswerOf, Operation } from "@/contract/operation";
import { readEstateFile, recordLine } from "@/core/estate/estateFile";
import { guessHeadings } from "@/core/imports/headings";
import type { Mapping } from "@/core/imports/mapping";
import { proposeMapping } from "@/core/imports/propose";
import { takeList } from "@/server/directory/take";
import { importReport } from "@/server/imports";
import { checkReport } from "@/server/imports/check";
import { lookAt } from "@/server/imports/look";
import { takeReport } from "@/server/imports/take";
import { allCarriedOut, applyDocket } from "@/server/dockets/executor";
import { docketView } from "@/server/dockets/receipts";
import { stage, trayOf } from "@/server/dockets/tray";
import { exportEstate } from "@/server/records/exportEstate";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { actorOf } from "./actor";
import { type House, ONE_OF_EACH, openHouse } from "./house";

const ADA = "ada@home.example";
jest.setTimeout(20_000);
const folder = mkdtempSync(join(tmpdir(), "latch-reports-"));
let house: House;

beforeEach(async () => {
  house = await openHouse(ONE_OF_EACH);
  house.app.actorFrom = async () => actorOf(ADA);
});
afterEach(() => house.close());

const HEAD = "Path,Shared with,Role,Expires";
const csv = (...rows: string[]) => [HEAD, ...rows].join("\r\n");
const FIRST = csv(
  "/Archive/Tours/2024.pdf,ada@quay.example,view,2027-01-31",
  "/Archive/Tours,odo@quay.example,edit,",
  "/Archive,ida@home.example,manage,",
);

async function ask<O extends Operation>(
  operation: O,
  { query, body, file }: { query?: object; body?: object; file?: string } = {},
): Promise<AnswerOf<O>> {
  const type = file === undefined ? "application/json" : "application/octet-stream";
  const answer = await house.app.fetch(
    new Request(`${house.app.settings.url}${addressOf(operation, { query } as never)}`, {
      method: operation.method,
      headers: { Origin: house.app.settings.url, "Content-Type": type },
      ...(operation.method !== "GET" && { body: file ?? JSON.stringify(body ?? {}) }),
    }),
  );
  const told = await answer.json();
  if (!answer.ok) throw new Error(told.error);
  return told;
}

/** What came of what was begun. */
async function hand() {
  for (;;) {
    const { hand: now } = await ask(importsOperations.reportNow);
    if (!now?.step) return now!;
    await wait(20);
  }
}

function mappingFor({ rows, encoding, separator, sheet }: Awaited<ReturnType<typeof lookAt>>): Mapping {
  return proposeMapping(rows, guessHeadings(rows), { encoding, separator, sheet, zone: "UTC" });
}

/** Sends a report, has it read as it is proposed, and checked. */
async function check(text: string, more: Partial<Mapping> = {}) {
  const { file: _, ...look } = await ask(importsOperations.sendReport, { query: { name: "report.csv" }, file: text });
  const mapping = { ...mappingFor(look), ...more };
  await ask(importsOperations.checkReport, { body: { source: "archive", title: "The archive", mapping } });
  return hand();
}

async function take(given: { skips?: boolean; ended?: number | null } = {}) {
  const { outlook } = await hand();
  const body = { digest: outlook!.digest, mapping: "archive", skips: false, ended: null, ...given };
  await ask(importsOperations.takeReport, { body });
  return hand();
}

const reached = async (email: string) =>
  (await house.app.engine.ask("personTold", { address: email }))?.groups.map(({ name }) => name);
const sharesNow = async () =>
  (
    await house.db
      .selectFrom("fact")
      .select(["key", "body"])
      .where("source", "=", "archive")
      .where("to", "is", null)
      .where("type", "in", ["grant", "link"])
      .orderBy("key")
      .execute()
  ).map(({ key, body }) => {
    const { role, expiresAt, revokedAt } = JSON.parse(body);
    return [key, role, expiresAt, revokedAt ?? null];
  });

test("from a file to a judged store: looked at, mapped, checked, imported; then told in history, ledger and register", async () => {
  const { outlook } = await check(FIRST);
  expect(outlook).toMatchObject({
    ...{ rows: 3, understood: 3, refused: 0, endedCount: 0, held: 0 },
    ...{ items: { fresh: 3, changed: 0, same: 0 }, shares: { fresh: 3, changed: 0, same: 0 } },
  });
  expect(await sharesNow()).toEqual([]);
  expect(await take()).toMatchObject({ imported: { changed: 10, ended: 0, isStopped: false }, problem: null });
  expect(await sharesNow()).toEqual([
    ["/Archive · ida@home.example", "manage", null, null],
    ["/Archive/Tours · odo@quay.example", "edit", null, null],
    ["/Archive/Tours/2024.pdf · ada@quay.example", "view", "2027-01-31T23:59:59Z", null],
  ]);
  const { runs, mappings } = await ask(importsOperations.imports);
  expect(runs).toMatchObject([{ source: "archive", file: "report.csv", by: ADA, state: "done", rows: 3, changed: 10 }]);
  expect(mappings).toMatchObject([{ name: "archive", title: "The archive", savedBy: ADA }]);
  const [entry] = await entriesBefore(house.db, Infinity, 1);
  expect(entry).toMatchObject({ kind: "report-imported", actor: ADA, body: { file: "report.csv", changed: 10 } });
  const found = await house.app.engine.ask("personTold", { address: "odo@quay.example" });
  expect(found).toMatchObject({ insider: false, organisation: "quay.example" });
});

test("the same report again changes nothing; of the next, what it names no more has ended", async () => {
  await check(FIRST);
  await take();
  expect(await check(FIRST)).toMatchObject({ outlook: null, unchangedSince: house.app.clock.seconds() });
  const next = csv("/Archive/Tours/2024.pdf,ada@quay.example,edit,2027-01-31", "/Archive,ida@home.example,manage,");
  await house.later(1);
  const { outlook } = await check(next);
  expect(outlook).toMatchObject({
    ...{ shares: { fresh: 0, changed: 1, same: 1 }, endedCount: 1, held: 3 },
    ended: [{ item: "Tours", audience: "odo@quay.example" }],
  });
  await take();
  const at = house.app.clock.text();
  expect(await sharesNow()).toEqual([
    ["/Archive · ida@home.example", "manage", null, null],
    ["/Archive/Tours · odo@quay.example", "edit", null, at],
    ["/Archive/Tours/2024.pdf · ada@quay.example", "edit", "2027-01-31T23:59:59Z", null],
  ]);
  // It is there again.
  await check(FIRST);
  await take();
  expect((await sharesNow()).map(([, , , revokedAt]) => revokedAt)).toEqual([null, null, null]);
});

test("what was to be done by hand in a store that is known from reports is ticked off by the next one", async () => {
  await check(FIRST);
  await take();
  const [, , odo] = (await sharesNow()).map(([key]) => key as string).sort();
  await stage(house.app, ADA, [{ action: "revoke", shareId: odo }]);
  const { docketId } = await trayOf(house.app, ADA);
  await applyDocket(house.app, docketId!, ADA);
  await allCarriedOut(house.app);
  const states = async () =>
    (await docketView(house.app, docketId!)).receipts.map(({ state, probe }) => [state, probe]);
  expect(await states()).toEqual([["by-hand", null]]);
  await house.later(1);
  await check(FIRST.split("\r\n").slice(0, -1).concat("/Archive,ida@home.example,edit,").join("\r\n"));
  await take();
  expect(await states()).toEqual([["by-hand", null]]);
  await house.later(1);
  await check(
    FIRST.split("\r\n")
      .filter((row) => !odo.startsWith(row.split(",")[0] + " "))
      .join("\r\n"),
  );
  await take();
  expect(await states()).toEqual([["done", "The import of report.csv shows it."]]);
});

test("while rows can't be read nothing is imported, unless somebody skips them; and then nothing ends", async () => {
  await check(FIRST);
  await take();
  const { outlook } = await check(
    csv("/Archive,ida@home.example,manage,", "/Archive/Tours,odo@quay.example,edit,someday"),
  );
  expect(outlook).toMatchObject({
    problems: [{ line: 3, message: "“someday” in “Expires” isn’t a date" }],
    ...{ refused: 1, endedCount: 0 },
  });
  await expect(take()).rejects.toThrow(
    "Nothing was imported: 1 row can’t be read. The first is row 3: “someday” in “Expires” isn’t a date.",
  );
  await take({ skips: true });
  expect((await sharesNow()).filter(([, , , revokedAt]) => revokedAt !== null)).toEqual([]);
});

test("a report with half of its rows missing is held until somebody says how many shares end", async () => {
  const rows = Array.from({ length: 60 }, (_, i) => `/Archive/${i}.pdf,ada@quay.example,view,`);
  await check(csv(...rows));
  await take();
  const { outlook } = await check(csv(...rows.slice(30)));
  expect(outlook).toMatchObject({ endedCount: 30, held: 60, isHeld: true });
  await expect(take()).rejects.toThrow("Nothing was imported: 30 of 60 shares would end");
  expect(await take({ ended: 30 })).toMatchObject({ imported: { ended: 30 } });
});

test("what is imported is what was checked: not a report that was checked since, nor one for a store that has changed", async () => {
  const { outlook } = await check(FIRST);
  await check(csv("/Archive,ida@home.example,view,"));
  const body = { digest: outlook!.digest, mapping: "archive", skips: false, ended: null };
  await expect(ask(importsOperations.takeReport, { body })).rejects.toThrow("has been checked again since");
  await take();
  await check(FIRST);
  // Another administrator imports by a command meanwhile.
  const path = join(folder, "other.csv");
  writeFileSync(path, csv("/Archive,odo@quay.example,view,"));
  const said = { skips: false, ended: null };
  await importReport(house.app, { path, file: "other.csv", as: null, mapping: "archive" }, said, "command line");
  expect((await take()).problem).toBe("This store has been imported again meanwhile. Check the report again.");
  // What was refused so doesn't go on for ever.
  expect((await ask(importsOperations.imports)).runs.map(({ state }) => state)).toEqual(["stopped", "done", "done"]);
  expect((await sharesNow()).map(([key]) => key)).toEqual([
    "/Archive · ida@home.example",
    "/Archive · odo@quay.example",
  ]);
});

test("an import that is stopped keeps what was written, ends nothing, and says so", async () => {
  const path = join(folder, "long.csv");
  writeFileSync(path, csv(...Array.from({ length: 6_000 }, (_, i) => `/Archive/${i}.pdf,ada@quay.example,view,`)));
  const mapping = mappingFor(await lookAt(path, {}));
  const given = { path, file: "long.csv", source: "archive", title: "The archive", mapping };
  const checked = await checkReport(house.db, given);
  if ("unchangedSince" in checked) throw new Error("it is new");
  const ending = new AbortController();
  const taken = await takeReport(house.db, checked, () => ending.abort(), ending.signal);
  expect(taken).toMatchObject({ changed: 5_000, ended: 0, isStopped: true });
  // Checked again, the rest is left to do.
  const again = await checkReport(house.db, given);
  if ("unchangedSince" in again) throw new Error("it was not done");
  expect(again.isChanged!.filter((is) => is === 1)).toHaveLength(again.isChanged!.length - 5_000);
});

test("others can write while what hasn’t changed in a report is passed over", async () => {
  const path = join(folder, "next.csv");
  const rows = Array.from({ length: 20 }, (_, i) => `/Archive/${i}.pdf,ada@quay.example,view,`);
  const checked = async (text: string) => {
    writeFileSync(path, text);
    const mapping = mappingFor(await lookAt(path, {}));
    const found = await checkReport(house.db, { path, file: "next.csv", source: "archive", title: "Archive", mapping });
    if ("unchangedSince" in found) throw new Error("it is new");
    return found;
  };
  await takeReport(house.db, await checked(csv(...rows)));
  const next = await checked(csv(...rows.slice(0, 19), "/Archive/9z.pdf,odo@quay.example,edit,"));
  const { prepare, sqlite } = house.db;
  const withinTransaction: boolean[] = [];
  house.db.prepare = (text) => {
    if (text.startsWith("select id, body from fact where source")) withinTransaction.push(sqlite.inTransaction);
    return prepare(text);
  };
  expect(await takeReport(house.db, next)).toMatchObject({ changed: 3, ended: 1 });
  expect(withinTransaction.length).toBeGreaterThan(20);
  // The statement of what is written: once for what has changed, and once for what has ended.
  expect(withinTransaction.filter((is) => is)).toHaveLength(2);
});

test("a workbook: merged headings, dates as dates, a sheet of one’s choice", async () => {
  const path = join(folder, "report.xlsx");
  const workbook = new Excel.Workbook();
  workbook.addWorksheet("About").addRow(["Made for a test"]);
  const sheet = workbook.addWorksheet("Shares");
  sheet.addRow(["Item", null, "Sharing", null, null]);
  sheet.mergeCells("A1:B1");
  sheet.mergeCells("C1:E1");
  sheet.addRow(["Path", "Kind", "Shared with", "Role", "Expires"]);
  sheet.addRow(["/Stage/Plot.dwg", "file", "ada@quay.example", "view", new Date("2026-12-01T00:00:00Z")]);
  sheet.addRow([]);
  sheet.addRow([
    "/Stage",
    "folder",
    { text: "odo@quay.example", hyperlink: "mailto:odo@quay.example" },
    "manage",
    null,
  ]);
  await workbook.xlsx.writeFile(path);
  const look = await lookAt(path, { sheet: "Shares" });
  expect([look.sheets, look.count]).toEqual([["About", "Shares"], 5]);
  const mapping = mappingFor(look);
  expect(mapping.columns).toMatchObject({ path: "Item: Path", ends: "Sharing: Expires" });
  const given = { path, file: "report.xlsx", source: "stage", title: "The stage", mapping };
  const checked = await checkReport(house.db, given);
  if ("unchangedSince" in checked) throw new Error("it is new");
  expect(checked.outlook).toMatchObject({ rows: 2, understood: 2, refused: 0, shares: { fresh: 2 } });
  expect([...checked.report.shares.values()].map(({ item, role, ends, row }) => [item.path, role, ends, row])).toEqual([
    ["/Stage/Plot.dwg", "view", Date.parse("2026-12-01T23:59:59Z") / 1_000, 3],
    ["/Stage", "manage", null, 5],
  ]);
});

test("a group has the members of the directory’s group of its name; of one that nobody tells it is said", async () => {
  const text = "address,groups\nida@home.example,Musicians\nivo@home.example,Musicians\n";
  const list = { directory: "personnel", kind: "people", file: "people.csv", text } as const;
  await takeList(house.db, list, { digest: null, inactive: null }, ADA);
  const report = csv("/Scores,Musicians,view,", "/Scores,Friends of the hall,view,");
  const { outlook } = await check(report);
  expect(outlook!.unknownGroups).toEqual(["Friends of the hall"]);
  await take();
  expect(await reached("ida@home.example")).toContain("Musicians");
});

test("what was imported can be exported, and is a good estate file", async () => {
  await check(FIRST);
  await take();
  const lines: string[] = [];
  for await (const record of exportEstate(house.db)) lines.push(recordLine(record, { withAddresses: false }));
  const { problems } = readEstateFile(lines);
  expect(problems).toEqual([]);
});

test("a file that is none, too much of it, and a hand with nothing in it are refused in words", async () => {
  await expect(ask(importsOperations.lookAtReport, { body: {} })).rejects.toThrow(
    "The file is no longer here. Choose it again.",
  );
  await expect(ask(importsOperations.sendReport, { query: { name: "x.csv" } })).rejects.toThrow("Send a file");
  await expect(
    ask(importsOperations.sendReport, { query: { name: "x.xlsx" }, file: "PK\u0003\u0004 and nothing of a workbook" }),
  ).rejects.toThrow("The file looks like a workbook, and no sheet of it can be read.");
});

import { execFileSync, spawnSync } from "node:child_process";
import { writeFileSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addressOf } from "@/contract/address";
import { type ReportAsked, reportsOperations } from "@/contract/reports";
import type { EstateRecord } from "@/core/estate/records";
import type { Report } from "@/core/evidence/report";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { reportFile, reportFor } from "@/server/evidence/report/reports";
import { addSchedule, removeSchedule, schedules, sendDueReports } from "@/server/evidence/report/schedules";
import { addPerson } from "@/server/people/people";
import { makeDueCheckpoints } from "@/server/records/ledger/checkpoints";
import { append, entriesOfKind } from "@/server/records/ledger/ledger";
import { actorOf } from "./actor";
import { type House, inStacks, openHouse, PEOPLE } from "./house";
import { file, group, head, item, link, named, store, T } from "./records";

// Fonts are read and cut to the letters that are used: on a busy machine that takes a while.
jest.setTimeout(60_000);

const ADA = { email: "ada@home.example", zone: "Europe/Lisbon" };
const TODAY = dayOf(T);
let house: House;

const opened = (id: string, at: Seconds, more: object): EstateRecord =>
  ({ type: "event", id, at: rfc3339(at), actorId: null, verb: "downloaded", itemId: "f", ...more }) as EstateRecord;

beforeAll(async () => {
  const stacks = [
    store("stacks"),
    ...PEOPLE,
    ...group("choir", "out"),
    item("a", null, { ...inStacks, name: "Touring", label: "confidential" }),
    file("f", "a", { ...inStacks, name: "=Rider" }),
    link("l", "f", { createdBy: "ida", createdAt: rfc3339(T - 5 * DAY) }),
    named("n", "a", ["out@quay.example"], { createdBy: "ida", createdAt: rfc3339(T - 20 * DAY), password: true }),
  ];
  house = await openHouse({ stacks, alcoves: [], dock: [] }, [
    head(),
    opened("e1", T - 2 * DAY, { shareId: "l", ip: "192.0.2.7" }),
    opened("e2", T - DAY, { shareId: "n", actorEmail: "out@quay.example", verb: "opened" }),
    opened("e3", T - 90 * DAY, { shareId: "l" }),
  ]);
});
afterAll(() => house.close());

function dayOf(at: Seconds) {
  return rfc3339(at).slice(0, 10);
}
const report = (asked: ReportAsked) => reportFor(house.app, asked);
const tableIn = ({ sections }: Report, title: string | RegExp) =>
  sections.find((one) => (typeof title === "string" ? one.title === title : title.test(one.title)))!.table!.rows;

test("the state tells of the figures on a day and a month before, and of the twelve months", async () => {
  const told = await report({ kind: "state", day: TODAY });
  const open = Object.fromEntries(tableIn(told, "What was open").map(([title, ...figures]) => [title, figures]));
  expect(open["Outside shares"]).toEqual(["0", "2", "+2"]);
  expect(open["Open to anyone, without a password"]).toEqual(["0", "1", "+1"]);
  expect(open["On confidential items"]).toEqual(["0", "2", "+2"]);
  expect(tableIn(told, "The twelve months before").map(([day, , , , , all]) => [day, all])).toEqual(
    expect.arrayContaining([
      ["5 Oct 2025", "0"],
      ["5 Sep 2026", "0"],
      ["5 Oct 2026", "2"],
    ]),
  );
  expect(tableIn(told, "The ten riskiest").map(([name]) => name)).toEqual(["=Rider", "Touring"]);
  await expect(report({ kind: "state", day: dayOf(T + 2 * DAY) })).rejects.toThrow("hasn’t begun yet");
});

test("what is open to anyone stands with its reason and who answers", async () => {
  const told = await report({ kind: "open", day: TODAY });
  expect(tableIn(told, /share/)).toEqual([
    [
      ...[
        "=Rider",
        "Store stacks / Touring",
        "Anyone who holds this link can look at this file and download it, without a password and with no end date.",
      ],
      ...["No known reason; it reaches confidential items.", "never", "Person ida (owner)"],
    ],
  ]);
  expect(told.sections[0].words).toBe("1 have no known reason; somebody answers for each.");
});

test("who could reach an item on a day, and what somebody could", async () => {
  const item = await report({ kind: "reach", day: TODAY, about: "item:f" });
  expect(tableIn(item, "Outsiders, by name")).toEqual([
    ["Person out", "out@quay.example", "quay.example", "View", "yes", "never"],
  ]);
  expect(tableIn(item, "Whoever has the address")).toHaveLength(1);
  const person = await report({ kind: "reach", day: TODAY, about: "person:out@quay.example" });
  expect(tableIn(person, /item/).map(([name]) => name)).toEqual(["Touring", "=Rider"]);
  const everybody = await report({ kind: "reach", day: TODAY, about: "organisation:quay.example" });
  expect(everybody.title).toContain("everybody at quay.example");
  await expect(report({ kind: "reach", day: TODAY, about: "item:none" })).rejects.toThrow(
    "nothing was known about item:none",
  );
  await expect(report({ kind: "reach", day: TODAY, about: "share:l" })).rejects.toThrow(
    "about: choose an item, a person or an organisation. A share’s row says who it is for.",
  );
});

test("what was taken: when it was open, each use with by whom and from where, and what nobody can know", async () => {
  const span = { from: dayOf(T - 30 * DAY), to: TODAY };
  const share = await report({ kind: "taken", about: "share:l", ...span });
  expect(tableIn(share, "When it was open, and how")).toEqual([
    ["=Rider", "Whoever has the address", "View", "30 Sep 2026, 08:00", "still open", "none", "allowed", "never", "l"],
  ]);
  expect(tableIn(share, "Every visit and download")).toEqual([
    ["3 Oct 2026, 08:00", "Downloaded", "=Rider", "nobody named", "", "192.0.2.7", "l"],
  ]);
  const unknowable = share.sections.find(({ title }) => title === "What nobody can know")!;
  expect(unknowable.words).toContain("1 share let in whoever had the address");
  expect(unknowable.words).toContain("1 use named nobody");

  // By a folder above, too; and by a share that names a person.
  const item = await report({ kind: "taken", about: "item:f", ...span });
  expect(
    tableIn(item, "When it was open, and how")
      .map((row) => row.at(-1))
      .sort(),
  ).toEqual(["l", "n"]);
  expect(tableIn(item, "Every visit and download").map((row) => row.at(-1))).toEqual(["l", "n"]);
  const person = await report({ kind: "taken", about: "person:Out@Quay.example", ...span });
  expect(tableIn(person, "When it was open, and how").map((row) => [row[1], row.at(-1)])).toEqual([
    ["out@quay.example", "n"],
  ]);
  expect(tableIn(person, "What they visited and took")).toHaveLength(1);
  await expect(report({ kind: "taken", about: "person:none@quay.example", ...span })).rejects.toThrow(
    "nothing is known",
  );
  await expect(report({ kind: "taken", about: "item:f", from: TODAY, to: dayOf(T - DAY) })).rejects.toThrow("is after");
});

test("controls count the entries that are evidence for them, and say where there is none", async () => {
  await append(house.db, ADA.email, "rule-set", ruleSet());
  const told = await report({ kind: "controls", from: TODAY, to: TODAY });
  const nist = Object.fromEntries(tableIn(told, "NIST SP 800-53 Rev. 5").map(([number, , ...rest]) => [number, rest]));
  expect(nist["AC-4"]).toEqual(["Rules set: 1", "5 Oct 2026"]);
  expect(nist["AC-6(7)"]).toEqual(["None in this period. It would be: rounds closed, decisions in rounds.", "never"]);
  expect(tableIn(told, "PCI DSS v4")[1][2]).toContain("None: Tight Latch has no evidence for it.");
  const before = await report({ kind: "controls", from: dayOf(T - 9 * DAY), to: dayOf(T - DAY) });
  expect(tableIn(before, "NIST SP 800-53 Rev. 5").every((row) => row[2].startsWith("None"))).toBe(true);
});

function ruleSet() {
  const setting = { isOn: true, mode: "observe" as const, graceDays: 14, parameters: {} };
  return { rule: "open-password" as const, before: setting, after: setting };
}

test("a PDF holds the figures, is sound, and has its fonts in it", async () => {
  await makeDueCheckpoints(house.app);
  const told = await report({ kind: "state", day: TODAY });
  const many = { ...told.sections[0], table: { ...told.sections[0].table!, rows: longRows() } };
  const pdf = await reportFile(house.app, { ...told, sections: [...told.sections, many] });
  const path = join(mkdtempSync(join(tmpdir(), "latch-report-")), "state.pdf");
  writeFileSync(path, pdf);
  const text = execFileSync("pdftotext", ["-layout", path, "-"]).toString();
  expect(text).toMatch(/Outside shares +0 +2 +\+2/);
  expect(text).toMatch(/Checkpoint of the ledger: \d+ entries, root/);
  // The head of a table stands again on each page that it runs on to.
  const pages = text.split("\f").filter((page) => page.includes("Row 9"));
  expect(pages.length).toBeGreaterThan(1);
  for (const page of pages) expect(page).toMatch(/Shares +5 Sep 2026 +5 Oct 2026 +Change/);
  // What the house's font can't write, another does.
  expect(text).toContain("Жанна 琴".slice(0, 5));
  expect(spawnSync("qpdf", ["--check", path]).status).toBe(0);
  const fonts = execFileSync("pdffonts", [path]).toString().trim().split("\n").slice(2);
  expect(fonts.length).toBeGreaterThan(1);
  for (const font of fonts) expect(font).toMatch(/ yes (yes|no) +yes +\d+ +\d+$/);
  expect(Buffer.from(pdf).equals(await reportFile(house.app, { ...told, sections: [...told.sections, many] }))).toBe(
    true,
  );
});

function longRows(): string[][] {
  return Array.from({ length: 99 }, (_, i) => [i === 0 ? "Жанна" : `Row ${i}`, "1", "2", "+1"]);
}

const fetched = (address: string) => house.app.fetch(new Request(`${house.app.settings.url}${address}`));

test("each table is had as CSV, whole and safe to open, and what isn't understood is said", async () => {
  house.app.actorFrom = async () => actorOf(ADA.email, "administrator");
  const query = { kind: "open", day: TODAY };
  const csv = await (
    await fetched(addressOf(reportsOperations.reportTable, { query: { ...query, section: "0" } }))
  ).text();
  expect(csv.split("\r\n")[1]).toMatch(/^'=Rider,Store stacks \/ Touring,/);
  const answers = [
    { ...query, section: "3" },
    { kind: "open", day: "yesterday", section: "0" },
  ].map(
    async (asked) => (await (await fetched(addressOf(reportsOperations.reportTable, { query: asked }))).json()).error,
  );
  expect(await Promise.all(answers)).toEqual([
    "section: there is no table in section 3.",
    expect.stringContaining("must be a day such as 2026-11-30"),
  ]);
});

test("what an auditor opens that names outsiders is in the ledger, once an hour", async () => {
  house.app.actorFrom = async () => actorOf("aude@home.example", "auditor");
  const address = addressOf(reportsOperations.report, { query: { kind: "open", day: TODAY } });
  for (let i = 0; i < 2; i++) expect((await fetched(address)).status).toBe(200);
  expect((await fetched("/api/history?days=30")).status).toBe(200);
  const [entry, ...others] = await entriesOfKind(house.db, "read-by-auditor");
  expect(others).toEqual([]);
  expect(entry).toMatchObject({
    actor: "aude@home.example",
    body: { what: "/api/reports", asked: `kind=open&day=${TODAY}` },
  });
  house.app.actorFrom = async () => actorOf(ADA.email, "administrator");
  await fetched(address);
  expect(await entriesOfKind(house.db, "read-by-auditor")).toHaveLength(1);
});

test("a report goes out on its day: as a link to whoever sees the console, as the PDF to others here, to nobody outside", async () => {
  const { app, db, mails } = house;
  await addPerson(
    app,
    { name: "Ada", email: ADA.email, password: "tern gravel lantern oboe" },
    "administrator",
    "tests",
  );
  const monthly = { kind: "state", every: "month" } as const;
  await expect(addSchedule(app, { ...monthly, to: "out@quay.example" }, ADA)).rejects.toThrow(
    "has no account that can see the console and isn’t at a home domain. Reports name outsiders: send it yourself.",
  );
  await addSchedule(app, { ...monthly, to: ADA.email }, ADA);
  await expect(addSchedule(app, { ...monthly, to: ADA.email }, ADA)).rejects.toThrow("goes there already");
  await addSchedule(app, { kind: "controls", every: "week", to: "board@home.example" }, ADA);
  await sendDueReports(app);
  expect(mails).toEqual([]);
  // The first of a month that is a Monday in between.
  app.clock.standsAt = new Date("2026-11-02T08:00:00Z");
  await sendDueReports(app);
  const link = mails.find(({ to }) => JSON.stringify(to).includes(ADA.email))!;
  expect(link.text).toContain("/ledger/reports/state?day=2026-10-31");
  const attached = mails.find(({ to }) => JSON.stringify(to).includes("board@home.example"))!.attachments[0];
  const text = execFileSync("pdftotext", ["-layout", "-", "-"], { input: attached.content }).toString();
  expect(text).toContain("Evidence for controls, 5 Oct 2026 to 11 Oct 2026");
  await sendDueReports(app);
  expect(mails).toHaveLength(2);
  const [first, second] = await schedules(db);
  expect([first, second].map(({ nextAt }) => rfc3339(nextAt))).toEqual([
    "2026-12-01T07:00:00Z",
    "2026-11-09T07:00:00Z",
  ]);
  await removeSchedule(db, first.id, ADA.email);
  await expect(removeSchedule(db, first.id, ADA.email)).rejects.toThrow("That report is no longer scheduled.");
  expect((await entriesOfKind(db, "report-scheduled")).length).toBe(2);
});

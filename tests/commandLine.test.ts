import { execFileSync } from "node:child_process";
import { chmodSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { saveMapping } from "@/server/imports/mappings";
import { openDatabase, writing } from "@/server/platform/db/open";
import { file, head, link, person, store } from "./records";

const latch = join(__dirname, "../bin/latch");
const folder = mkdtempSync(join(tmpdir(), "latch-command-"));
const estate = join(folder, "estate.jsonl");
const linesOf = (...records: object[]) => records.map((one) => JSON.stringify(one)).join("\n");
const base = [head(), store(), person("in", "in@home.example"), file("f", null), link("l", "f")];
writeFileSync(estate, linesOf(...base));

/** On a database of its own. @returns status and what was said, without the stack that nobody wants to see */
function run(args: string[], env: Record<string, string> = {}) {
  const own = { ...process.env, LATCH_DATA: mkdtempSync(join(tmpdir(), "latch-data-")), ...env };
  try {
    return {
      status: 0,
      out: execFileSync(latch, args, { encoding: "utf8", stdio: "pipe", env: own, timeout: 120_000 }),
      err: "",
    };
  } catch (error) {
    const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
    return { status, out: stdout, err: stderr };
  }
}

test("an import says whose word it is, by a name that can stand in ids", () => {
  expect(run(["import", estate])).toMatchObject({ status: 2, err: expect.stringContaining("--as <name>") });
  expect(run(["import", estate, "--as", "The Archive"])).toEqual({
    status: 2,
    out: "",
    err: "latch: --as The Archive must be 1 to 40 lower-case letters, digits and hyphens, such as archive\n",
  });
});

test("what was imported goes out again as it came; a file that can't be written is said in one line", () => {
  const data = { LATCH_DATA: mkdtempSync(join(tmpdir(), "latch-data-")) };
  expect(run(["import", estate, "--as", "archive"], data).out).toBe("4 records are new or changed.\n");
  const out = join(folder, "out.jsonl");
  expect(run(["export", out], data).status).toBe(0);
  const records = (path: string) =>
    readFileSync(path, "utf8")
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line));
  expect(records(out).slice(1)).toEqual(records(estate).slice(1));
  const nowhere = join(folder, "none", "out.jsonl");
  expect(run(["export", nowhere], data)).toMatchObject({
    status: 1,
    err: expect.stringMatching(/^latch: .*out\.jsonl: can't be written: ENOENT.*\n$/),
  });
});

test("a report is imported by the mapping that was kept; its bad rows are named, and the same again is said", async () => {
  const data = { LATCH_DATA: mkdtempSync(join(tmpdir(), "latch-data-")) };
  const report = join(folder, "archive.csv");
  const rows = ["/a.pdf,out@quay.example,view", "/b.pdf,out@quay.example,view"];
  writeFileSync(report, ["Path,Shared with,Role", ...rows].join("\n"));
  const importReport = (...more: string[]) => run(["import-report", report, "--mapping", "archive", ...more], data);
  expect(importReport()).toMatchObject({ status: 2, err: expect.stringContaining("No mapping is called archive.") });
  await keepMapping(data.LATCH_DATA);
  expect(importReport().out).toBe("6 records are new or changed, and 0 shares have ended.\n");
  expect(importReport().out).toBe("This report has been imported already. Nothing has changed.\n");
  writeFileSync(report, ["Path,Shared with,Role", rows[0], "/b.pdf,nobody,view"].join("\n"));
  expect(importReport()).toMatchObject({
    status: 2,
    err: expect.stringContaining("Nothing was imported: 1 row can’t be read. The first is row 3: "),
  });
  expect(importReport("--lenient")).toMatchObject({
    status: 0,
    out: "0 records are new or changed, and 0 shares have ended.\n",
  });
  writeFileSync(report, ["Path,Shared with,Role", rows[0]].join("\n"));
  expect(importReport().out).toBe("0 records are new or changed, and 1 share has ended.\n");
});

/** As the Imports screen keeps it. */
async function keepMapping(data: string) {
  const db = await openDatabase(join(data, "latch.sqlite"));
  const columns = { path: "Path", audience: "Shared with", role: "Role" };
  const values = { role: { view: "view" as const } };
  const file = { encoding: "utf-8", separator: ",", sheet: null, headingRow: 1, headingRows: 1, zone: "UTC" } as const;
  const rest = { dateOrder: "by the rows", repeatsAbove: false, roleOtherwise: "view" } as const;
  const mapping = { ...file, columns, values, ...rest };
  await writing(db, (tx) => saveMapping(tx, { name: "archive", source: "archive", title: "Archive", mapping }, "ada"));
  await db.destroy();
}

test("a setting that can't be used is said in one line", () => {
  const { status, err } = run(["export", join(folder, "x.jsonl")], { LATCH_SECRET: "" });
  expect([status, err]).toEqual([
    2,
    "latch: LATCH_SECRET: must have at least 32 characters; leave it out for a key file\n",
  ]);
});

test("what it writes others can't read, and it refuses a folder that they can get into", () => {
  const data = mkdtempSync(join(tmpdir(), "latch-data-"));
  expect(run(["set-home", "home.example"], { LATCH_DATA: data }).status).toBe(0);
  for (const name of readdirSync(data)) expect([name, statSync(join(data, name)).mode & 0o077]).toEqual([name, 0]);
  expect(readdirSync(data)).toContain("latch.sqlite");
  chmodSync(data, 0o750);
  expect(run(["set-home", "home.example"], { LATCH_DATA: data })).toEqual({
    status: 2,
    out: "",
    err: `latch: LATCH_DATA: others on this machine can get into ${data}. Type: chmod 700 "${data}"\n`,
  });
  chmodSync(data, 0o700);
  expect(run(["set-home", "home.example"], { LATCH_DATA: data }).status).toBe(0);
});

test("who signs in is looked after by commands, each of which says what is wrong in one line", () => {
  const env = { LATCH_DATA: mkdtempSync(join(tmpdir(), "latch-data-")), LATCH_NEW_PASSWORD: "four unlike words here" };
  const say = (...args: string[]) => run(args, env);
  expect(say("add-person", "ada@home.example", "--name", "Ada", "--role", "administrator").status).toBe(0);
  expect(say("add-person", "bea@home.example", "--name", "Bea", "--role", "auditor").status).toBe(0);
  expect(say("set-role", "ada@home.example", "--role", "owner")).toEqual({
    status: 2,
    out: "",
    err: "latch: They are the only administrator. Make somebody else an administrator first.\n",
  });
  expect(say("set-role", "Bea@Home.example", "--role", "administrator").status).toBe(0);
  expect(say("reset-password", "bea@home.example").out).toMatch(/^http:\/\/localhost:4310\/welcome#\S+\nIt works once/);
  expect(say("reset-factors", "bea@home.example").status).toBe(0);
  expect(say("end-sessions", "bea@home.example").out).toBe("0 sessions have ended.\n");
  expect(say("unlock", "bea@home.example").status).toBe(0);
  expect(say("allow-passwords").status).toBe(0);
  expect(say("rotate-key").out).toMatch(/^0 secrets are sealed by the key [0-9a-f]{8} now\.\n$/);
  expect(say("forget-older-keys").out).toBe("1 older keys are forgotten.\n");
  expect(say("remove-person", "bea@home.example").status).toBe(0);
  expect(say("unlock", "bea@home.example").err).toBe("latch: Nobody signs in as bea@home.example.\n");
}, 120_000);

test("without home domains there is nothing to export, and it says how to set them", () => {
  expect(run(["export", join(folder, "x.jsonl")])).toEqual({
    status: 1,
    out: "",
    err: "latch: nothing was exported: no home domains are set; set them under Estate, or with latch set-home\n",
  });
  expect(run(["set-home", "home"]).err).toBe("latch: A home domain looks like wrenmoor.example.\n");
});

test("validate reads over a byte-order mark, and names bytes that are no UTF-8 by their line", () => {
  const marked = join(folder, "marked.jsonl");
  writeFileSync(marked, `\ufeff${linesOf(...base)}`);
  expect(run(["validate", marked])).toEqual({ status: 0, out: "", err: "" });
  const latin = join(folder, "latin.jsonl");
  writeFileSync(
    latin,
    Buffer.concat([Buffer.from(linesOf(...base.slice(0, 4)) + "\n"), Buffer.from([0x22, 0xe9, 0x22])]),
  );
  expect(run(["validate", latin])).toMatchObject({
    status: 1,
    err: `${latin}:5: not UTF-8; save the file in that encoding\nlatch: ${latin}: 1 error; nothing was used\n`,
  });
});

test("what is due is done once, stores are read in a thread beside it, and the command ends", () => {
  expect(run(["tick"])).toEqual({ status: 0, out: "What was due is done; 0 new alerts.\n", err: "" });
});

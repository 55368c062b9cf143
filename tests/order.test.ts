import { execFileSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { dirname, join, normalize } from "node:path";
import ts from "typescript";
import { ORDER } from "@/rooms.mjs";
import type { Schema } from "@/server/platform/db/schema";

/** What lint can't see: circles of files, and a room's tables named outside it. */
const root = join(__dirname, "..");
const files = execFileSync("git", ["ls-files", "--cached", "--others", "--exclude-standard", "*.ts", "*.tsx"], {
  cwd: root,
  encoding: "utf8",
})
  .split("\n")
  .filter((file) => file !== "" && existsSync(join(root, file)));
const textOf = (file: string) => readFileSync(join(root, file), "utf8");

function resolved(from: string, specifier: string, known: ReadonlySet<string>): string | undefined {
  if (!/^(@|\.{1,2})\//.test(specifier)) return undefined;
  const path = specifier.startsWith("@/") ? specifier.slice(2) : normalize(join(dirname(from), specifier));
  return [path, `${path}.ts`, `${path}.tsx`, `${path}/index.ts`].find((one) => known.has(one));
}

/** Circles among what imports what: each as the files in it. */
function circlesIn(imports: ReadonlyMap<string, readonly string[]>): string[][] {
  const circles: string[][] = [];
  const done = new Set<string>();
  const walk = (file: string, path: string[]) => {
    if (path.includes(file)) return void circles.push([...path.slice(path.indexOf(file)), file]);
    if (done.has(file)) return;
    for (const next of imports.get(file) ?? []) walk(next, [...path, file]);
    done.add(file);
  };
  for (const file of imports.keys()) walk(file, []);
  return circles;
}

test("no files import each other in a circle, be it for a type alone", () => {
  const known = new Set(files);
  const imports = new Map(
    files.map((file) => {
      const { importedFiles } = ts.preProcessFile(textOf(file));
      return [file, importedFiles.flatMap(({ fileName }) => resolved(file, fileName, known) ?? [])] as const;
    }),
  );
  expect([...imports.values()].flat().length).toBeGreaterThan(1_000);
  expect(circlesIn(imports)).toEqual([]);
});

test("a circle would be found", () => {
  expect(
    circlesIn(
      new Map([
        ["a", ["b"]],
        ["b", ["c"]],
        ["c", ["b"]],
      ]),
    ),
  ).toEqual([["b", "c", "b"]]);
});

test.each(Object.entries(ORDER))("every room of %s has its place in the order", (part, rooms) => {
  const inside = files.filter((file) => file.startsWith(`${part}/`)).map((file) => file.split("/"));
  const found = new Set(inside.filter(({ length }) => length > 2).map(([, room]) => room));
  expect([...found].sort()).toEqual([...rooms].sort());
});

/** Whose each table is. */
const OWNERS: Record<keyof Schema | "spoken_words", string> = {
  setting: "platform",
  lease: "platform",
  try_count: "platform",
  fact: "records",
  removal: "records",
  source: "records",
  own_id: "records",
  ledger: "records",
  checkpoint: "records",
  ledger_key: "records",
  witness: "evidence",
  report_schedule: "evidence",
  pack_key: "evidence",
  stamp: "evidence",
  label_rule: "labels",
  share_request: "sharing",
  clearing: "clearing",
  import_mapping: "imports",
  import_run: "imports",
  reading_day: "stores",
  event: "records",
  event_again: "records",
  spoken: "records",
  spoken_words: "records",
  connection: "stores",
  notice: "messages",
  letter: "messages",
  docket: "dockets",
  docket_change: "dockets",
  passphrase: "dockets",
  standing_order: "dockets",
  user: "people",
  account: "people",
  session: "people",
  twoFactor: "people",
  passkey: "people",
  used_code: "people",
  alert: "trail",
  watch: "trail",
  watch_hit: "trail",
  rule_setting: "rules",
  demand: "rules",
  waiver: "rules",
  saved_query: "register",
  note: "register",
  openness: "shortlist",
  round: "rounds",
  round_line: "rounds",
  round_tally: "rounds",
  round_decider: "rounds",
  round_passing: "rounds",
  round_mail: "rounds",
  look: "rounds",
  look_line: "rounds",
  deputy: "rounds",
  stance: "outsiders",
  same_firm: "outsiders",
  organisation_note: "outsiders",
  last_day: "leavers",
  leaver: "leavers",
  engagement: "engagements",
  extension: "engagements",
  department_head: "rounds",
};
const BUILT = /(?:selectFrom|insertInto|updateTable|deleteFrom|(?:inner|left)Join)\(\s*"(\w+)/g;
const RAW = /sql(?:<[^`]*?>)?`([^`]*)`/g;
const NAMED = /\b(?:from|join|into|update)\s+"?(\w+)/g;

function tablesNamedIn(text: string): string[] {
  const built = [...text.matchAll(BUILT)].map(([, table]) => table);
  const raw = [...text.matchAll(RAW)].flatMap(([, statement]) =>
    [...statement.matchAll(NAMED)].map(([, name]) => name),
  );
  return [...built, ...raw].filter((table) => table in OWNERS);
}

test("a table is named in the room that owns it, and nowhere else", () => {
  const server = files.filter((file) => file.startsWith("server/") && !/\.test\.|migrations/.test(file));
  const named = server.flatMap((file) => tablesNamedIn(textOf(file)).map((table) => ({ file, table })));
  expect(new Set(named.map(({ table }) => table)).size).toBeGreaterThan(20);
  const strangers = named.filter(({ file, table }) => file.split("/")[1] !== OWNERS[table as keyof typeof OWNERS]);
  expect(strangers).toEqual([]);
});

test("one global holds the application for Next, and nothing else is global", () => {
  const ours = files.filter((file) => /^(app|bin|contract|core|server|ui)\//.test(file) && !file.includes(".test."));
  expect(ours.filter((file) => textOf(file).includes("globalThis"))).toEqual(["server/theApp.ts"]);
});

/** What is compiled with routes and pages, apart from start-up; each of these would load a second time what it imports. */
const WITH_PAGES = ["server/theApp.ts", "server/platform/rights.ts"];
const LOADED = /^import (?!type )[^;]*? from "@\/(server\/[^"]+)"/gm;

test("pages and routes load nothing of the server a second time: they find the application that start-up has made", () => {
  const loaded = files
    .filter((file) => file.startsWith("app/"))
    .flatMap((file) => [...textOf(file).matchAll(LOADED)].map(([, from]) => `${from}.ts`));
  expect([...new Set(loaded)].sort()).toEqual([...WITH_PAGES].sort());
  expect(textOf("server/theApp.ts")).not.toMatch(/^import (?!type )/m);
});

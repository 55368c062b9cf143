import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { parse } from "csv-parse/sync";
import { strFromU8, strToU8, unzipSync } from "fflate";
import { readEstateFile } from "@/core/estate/estateFile";
import { linesOf } from "@/core/estate/lines";
import type { Kept, PackFiles } from "@/core/evidence/verifyPack";
import { verifyPack } from "@/core/evidence/verifyPack";
import { readNote } from "@/core/ledger/checkpoint";
import { DAY, rfc3339 } from "@/core/time/instant";
import { makePack } from "@/server/evidence/pack/make";
import { keptPacks, packAnswer } from "@/server/evidence/pack/kept";
import { beginPack, stopPack } from "@/server/evidence/pack/packsAtWork";
import { whose } from "@/server/evidence/pack/packKeys";
import { zipFiles } from "@/server/evidence/pack/zipFiles";
import { makeDueCheckpoints } from "@/server/records/ledger/checkpoints";
import { changeKey, publicKeys } from "@/server/records/ledger/keys";
import { proveLedger } from "@/server/evidence/proof";
import { eraseDetail } from "@/server/records/ledger/erase";
import { append, entriesOfKind } from "@/server/records/ledger/ledger";
import { forgetOlderKeys, rotateKey } from "@/server/rotating";
import { makerIn } from "./app";
import { type House, ONE_OF_EACH, openHouse } from "./house";
import { T } from "./records";

const ADA = "ada@home.example";
const [FROM, TO] = [T - DAY, T].map((at) => rfc3339(at).slice(0, 10));
const VERIFIER = join(__dirname, "verifyPack.py");
let house: House;
let path: string;
let pack: Record<string, Uint8Array>;

beforeAll(async () => {
  if (!existsSync("dist/verify.html")) spawnSync(process.execPath, ["scripts/bundle.mjs", "page"]);
  house = await openHouse(ONE_OF_EACH);
  const { app, db } = house;
  await makeDueCheckpoints(app);
  await append(db, ADA, "note-left", { shareId: "l", text: "Asked Zoë of quay.example\u2028about it" });
  await changeKey(app, ADA);
  await makeDueCheckpoints(app);
  path = (await makePack(makerIn(house.app), { from: FROM, to: TO, scope: "" }, ADA)).path;
  pack = unzipSync(readFileSync(path));
});
afterAll(() => house.close());

const files = (some: Record<string, Uint8Array>): PackFiles => ({
  paths: Object.keys(some),
  async *open(name) {
    // In two pieces, as they come from a disk.
    yield some[name].subarray(0, 100);
    yield some[name].subarray(100);
  },
});

async function checked(some: Record<string, Uint8Array>, kept?: Kept): Promise<string> {
  const lines: string[] = [];
  try {
    for await (const line of verifyPack(files(some), kept)) lines.push(line);
  } catch (error) {
    return (error as Error).message;
  }
  return lines.at(-1)!;
}

const text = (name: string) => strFromU8(pack[name]);
const table = (name: string): Record<string, string>[] => parse(text(name), { columns: true });

test("a pack holds as it was made, by our own check and by a program that was written from its description alone", async () => {
  expect(await checked(pack)).toMatch(/^It is consistent in itself; compare the key tight-latch\/127\.0\.0\.1:4310\+/);
  const lines: string[] = [];
  for await (const line of verifyPack(await zipFiles(path))) lines.push(line);
  expect(lines).toHaveLength(7);
  expect(`${execFileSync("python3", [VERIFIER, path])}`).toBe("holds\n");
});

test("it has the estate on both days, every table, and no address of a link", async () => {
  for (const day of [FROM, TO]) {
    const { problems, records } = readEstateFile(linesOf([pack[`estate/${day}.jsonl`]]));
    expect([day, problems, records.some(({ type }) => type === "link")]).toEqual([day, [], true]);
  }
  expect(table("register.csv").length).toBeGreaterThan(0);
  expect(table("findings.csv").map(({ share }) => share)).toContain("l");
  expect(table("readings.csv")).toMatchObject([
    { store: "alcoves", readings: "1" },
    { store: "dock" },
    { store: "stacks" },
  ]);
  for (const [name, bytes] of Object.entries(pack)) {
    expect([name, strFromU8(bytes, true).includes("7Qk1lI0O")]).toEqual([name, false]);
    if (/\.(csv|jsonl|txt|json)$/.test(name)) expect([name, strFromU8(bytes).includes("\r")]).toEqual([name, false]);
  }
});

test("a scope narrows the tables, and never the ledger", async () => {
  const { path } = await makePack(makerIn(house.app), { from: FROM, to: TO, scope: "reach:open" }, ADA);
  const narrow = unzipSync(readFileSync(path));
  expect(await checked(narrow)).toMatch(/^It is consistent/);
  const shares = parse(strFromU8(narrow["register.csv"]), { columns: true }).length;
  expect([shares, table("register.csv").length]).toEqual([1, 2]);
  expect(strFromU8(narrow["ledger/entries.jsonl"]).startsWith(text("ledger/entries.jsonl"))).toBe(true);
});

test("what it is compared with counts: a key or a checkpoint that isn't of this ledger is told", async () => {
  const keys = await publicKeys(house.db);
  expect(await checked(pack, { key: keys[0] })).toBe("It agrees with what you hold.");
  expect(await checked(pack, { key: keys[1] })).toContain("isn’t signed by the key");
  const [first] = Object.keys(pack).filter((name) => name.startsWith("ledger/checkpoints/"));
  const against = readNote(text(first));
  expect(await checked(pack, { against })).toBe("It agrees with what you hold.");
  const root = against.checkpoint.root.map((byte) => byte ^ 1);
  const other = { ...against, checkpoint: { ...against.checkpoint, root } };
  expect(await checked(pack, { against: other })).toContain("is not the one that you hold");
});

/** What somebody might do to a pack, and how the first of it that is found is told. */
const HARMS: [what: string, harm: (pack: Record<string, Uint8Array>) => Record<string, Uint8Array>, found: RegExp][] = [
  ["a changed table", changing("register.csv", (was) => was.replace(/a/, "b")), /register\.csv: isn’t what is listed/],
  ["a table that was cut", changing("events.csv", (was) => was.slice(0, -2)), /events\.csv: has \d+ bytes/],
  ["a file more", (was) => ({ ...was, "more.txt": strToU8("x") }), /more\.txt: is no file that a pack has/],
  ["a file less", (was) => without(was, "waivers.csv"), /waivers\.csv: isn’t in the pack/],
  ["a manifest with a space", changing("manifest.json", (was) => `${was} `), /manifest\.json: isn’t canonical/],
  ["another maker", changing("manifest.json", (was) => was.replace(ADA, "eve@home.example")), /is about another pack/],
  ["a changed entry", changing("ledger/entries.jsonl", (was) => was.replace("store-read", "store-reed")), /its hash is another/],
  ["an entry taken out", changing("ledger/entries.jsonl", (was) => was.replace(/\n[^\n]+\n/, "\n")), /some are missing/],
  ["an entry less at its end", changing("ledger/entries.jsonl", (was) => was.replace(/[^\n]+\n$/, "")), /more proofs than/],
  ["a proof of another", changing("ledger/proofs.jsonl", (was) => was.replace(/"path":\["./, (is) => `${is.slice(0, -1)}${is.endsWith("0") ? 1 : 0}`)), /another root/],
  ["a checkpoint of another size", changing("ledger/checkpoint.txt", (was) => was.replace(/\n(\d+)\n/, (_, n) => `\n${+n + 1}\n`)), /isn’t signed/],
  ["a consistency line less", changing("ledger/consistency.jsonl", (was) => was.replace(/^[^\n]+\n/, "")), /has no proof that the ledger grew/],
  ["a changed detail", changing("ledger/details.jsonl", (was) => was.replace("Zoë", "Zoe")), /isn’t what the entry speaks of/],
  ["another key", changing("key.txt", (was) => was.split("\n").reverse().join("\n").trim() + "\n"), /key\.pem: isn’t the newest key/],
  ["no line end", changing("ledger/details.jsonl", (was) => was.trimEnd()), /doesn’t end with a line end/],
]; // prettier-ignore

function changing(name: string, change: (was: string) => string) {
  return (was: Record<string, Uint8Array>) => {
    const before = strFromU8(was[name]);
    const after = change(before);
    if (after === before) throw new Error(`${name} wasn't changed`);
    return { ...was, [name]: strToU8(after) };
  };
}

function without(was: Record<string, Uint8Array>, name: string) {
  return Object.fromEntries(Object.entries(was).filter(([other]) => other !== name));
}

test.each(HARMS)("%s is found", async (_, harm, found) => {
  expect(await checked(harm(pack))).toMatch(found);
});

test("what can't be had is refused with what to do", async () => {
  const made = (from: string, to: string, scope = "") => makePack(makerIn(house.app), { from, to, scope }, ADA);
  await expect(made(TO, FROM)).rejects.toThrow("is after");
  await expect(made(FROM, rfc3339(T + 2 * DAY).slice(0, 10))).rejects.toThrow("hasn’t begun yet");
  await expect(made(FROM, TO, "colour:red")).rejects.toThrow("No pack was made");
});

test("its report is a tagged PDF, and every pack that was made stays where packs are kept", () => {
  const report = strFromU8(pack["report.pdf"], true);
  expect(report).toMatch(/^%PDF-1\.7/);
  expect(report).toContain("/StructTreeRoot");
  // Poppler reads it as well.
  const told = execFileSync("pdftotext", ["-layout", "-", "-"], { input: pack["report.pdf"] }).toString();
  expect(told).toMatch(/Outside shares +\d+ +2/);
  expect(told).toMatch(/Checkpoint of the ledger: \d+ entries/);
  expect(existsSync(path)).toBe(true);
});

test("one that is made in the background tells how far it is, is made one at a time, and can be stopped", async () => {
  const { app } = house;
  const asked = { from: FROM, to: TO, scope: "" };
  await expect(beginPack(app, { ...asked, scope: "colour:red" }, ADA)).rejects.toThrow("No pack was made");
  await beginPack(app, asked, ADA);
  await expect(beginPack(app, asked, ADA)).rejects.toThrow("A pack is already being made. Wait for it, or stop it.");
  stopPack(app);
  await until(() => app.packs.making === null);
  const before = (await keptPacks(app)).length;
  await beginPack(app, asked, ADA);
  await until(() => app.packs.making === null);
  const [made, ...others] = await keptPacks(app);
  expect([app.packs.failure, others.length]).toEqual([null, before]);
  expect(made).toMatchObject({ by: ADA, ...asked, bytes: expect.any(Number) });
  expect(readdirSync(dirname(path)).filter((name) => name.startsWith("making"))).toEqual([]);
  await expect(packAnswer(app, 1)).rejects.toThrow("No pack of entry 1 is kept");
  expect(await packAnswer(app, made.seq)).toMatchObject({ type: "application/zip" });
});

async function until(holds: () => boolean) {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve, 20));
}

test("a detail that is erased takes no proof with it: not of older packs, nor of new ones, nor of the ledger", async () => {
  const { app, db } = house;
  const [{ seq }] = await entriesOfKind(db, "note-left");
  await eraseDetail(db, seq, "asked for by whom it names", ADA);
  await expect(eraseDetail(db, seq, "again", ADA)).rejects.toThrow(`Entry ${seq} has no detail`);
  expect(await proveLedger(app)).toMatchObject({ unbroken: true });
  expect(await checked(pack)).toMatch(/consistent in itself/);
  const { path } = await makePack(makerIn(house.app), { from: FROM, to: TO, scope: "" }, ADA);
  const later = unzipSync(readFileSync(path));
  expect(await checked(later)).toMatch(/consistent in itself/);
  expect(`${execFileSync("python3", [VERIFIER, path])}`).toBe("holds\n");
  expect([pack, later].map((one) => strFromU8(one["ledger/details.jsonl"]).includes("Zoë"))).toEqual([true, false]);
  expect((await entriesOfKind(db, "detail-erased"))[0].body).toEqual({
    entry: seq,
    reason: "asked for by whom it names",
  });
});

describe("with pseudonyms", () => {
  const OUTSIDERS = /out@quay|quay\.example|Person out/i;
  let made: { seq: number; path: string };
  let hidden: Record<string, Uint8Array>;
  beforeAll(async () => {
    made = await makePack(
      makerIn(house.app),
      { from: FROM, to: TO, scope: "for:out@quay.example", pseudonyms: true },
      ADA,
    );
    hidden = unzipSync(readFileSync(made.path));
  });

  test("it holds, by ours and by the other program, without details", async () => {
    expect(await checked(hidden)).toMatch(/consistent in itself/);
    expect(`${execFileSync("python3", [VERIFIER, made.path])}`).toBe("holds\n");
    expect(Object.keys(hidden)).not.toContain("ledger/details.jsonl");
    const lines: string[] = [];
    for await (const line of verifyPack(files(hidden))) lines.push(line);
    expect(lines).toContain("It uses pseudonyms for outsiders, and the entries’ details are left out.");
    expect(JSON.parse(strFromU8(hidden["manifest.json"])).pseudonyms).toBe(true);
  });

  test("no outsider is named in any of its files, and each stands for the same one everywhere", () => {
    for (const [path, bytes] of Object.entries(hidden)) {
      const text = path.endsWith(".pdf")
        ? execFileSync("pdftotext", ["-layout", "-", "-"], { input: bytes }).toString()
        : strFromU8(bytes);
      expect([path, OUTSIDERS.exec(text)?.[0]]).toEqual([path, undefined]);
    }
    const [, pseudonym] = /"email":"(p-[^"]+)"/.exec(strFromU8(hidden[`estate/${TO}.jsonl`]))!;
    const [row] = parse(strFromU8(hidden["register.csv"]), { columns: true }) as Record<string, string>[];
    expect([row["Audience"], row.Organisations]).toEqual([
      `${pseudonym}, ${organisation(pseudonym)}`,
      organisation(pseudonym),
    ]);
  });

  const organisation = (pseudonym: string) => pseudonym.slice(pseudonym.indexOf("@") + 1);

  test("its key stays here: who it is can be told, which the ledger says, and the key outlives a change of the master key", async () => {
    const [, pseudonym] = /"email":"(p-[^"]+)"/.exec(strFromU8(hidden[`estate/${TO}.jsonl`]))!;
    await rotateKey(house.app, ADA);
    await forgetOlderKeys(house.app, ADA);
    expect(await whose(house.app, made.seq, pseudonym, ADA)).toBe("out@quay.example");
    expect(await whose(house.app, made.seq, organisation(pseudonym), ADA)).toBe("quay.example");
    expect(await entriesOfKind(house.db, "pseudonym-looked-up")).toHaveLength(2);
    await expect(whose(house.app, made.seq, "p-0@o-0.invalid", ADA)).rejects.toThrow("Nobody known here");
    await expect(whose(house.app, 1, pseudonym, ADA)).rejects.toThrow("has no pseudonyms");
  });

  test("one that would have to hold an entry from before details is refused, with the day from which it can be had", async () => {
    const { seq } = await house.db
      .selectFrom("ledger")
      .select((eb) => eb.fn.max("seq").as("seq"))
      .executeTakeFirstOrThrow();
    const old = { at: rfc3339(T), actor: ADA, kind: "note.left", previous: "", hash: "", nodes: Buffer.alloc(0) };
    const body = JSON.stringify({ shareId: "l", text: "Asked out@quay.example" });
    await house.db
      .insertInto("ledger")
      .values({ ...old, seq: Number(seq) + 1, body })
      .execute();
    const asked = { from: FROM, to: TO, scope: "", pseudonyms: true };
    await expect(makePack(makerIn(house.app), asked, ADA)).rejects.toThrow("once something has been written since");
    const plain = { ...old, seq: Number(seq) + 2, kind: "password.changed", body: "{}" };
    await house.db.insertInto("ledger").values(plain).execute();
    const when = `from ${rfc3339(T + DAY).slice(0, 10)} on`;
    await expect(beginPack(house.app, asked, ADA)).rejects.toThrow(when);
    expect(house.app.packs.making).toBeNull();
  });
});

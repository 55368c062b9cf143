import { mkdirSync, mkdtempSync, readFileSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { unzipSync } from "fflate";
import fc from "fast-check";
import { type PackFiles, verifyPack } from "@/core/evidence/verifyPack";
import { DAY, rfc3339 } from "@/core/time/instant";
import { makePack } from "@/server/evidence/pack/make";
import { zipFiles } from "@/server/evidence/pack/zipFiles";
import { makeDueCheckpoints } from "@/server/records/ledger/checkpoints";
import { appIn, makerIn } from "./app";
import { head, T } from "./records";
import { importEstate } from "@/server/stores/importEstate";

// Each check reads all of a pack: a few bytes stand for the drawn report, which is listed with its hash like all the rest.
jest.mock("@/server/evidence/report/draw", () => ({ drawn: async () => Buffer.from("%PDF-1.7\n") }));

/** Whatever is changed in a pack is noticed, byte by byte. */
const ADA = "ada@home.example";
const [FROM, TO] = [T - DAY, T].map((at) => rfc3339(at).slice(0, 10));
/** `npm run soak` changes every byte. */
const STEP = process.env.LATCH_SOAK ? 1 : 4;
/** Drawn and built by others; each is listed with its hash like all the rest. */
const LARGE = ["report.pdf", "verify.html"];
let zip: Buffer;
let pack: Record<string, Uint8Array>;

beforeAll(async () => {
  // A small page in place of the one that is built: each check reads it.
  const root = mkdtempSync(join(tmpdir(), "latch-root-"));
  mkdirSync(join(root, "dist"));
  writeFileSync(join(root, "dist/verify.html"), "<!doctype html>\n");
  symlinkSync(join(process.cwd(), "node_modules"), join(root, "node_modules"));
  process.env.LATCH_ROOT = root;
  const app = await appIn();
  await importEstate(app, [JSON.stringify(head())], { as: "house", name: "house.jsonl" });
  await makeDueCheckpoints(app);
  zip = readFileSync((await makePack(makerIn(app), { from: FROM, to: TO, scope: "" }, ADA)).path);
  pack = unzipSync(zip);
  await app.close();
});
afterAll(() => delete process.env.LATCH_ROOT);

const files = (some: Record<string, Uint8Array>): PackFiles => ({
  paths: Object.keys(some),
  async *open(path) {
    yield some[path];
  },
});

/** What is said of a pack that holds; null of one that doesn't. */
async function said(some: Record<string, Uint8Array>): Promise<string | null> {
  try {
    let text = "";
    for await (const sentence of verifyPack(files(some))) text += `${sentence}\n`;
    return text;
  } catch {
    return null;
  }
}
/** Whether a pack holds. */
const holds = async (some: Record<string, Uint8Array>) => (await said(some)) !== null;
/** Two packs hold the same. */
const isSame = (some: Record<string, Uint8Array>) =>
  Object.keys(some).length === Object.keys(pack).length &&
  Object.entries(pack).every(([path, bytes]) => some[path] && Buffer.compare(bytes, some[path]) === 0);

test(`each byte of what it holds, ${STEP === 1 ? "" : "one in four, "}changed in turn, is noticed`, async () => {
  const contents = Object.entries(pack).filter(([path]) => !LARGE.includes(path));
  const all = contents.reduce((sum, [, bytes]) => sum + bytes.length, 0);
  expect([all > 8_000, all < 20_000, await holds(pack)]).toEqual([true, true, true]);
  const unnoticed: string[] = [];
  for (const [path, bytes] of contents)
    for (let i = 0; i < bytes.length; i += STEP) {
      const changed = bytes.slice();
      // Another bit for each: a digit turns into another digit, a letter into a capital, a line end into something else.
      changed[i] ^= 1 << ((i / STEP) % 8);
      if (await holds({ ...pack, [path]: changed })) unnoticed.push(`${path} at ${i}`);
    }
  expect(unnoticed).toEqual([]);
}, 240_000);

test("details that are missing are told, and are no reason for the rest not to hold", async () => {
  const without = { ...pack, "ledger/details.jsonl": new Uint8Array(0) };
  expect(await said(without)).toContain(
    "0 details are those that the entries speak of. 1 other detail that entries speak of isn’t in the pack.",
  );
  expect(await said(pack)).not.toContain("other detail");
});

const change = fc.record({ at: fc.nat({ max: 2 ** 30 }), by: fc.integer({ min: 1, max: 255 }) });
const changedBy = ({ at, by }: { at: number; by: number }) => {
  const changed = Buffer.from(zip);
  changed[at % zip.length] ^= by;
  return changed;
};

test("of 2,000 random changes of the ZIP each is noticed or told, or changes nothing in it", async () => {
  const ofOriginal = await said(pack);
  await fc.assert(
    fc.asyncProperty(change, async (one) => {
      const read = unzipped(changedBy(one));
      // Details may have been erased since: a pack without them holds, and says that they are missing.
      expect(read === null || isSame(read) || (await said(read)) !== ofOriginal).toBe(true);
    }),
    { numRuns: 2_000 },
  );
}, 240_000);

/** Null where it is no ZIP any more. */
function unzipped(bytes: Uint8Array): Record<string, Uint8Array> | null {
  try {
    return unzipSync(bytes);
  } catch {
    return null;
  }
}

test("the same by the reader that the command has", async () => {
  const path = join(mkdtempSync(join(tmpdir(), "latch-tampered-")), "pack.zip");
  const ofOriginal = await said(pack);
  await fc.assert(
    fc.asyncProperty(change, async (one) => {
      writeFileSync(path, changedBy(one));
      const outcome = await byCommand(path);
      const read = unzipped(changedBy(one));
      expect(outcome !== ofOriginal || (read !== null && isSame(read))).toBe(true);
    }),
    { numRuns: 100 },
  );
}, 120_000);

/** What is said of a pack that holds; null of one that doesn't. */
async function byCommand(path: string): Promise<string | null> {
  let opened: Awaited<ReturnType<typeof zipFiles>> | undefined;
  try {
    opened = await zipFiles(path);
    let text = "";
    for await (const sentence of verifyPack(opened)) text += `${sentence}\n`;
    return text;
  } catch {
    return null;
  } finally {
    opened?.close();
  }
}

test("an earlier checkpoint that was swapped for another signed one is noticed", async () => {
  const [older] = Object.keys(pack).filter((path) => path.startsWith("ledger/checkpoints/"));
  expect(await holds({ ...pack, [older]: pack["ledger/checkpoint.txt"] })).toBe(false);
});

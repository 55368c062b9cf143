import { appendFileSync, mkdtempSync, readFileSync, statSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { readColumnFile, writeColumnFile } from "./columnFile";

const path = join(mkdtempSync(join(tmpdir(), "latch-columns-")), "columns");
const value = {
  words: ["Ærø", "𝄞"],
  at: -Infinity,
  known: new Map([["a", new Set([1])]]),
  empty: new Int32Array(0),
  bytes: Uint8Array.of(1, 2, 3),
  marks: Uint16Array.of(65_535),
  places: Int32Array.of(-1, 7),
  many: Uint32Array.from({ length: 10_000 }, (_, i) => i * 429_497),
  instants: Float64Array.of(-Infinity, 1.5, Infinity),
};

beforeEach(() => writeColumnFile(path, value));

test("what is written is read again, and each column has memory of its own, without the rest", async () => {
  const read = (await readColumnFile(path)) as typeof value;
  expect(read).toEqual(value);
  const sizes = [read.bytes, read.marks, read.places, read.many, read.instants].map(({ buffer }) => buffer.byteLength);
  expect(sizes).toEqual([3, 2, 8, 40_000, 24]);
  expect(statSync(path).mode & 0o777).toBe(0o600);
});

test("it is written over whole, with columns that are parts of longer ones", async () => {
  const part = Int32Array.of(1, 2, 3, 4).subarray(1, 3);
  await writeColumnFile(path, { part, again: part });
  expect(await readColumnFile(path)).toEqual({ part: Int32Array.of(2, 3), again: Int32Array.of(2, 3) });
});

test.each([0, 5, 24, 100, 40_000])("a file cut to %d bytes says nothing", async (length) => {
  truncateSync(path, length);
  expect(await readColumnFile(path)).toBeNull();
});

test("neither does one that is longer, of another kind, damaged in its head, or not there", async () => {
  const whole = readFileSync(path);
  appendFileSync(path, "x");
  expect(await readColumnFile(path)).toBeNull();
  writeFileSync(path, Buffer.from(whole).fill(0, 0, 8));
  expect(await readColumnFile(path)).toBeNull();
  writeFileSync(path, Buffer.from(whole).fill(0xff, 24, 60));
  expect(await readColumnFile(path)).toBeNull();
  expect(await readColumnFile(`${path}.none`)).toBeNull();
});

import { createHash } from "node:crypto";
import fs, { createWriteStream, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Writable } from "node:stream";
import { unzipSync } from "fflate";
import { PackWriter } from "./writer";

const MADE_AT = Date.UTC(2026, 10, 23, 9, 14) / 1_000;
const LINES = Array.from({ length: 20_000 }, (_, i) => `share ${i},Zoë's list\n`);
let packs: string;

beforeEach(() => {
  packs = mkdtempSync(join(tmpdir(), "latch-writer-"));
});
afterEach(() => {
  jest.restoreAllMocks();
  rmSync(packs, { recursive: true, force: true });
});

const writerWith = (signal?: AbortSignal, tell: (path: string) => void = () => {}) =>
  new PackWriter(packs, MADE_AT, tell, signal);

/** Writes a pack of two files as its maker does. */
async function make(writer: PackWriter, path: string) {
  try {
    await writer.write("register.csv", LINES);
    await writer.write("ledger/key.txt", Buffer.from("key"));
    await writer.end(path);
  } finally {
    await writer.discard();
  }
}

test("the ZIP holds each file under its path, told before it is written, and the list says its bytes and hash", async () => {
  const told: string[] = [];
  const writer = writerWith(undefined, (path) => told.push(path));
  const path = join(packs, "pack-1.zip");
  await make(writer, path);
  const text = Buffer.from(LINES.join(""));
  const held = unzipSync(readFileSync(path));
  expect(Object.keys(held)).toEqual(["register.csv", "ledger/key.txt"]);
  expect(Buffer.from(held["register.csv"]).equals(text)).toBe(true);
  expect(told).toEqual(["register.csv", "ledger/key.txt"]);
  expect(writer.listed().map(({ path, bytes, sha256 }) => [path, bytes, sha256])).toEqual([
    ["ledger/key.txt", 3, sha256Of(Buffer.from("key"))],
    ["register.csv", text.length, sha256Of(text)],
  ]);
  expect(readdirSync(packs)).toEqual(["pack-1.zip"]);
});

test("the same files give the same bytes", async () => {
  const paths = ["a.zip", "b.zip"].map((name) => join(packs, name));
  for (const path of paths) await make(writerWith(), path);
  expect(sha256Of(readFileSync(paths[0]))).toBe(sha256Of(readFileSync(paths[1])));
});

test("one that is stopped says so, and nothing of it stays", async () => {
  const stopping = new AbortController();
  const writer = writerWith(stopping.signal, (path) => path === "ledger/key.txt" && stopping.abort());
  await expect(make(writer, join(packs, "pack-1.zip"))).rejects.toThrow(/abort/i);
  expect(readdirSync(packs)).toEqual([]);
});

test.each([".zip", ".csv"])(
  "a disk that is full while a %s is written is said, and nothing of the pack stays",
  async (full) => {
    const real = createWriteStream;
    jest
      .spyOn(fs, "createWriteStream")
      .mockImplementation((path, options) =>
        String(path).endsWith(full) ? (fullDisk() as fs.WriteStream) : real(path, options),
      );
    await expect(make(writerWith(), join(packs, "pack-1.zip"))).rejects.toMatchObject({ code: "ENOSPC" });
    expect(readdirSync(packs)).toEqual([]);
  },
);

function sha256Of(bytes: Uint8Array): string {
  return createHash("sha256").update(bytes).digest("hex");
}

/** A file that takes a little, and then says what a full disk says. */
function fullDisk(): Writable {
  let taken = 0;
  return new Writable({
    write(piece: Buffer, _, done) {
      taken += piece.length;
      done(
        taken > 1_000 ? Object.assign(new Error("ENOSPC: no space left on device, write"), { code: "ENOSPC" }) : null,
      );
    },
  });
}

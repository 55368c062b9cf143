import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, rename, rm } from "node:fs/promises";
import { dirname, join } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { v7 as uuid } from "uuid";
import { ZipFile } from "yazl";
import type { Manifest } from "@/core/evidence/pack";
import type { Seconds } from "@/core/time/instant";
import { MAKING } from "./abandoned";
import type { Pieces } from "./ledgerFiles";

/**
 * Writes the files of a pack one by one, and each into the ZIP while the next is being written. The same files give the
 * same bytes: they stand in the order in which they were written, and are dated with the time at which the pack was made.
 */
export class PackWriter {
  private readonly written = new Map<string, { bytes: number; sha256: string }>();
  private readonly folder: string;
  private readonly zip = new ZipFile();
  private zipping: Promise<void> | undefined;

  constructor(
    packs: string,
    private readonly madeAt: Seconds,
    private readonly tell: (path: string) => void,
    private readonly signal: AbortSignal | undefined,
  ) {
    this.folder = join(packs, `${MAKING}${uuid()}`);
    this.zip.on("error", (error) => this.output.destroy(error as Error));
  }

  /** @param pieces its text, or all of its bytes at once */
  async write(path: string, pieces: Pieces | Uint8Array) {
    this.tell(path);
    const file = join(this.folder, path);
    await mkdir(dirname(file), { recursive: true, mode: 0o700 });
    this.zipping ??= this.beginZip();
    const hash = createHash("sha256");
    let bytes = 0;
    const counting = new Transform({
      transform(piece: Buffer, _, done) {
        hash.update(piece);
        bytes += piece.length;
        done(null, piece);
      },
    });
    const from = pieces instanceof Uint8Array ? [pieces] : gathered(pieces);
    await pipeline(Readable.from(from), counting, createWriteStream(file, { mode: 0o600 }), {
      signal: this.signal,
    });
    const told = { bytes, sha256: hash.digest("hex") };
    this.written.set(path, told);
    this.zip.addFile(file, path, { mtime: new Date(this.madeAt * 1_000), mode: 0o100644, forceDosTimestamp: true });
    return told;
  }

  /** The files written so far, as a manifest lists them. */
  listed(): Manifest["files"] {
    return [...this.written.keys()].sort().map((path) => ({ path, ...this.written.get(path)! }));
  }

  /** All are written. @param path where the ZIP is put once it is whole */
  async end(path: string): Promise<void> {
    this.zip.end();
    await this.zipping;
    await rename(this.zipFile, path);
  }

  /** Nothing stays but the ZIP that has been put in its place. */
  async discard(): Promise<void> {
    this.output.destroy();
    await this.zipping?.catch(() => undefined);
    await rm(this.folder, { recursive: true, force: true });
    await rm(this.zipFile, { force: true });
  }

  private get zipFile(): string {
    return `${this.folder}.zip`;
  }

  /** The types say less of it than what it is. */
  private get output(): Readable {
    return this.zip.outputStream as Readable;
  }

  private beginZip(): Promise<void> {
    const zipping = pipeline(this.output, createWriteStream(this.zipFile, { mode: 0o600 }), { signal: this.signal });
    // Whoever ends it hears of it.
    zipping.catch(() => undefined);
    return zipping;
  }
}

const PIECE = 64 * 1024;

/** Joins lines, since each piece that goes through a stream costs more than a line. */
async function* gathered(pieces: Pieces): AsyncGenerator<Buffer> {
  let text = "";
  for await (const piece of pieces) {
    text += piece;
    if (text.length < PIECE) continue;
    yield Buffer.from(text);
    text = "";
  }
  yield Buffer.from(text);
}

import { type FileHandle, open, rename, rm } from "node:fs/promises";
import { Deserializer, Serializer } from "node:v8";

/*
 * A value with columns in it, as a file: how long its two parts are; the value without its columns, as V8 writes values;
 * and the columns one after the other. Each column is read straight to where it stays, in memory of its own, so that
 * nothing else of the file is kept and one that is replaced later is let go of.
 */

type Column = Float64Array | Int32Array | Uint32Array | Uint16Array | Uint8Array;
const KINDS = [Float64Array, Int32Array, Uint32Array, Uint16Array, Uint8Array];

/** Of the file, and then the lengths of the head and of the columns. */
const SIGN = 0x4c41_5443_4843_4f4cn;
const START = 24;

/** Leaves the columns out of what it writes, and notes in their place where they stand. */
class Head extends Serializer {
  readonly columns: Column[] = [];
  length = 0;

  _writeHostObject(column: Column) {
    this.writeUint32(KINDS.findIndex((kind) => column instanceof kind));
    this.writeDouble(this.length);
    this.writeUint32(column.length);
    this.columns.push(column);
    this.length += column.byteLength;
  }
}

/** Makes the columns that it reads of, and notes where in the file each of them is. */
class HeadReader extends Deserializer {
  readonly columns: { column: Column; offset: number }[] = [];

  _readHostObject(): Column {
    const Kind = KINDS[this.readUint32()];
    const offset = this.readDouble();
    const column = new Kind(this.readUint32());
    this.columns.push({ column, offset });
    return column;
  }
}

/** Writes a value whole, or leaves what was there. */
export async function writeColumnFile(path: string, value: unknown): Promise<void> {
  const head = new Head();
  // The types don’t have it.
  (
    head as unknown as { _setTreatArrayBufferViewsAsHostObjects(yes: boolean): void }
  )._setTreatArrayBufferViewsAsHostObjects(true);
  head.writeHeader();
  head.writeValue(value);
  const written = head.releaseBuffer();
  const start = Buffer.alloc(START);
  start.writeBigUInt64LE(SIGN, 0);
  start.writeBigUInt64LE(BigInt(written.length), 8);
  start.writeBigUInt64LE(BigInt(head.length), 16);
  const temporary = `${path}.new`;
  await rm(temporary, { force: true });
  const file = await open(temporary, "wx", 0o600);
  try {
    await file.writeFile(start);
    await file.writeFile(written);
    for (const column of head.columns) await file.writeFile(bytesOf(column));
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(temporary, path);
}

/** @returns null where there is no such file, or not a whole one */
export async function readColumnFile(path: string): Promise<unknown> {
  const file = await open(path).catch(() => null);
  if (!file) return null;
  try {
    const start = Buffer.alloc(START);
    await readInto(file, start, 0);
    const head = Number(start.readBigUInt64LE(8));
    const length = Number(start.readBigUInt64LE(16));
    const { size } = await file.stat();
    if (start.readBigUInt64LE(0) !== SIGN || size !== START + head + length) return null;
    const written = Buffer.allocUnsafeSlow(head);
    await readInto(file, written, START);
    const reader = new HeadReader(written);
    reader.readHeader();
    const value: unknown = reader.readValue();
    for (const { column, offset } of reader.columns) await readInto(file, bytesOf(column), START + head + offset);
    return value;
  } catch {
    // A file that was damaged says nothing; the facts say all.
    return null;
  } finally {
    await file.close();
  }
}

function bytesOf({ buffer, byteOffset, byteLength }: Column): Uint8Array {
  return new Uint8Array(buffer, byteOffset, byteLength);
}

/** Fills a place from a file; one reading brings no more than two gigabytes. */
async function readInto(file: FileHandle, place: Uint8Array, position: number): Promise<void> {
  for (let done = 0; done < place.length;) {
    const { bytesRead } = await file.read(place, done, Math.min(place.length - done, MOST_AT_ONCE), position + done);
    if (bytesRead === 0) throw new Error("the file ends too soon");
    done += bytesRead;
  }
}
const MOST_AT_ONCE = 2 ** 30;

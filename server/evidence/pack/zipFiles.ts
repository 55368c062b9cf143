import { type Entry, open, type ZipFile } from "yauzl";
import type { PackFiles } from "@/core/evidence/verifyPack";

/** A pack that can't be read as a ZIP. */
export class NoZip extends Error {}

/** The files of a ZIP, each read from disk on demand. @throws {NoZip} */
export async function zipFiles(path: string): Promise<PackFiles & { close(): void }> {
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, file) =>
      error ? reject(new NoZip(`${path}: ${error.message}`)) : resolve(file),
    ),
  );
  const entries = await allEntries(zip, path);
  return {
    paths: entries.map(({ fileName }) => fileName),
    open: (name) =>
      pieces(
        zip,
        entries.find(({ fileName }) => fileName === name)!,
      ),
    close: () => zip.close(),
  };
}

function allEntries(zip: ZipFile, path: string): Promise<Entry[]> {
  const entries: Entry[] = [];
  return new Promise((resolve, reject) => {
    zip.on("entry", (entry: Entry) => {
      entries.push(entry);
      zip.readEntry();
    });
    zip.once("end", () => resolve(entries));
    zip.once("error", (error: Error) => reject(new NoZip(`${path}: ${error.message}`)));
    zip.readEntry();
  });
}

async function* pieces(zip: ZipFile, entry: Entry): AsyncGenerator<Uint8Array> {
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
  );
  for await (const piece of stream) yield piece as Buffer;
}

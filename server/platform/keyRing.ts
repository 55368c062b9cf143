import { createHash, randomBytes } from "node:crypto";
import { existsSync, readFileSync, renameSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Settings } from "./settings";

const KEY_BYTES = 32;
const ID_LENGTH = 8;

/** A secret that keys are derived from. Its id stands in whatever is sealed or signed by them, and tells nothing of it. */
export interface Key {
  id: string;
  secret: string;
}

/**
 * The secrets of one application, the newest first: LATCH_SECRET, LATCH_OLDER_SECRET, then those of the key file, one a
 * line, which is made at first start where there is no LATCH_SECRET. By the newest is sealed and signed, by all is read.
 */
export class KeyRing {
  private read = { at: "", keys: [] as Key[] };
  private readonly file: string;

  constructor(private readonly settings: Pick<Settings, "secret" | "olderSecret" | "data">) {
    this.file = join(settings.data, "key");
  }

  get newest(): Key {
    return this.keys()[0];
  }

  /** Whether the newest comes from LATCH_SECRET, and not from the key file. */
  get isSetOutside(): boolean {
    return this.settings.secret !== undefined;
  }

  keys(): readonly Key[] {
    const { secret, olderSecret } = this.settings;
    const outside = [secret, olderSecret].filter((one) => one !== undefined).map(keyOf);
    return [...outside, ...this.inFile()];
  }

  find(id: string): Key | undefined {
    return this.keys().find((key) => key.id === id);
  }

  /** Puts a new key before those in the file. Whoever has the file open follows at their next look. */
  add(): void {
    this.write([keyOf(fresh()), ...this.inFile()]);
  }

  /** @returns how many are gone */
  forgetOlder(): number {
    const [newest, ...older] = this.inFile();
    if (older.length > 0) this.write([newest]);
    return older.length;
  }

  private inFile(): Key[] {
    if (!existsSync(this.file)) {
      if (this.isSetOutside) return [];
      this.write([keyOf(fresh())]);
    }
    const { mtimeMs, ino } = statSync(this.file);
    const at = `${mtimeMs} ${ino}`;
    if (this.read.at !== at) {
      const lines = readFileSync(this.file, "utf8")
        .split("\n")
        .filter((line) => line !== "");
      this.read = { at, keys: lines.map(keyOf) };
    }
    return this.read.keys;
  }

  /** Under another name first: whoever reads it meanwhile reads the whole of the one or of the other. */
  private write(keys: readonly Key[]) {
    const fresh = `${this.file}.new`;
    writeFileSync(fresh, keys.map(({ secret }) => secret).join("\n"), { mode: 0o600 });
    renameSync(fresh, this.file);
  }
}

const fresh = () => randomBytes(KEY_BYTES).toString("base64");

function keyOf(secret: string): Key {
  const id = createHash("sha256").update(`id\u0000${secret}`).digest("hex").slice(0, ID_LENGTH);
  return { id, secret };
}

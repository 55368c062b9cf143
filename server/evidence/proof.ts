import { listWords } from "@/core/text/words";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { isSignedBy, type NoteKey, NoNote, readNote, type SignedNote } from "@/core/ledger/checkpoint";
import type { Held, Proof } from "@/core/ledger/check";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { heldHere, lastCheckpoint } from "../records/ledger/checkpoints";
import { publicKeys } from "../records/ledger/keys";
import { verifyLedger } from "../records/ledger/verify";
import { witnesses } from "./witnesses";

/** What somebody supplies to compare the ledger with. */
interface Brought {
  /** A signed checkpoint that they have kept. */
  against?: SignedNote;
  /** A key that they have kept: the newest checkpoint must be signed by it. */
  key?: NoteKey;
}

/**
 * Checks the whole ledger: by itself, against every checkpoint that is kept here, against the newest that the folder of
 * witnesses holds, and against what somebody supplies.
 */
export async function proveLedger(app: Platform, brought: Brought = {}): Promise<Proof> {
  const outside = [...(await newestInFolder(app)), ...(brought.against ? [heldBy(brought.against, "you")] : [])];
  const stranger = await strangeSignature(app, outside, brought.key);
  if (stranger) return { unbroken: false, ...stranger };
  return verifyLedger(app.db, [...(await heldHere(app.db)), ...outside.map(({ held }) => held)]);
}

interface Outside {
  note: SignedNote;
  held: Held;
}

function heldBy(note: SignedNote, by: string): Outside {
  return { note, held: { ...note.checkpoint, by } };
}

/**
 * @returns the newest note in the folder, where there is one
 * @throws {Problem} if it can't be read, or holds something that isn't a checkpoint: then nothing can be compared
 */
async function newestInFolder(app: Platform): Promise<Outside[]> {
  const found: Outside[] = [];
  for (const { kind, to } of await witnesses(app)) {
    if (kind !== "folder") continue;
    const names = await readdir(to).catch(unreadable(to));
    const sizes = names.flatMap((name) => /^(\d+)\.txt$/.exec(name)?.[1] ?? []).map(Number);
    if (sizes.length === 0) continue;
    const path = join(to, `${Math.max(...sizes)}.txt`);
    found.push(heldBy(inFolder(path, await readFile(path, "utf8").catch(unreadable(path))), `the folder ${to}`));
  }
  return found;
}

const unreadable = (path: string) => (error: NodeJS.ErrnoException) => {
  throw new Problem(
    "conflict",
    `${path}, where checkpoints are kept outside, can’t be read (${error.code}): nothing was compared.`,
  );
};

function inFolder(path: string, text: string): SignedNote {
  try {
    return noteIn(path, text);
  } catch (error) {
    if (!(error instanceof NoNote)) throw error;
    throw new Problem(
      "conflict",
      `${error.message}: somebody changed it, or the disk is damaged. Nothing was compared.`,
    );
  }
}

/** @throws {NoNote} which names the file */
export function noteIn(path: string, text: string): SignedNote {
  try {
    return readNote(text);
  } catch (error) {
    throw error instanceof NoNote ? new NoNote(`${path}: ${error.message}`) : error;
  }
}

/** A forged ledger is signed by another key, or by no known key. */
async function strangeSignature(app: Platform, outside: readonly Outside[], key: NoteKey | undefined) {
  const keys = await publicKeys(app.db);
  const last = await lastCheckpoint(app.db);
  const newest = last && heldBy(readNote(last.note), "this database");
  for (const { note, held } of [...(newest ? [newest] : []), ...outside])
    if (!keys.some((one) => isSignedBy(note, one)))
      return {
        seq: held.size,
        why: `${held.by} holds a checkpoint of ${held.size} entries that no key of this ledger has signed: its key has changed, or it belongs to another ledger`,
      };
  if (key && newest && !isSignedBy(newest.note, key))
    return {
      seq: newest.held.size,
      why: `the newest checkpoint isn’t signed by the key ${key.id} that you hold, but by ${listWords(newest.note.signatures.map(({ id }) => id))}`,
    };
  return null;
}

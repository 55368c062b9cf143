import { hex } from "./bytes";
import { BEGINNING, canonicalText, entryTexts, type EntryText } from "./chain";
import type { Checkpoint } from "./checkpoint";
import { DETAIL, detailHash } from "./details";
import type { Sha256 } from "./hashing";
import { HASH_BYTES, isSame, leafHash, TreeEdge } from "./merkle";

/** An entry as it is kept. */
export interface KeptEntry extends EntryText {
  /** The hashes of the nodes of the tree that it completes, one after the other. */
  nodes: Uint8Array;
  /** Details that can name somebody outside; null where there are none, or they were erased. */
  detail: string | null;
  salt: Uint8Array | null;
}

/** The first thing that is wrong with a ledger. */
export interface Fault {
  /** Which entry it is about. */
  seq: number;
  why: string;
}

export type Proof = { unbroken: true; entries: number; root: string } | ({ unbroken: false } & Fault);

/** A checkpoint that was kept, here or outside. */
export interface Held extends Checkpoint {
  /** Who holds it, as "the folder of witnesses". */
  by: string;
}

/** Where a check begins: after how many entries, with which hash and which nodes. */
export interface CheckFrom {
  hash: string;
  edge: TreeEdge;
}

/**
 * Goes through a whole ledger from its beginning: that entries follow each other, that none was changed, that the nodes
 * kept are those of its tree, and that it has grown from every checkpoint that somebody holds.
 */
export class LedgerCheck {
  private seq: number;
  private hash: string;
  private readonly edge: TreeEdge;
  /** The smallest last. */
  private readonly held: Held[];

  /**
   * @param from where it begins, as it is kept: whoever checks the part before it finds whether that is right
   */
  constructor(
    private readonly sha256: Sha256,
    held: readonly Held[] = [],
    from: CheckFrom = { hash: BEGINNING, edge: new TreeEdge(sha256) },
  ) {
    this.hash = from.hash;
    this.edge = from.edge;
    this.seq = from.edge.size;
    this.held = held.filter(({ size }) => size > this.seq).sort((a, b) => b.size - a.size);
  }

  /** Takes the entry that comes next. Null where nothing is wrong with it. */
  take(entry: KeptEntry): Fault | null {
    const seq = ++this.seq;
    if (entry.seq !== seq) return { seq, why: `entry ${seq} is missing` };
    if (entry.previous !== this.hash) return { seq, why: "it does not follow the entry before it" };
    const written = this.asWritten(entry);
    if (written === null) return { seq, why: "its content is not what was written" };
    const completed = this.edge.add(leafHash(this.sha256, written.text));
    if (!areKept(completed, entry.nodes)) return { seq, why: "the tree kept beside it is another" };
    if (!hasItsDetail(written.body, entry, this.sha256))
      return { seq, why: "the detail kept beside it is not what was written" };
    this.hash = entry.hash;
    return this.compared();
  }

  /** Once all entries were taken. */
  end(): Proof {
    const { seq } = this;
    const [longest] = this.held;
    if (longest)
      return {
        ...{ unbroken: false, seq: seq + 1 },
        why: `it ends with entry ${seq}, and ${longest.by} holds a checkpoint of ${longest.size} entries: the last ${longest.size - seq} were cut off`,
      };
    return { unbroken: true, entries: seq, root: hex(this.edge.root()) };
  }

  /** Its body, and what its leaf is of. Entries of before bodies were kept in their canonical form are hashed in that form too. */
  private asWritten(entry: KeptEntry): { body: string; text: string } | null {
    const { hashed, whole } = entryTexts(entry);
    if (this.sha256.hex(hashed) === entry.hash) return { body: entry.body, text: whole };
    const body = canonicalOf(entry.body);
    if (body === null) return null;
    const canonical = entryTexts({ ...entry, body });
    return this.sha256.hex(canonical.hashed) === entry.hash ? { body, text: canonical.whole } : null;
  }

  private compared(): Fault | null {
    const { seq, held } = this;
    for (; held.at(-1)?.size === seq; held.pop())
      if (hex(held.at(-1)!.root) !== hex(this.edge.root()))
        return {
          seq,
          why: `it was rewritten up to here: ${held.at(-1)!.by} holds another checkpoint of ${seq} entries`,
        };
    return null;
  }
}

/** Whether what is kept is those hashes, one after the other. */
function areKept(hashes: readonly Uint8Array[], kept: Uint8Array): boolean {
  if (kept.length !== hashes.length * HASH_BYTES) return false;
  return hashes.every((hash, i) => isSame(hash, kept.subarray(i * HASH_BYTES, (i + 1) * HASH_BYTES)));
}

/** Null where a text isn't JSON: somebody has changed it. */
export function canonicalOf(text: string): string | null {
  try {
    return canonicalText(JSON.parse(text));
  } catch {
    return null;
  }
}

function hasItsDetail(body: string, { detail, salt }: KeptEntry, sha256: Sha256): boolean {
  if (detail === null || salt === null) return true;
  return body.includes(`"${DETAIL}":"${detailHash({ text: detail, salt }, sha256)}"`);
}

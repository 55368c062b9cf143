import { DETAILS_FILE } from "@/core/evidence/pack";
import { pemOf } from "@/core/evidence/verifyPack";
import { hex } from "@/core/ledger/bytes";
import { canonicalText, entryText } from "@/core/ledger/chain";
import { canonicalOf } from "@/core/ledger/check";
import { keyLine, type NoteKey } from "@/core/ledger/checkpoint";
import { leafHash } from "@/core/ledger/merkle";
import { namesOutright } from "@/core/ledger/details";
import { KINDS, type LedgerKind } from "@/core/ledger/kinds";
import { spelledToday } from "@/core/ledger/spelling";
import { DAY, rfc3339, seconds, type Seconds, utcDay } from "@/core/time/instant";
import type { z } from "zod";
import { Problem } from "../../platform/problem";
import type { Reads } from "../../platform/db/open";
import type { LedgerTable } from "../../platform/db/schema";
import { checkpointsBetween } from "../../records/ledger/checkpoints";
import { entriesFrom, firstSince, lastSeq } from "../../records/ledger/ledger";
import { sha256 } from "../../records/ledger/sha256";
import { consistencyProof, inclusionProof } from "../../records/ledger/tree";

/** The part of the ledger in a pack: from the entry before the span to the pack's own, with which the checkpoint ends. */
export interface LedgerScope {
  first: number;
  /** The number of the pack's own entry, and so the size of the checkpoint. */
  size: number;
  note: string;
  keys: readonly NoteKey[];
  /** Whether details that name outsiders are included. */
  hasDetails: boolean;
}

/** The entry before the first of a span; the first one where there is none. */
export async function firstEntry(db: Reads, from: Seconds): Promise<number> {
  return Math.max(1, (await firstSince(db, rfc3339(from))) - 1);
}

/**
 * Checks that no entry from one on names outsiders in its body, as entries did before details were stored separately.
 * @throws {Problem} if one does, with the first day from which a pack needn't contain it
 */
export async function checkNamesNobody(db: Reads, first: number): Promise<void> {
  const last = await lastSeq(db);
  let isBehind = false;
  let day: string | null = null;
  for (const { at, kind, body } of entriesFrom(db, first, last)) {
    if (namesOutsiders(kind, body)) [isBehind, day] = [true, null];
    // A pack begins with the entry before its span, which must be free of names too.
    else if (isBehind && day === null) day = utcDay(seconds(at) + DAY);
  }
  if (!isBehind) return;
  const when = day === null ? "once something has been written since" : `from ${day} on`;
  throw new Problem(
    "bad",
    `The ledger’s entries from that time name outsiders and can’t be left out. Packs with pseudonyms are possible ${when}.`,
  );
}

function namesOutsiders(kind: string, body: string): boolean {
  const schema = KINDS[spelledToday(kind) as LedgerKind] as z.ZodObject | undefined;
  return schema === undefined || namesOutright(schema, JSON.parse(body));
}

/** Every file of the ledger in a pack: its path, and its pieces. */
export async function ledgerFiles(db: Reads, scope: LedgerScope): Promise<[path: string, pieces: Pieces][]> {
  const earlier = await checkpointsBetween(db, scope.first, scope.size);
  const details = mapped(entriesFrom(db, scope.first, scope.size), detailLine);
  return [
    ["ledger/checkpoint.txt", [scope.note]],
    ...earlier.map(({ size, note }): [string, Pieces] => [`ledger/checkpoints/${size}.txt`, [note]]),
    ["ledger/consistency.jsonl", earlier.map(({ size }) => consistencyLine(db, size, scope.size))],
    ...(scope.hasDetails ? [[DETAILS_FILE, details] as [string, Pieces]] : []),
    ["ledger/entries.jsonl", mapped(entriesFrom(db, scope.first, scope.size), (row) => `${leafText(row)}\n`)],
    ["ledger/key.pem", [pemOf(scope.keys[0])]],
    ["ledger/proofs.jsonl", mapped(entriesFrom(db, scope.first, scope.size), (row) => proofLine(db, row, scope.size))],
  ];
}

export type Pieces = Iterable<string> | AsyncIterable<string>;

export function keyFile(keys: readonly NoteKey[]): string {
  return keys.map((key) => `${keyLine(key)}\n`).join("");
}

function* mapped<T>(all: Iterable<T>, piece: (one: T) => string): Generator<string> {
  for (const one of all) yield piece(one);
}

/** The bytes of the entry's leaf: older bodies that aren't stored in canonical form are converted. */
function leafText(row: LedgerTable): string {
  return entryText({ ...row, body: canonicalOf(row.body) ?? row.body });
}

function proofLine(db: Reads, row: LedgerTable, size: number): string {
  const seq = row.seq - 1;
  const path = inclusionProof(db, seq, size).map(hex);
  return `${JSON.stringify({ seq, leaf: hex(leafHash(sha256, leafText(row))), path })}\n`;
}

function consistencyLine(db: Reads, from: number, to: number): string {
  return `${JSON.stringify({ from, to, proof: consistencyProof(db, from, to).map(hex) })}\n`;
}

function detailLine({ seq, detail, salt }: LedgerTable): string {
  return detail === null || salt === null
    ? ""
    : `${canonicalText({ seq, salt: hex(salt), detail: JSON.parse(detail) })}\n`;
}

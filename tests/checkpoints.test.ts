import { sql } from "kysely";
import { readNote, isSignedBy, keyLine, readKeyLine } from "@/core/ledger/checkpoint";
import { entryText } from "@/core/ledger/chain";
import { holdsConsistency, holdsInclusion, leafHash } from "@/core/ledger/merkle";
import { writing } from "@/server/platform/db/open";
import { heldHere, lastCheckpoint, makeCheckpointNow, makeDueCheckpoints } from "@/server/records/ledger/checkpoints";
import { changeKey, publicKeys, resealLedgerKeys } from "@/server/records/ledger/keys";
import { append } from "@/server/records/ledger/ledger";
import { openLedger, type OpenedLedger } from "./openLedger";
import { sha256 } from "@/server/records/ledger/sha256";
import { consistencyProof, inclusionProof, rootAt } from "@/server/records/ledger/tree";
import { firstFault, verifyLedger, verifyPart } from "@/server/records/ledger/verify";

let opened: OpenedLedger;
beforeEach(async () => {
  opened = await openLedger();
});
afterEach(() => opened.db.destroy());

const write = (count: number) => opened.write(count);
const sizes = async () =>
  (await opened.db.selectFrom("checkpoint").select("size").orderBy("size").execute()).map(({ size }) => size);

test("one is made for each day on which something was written, and none where nothing was", async () => {
  expect(await makeDueCheckpoints(opened)).toBe(0);
  await write(3);
  expect(await makeDueCheckpoints(opened)).toBe(1);
  await write(2);
  expect(await makeDueCheckpoints(opened)).toBe(0);
  opened.pass(1);
  expect(await makeDueCheckpoints(opened)).toBe(1);
  opened.pass(1);
  expect(await makeDueCheckpoints(opened)).toBe(0);
  expect(await sizes()).toEqual([3, 5]);
});

test("whatever closes is put beyond changing at once, each at its own place", async () => {
  await write(1);
  await makeDueCheckpoints(opened);
  const done = { docket: "d", ...{ staged: 0, sending: 0, done: 1, failed: 0, "set-aside": 0, "by-hand": 0 } };
  await append(opened.db, "dockets", "docket-done", done);
  await write(2);
  await append(opened.db, "dockets", "docket-done", done);
  await write(1);
  expect(await makeDueCheckpoints(opened)).toBe(2);
  expect(await sizes()).toEqual([1, 2, 5]);
});

test("one is signed by the ledger's key, and holds what every entry and every older one lead to", async () => {
  await write(300);
  await makeDueCheckpoints(opened);
  const { note } = (await lastCheckpoint(opened.db))!;
  const [key] = await publicKeys(opened.db);
  const read = readNote(note);
  expect(key.name).toBe("tight-latch/latch.hall.example:4310");
  expect([isSignedBy(read, key), isSignedBy(read, readKeyLine(keyLine(key)))]).toEqual([true, true]);
  const { size, root } = read.checkpoint;
  const entries = await opened.db.selectFrom("ledger").selectAll().orderBy("seq").execute();
  for (const entry of entries) {
    const index = entry.seq - 1;
    const path = inclusionProof(opened.db, index, size);
    const leaf = leafHash(sha256, entryText(entry));
    expect([index, holdsInclusion(sha256, { leaf, index, size, path, root })]).toEqual([index, true]);
  }
  for (const first of [1, 2, 3, 64, 100, 299, 300]) {
    const grown = { first, second: size, firstRoot: rootAt(opened.db, first), secondRoot: root };
    const proof = consistencyProof(opened.db, first, size);
    expect([first, holdsConsistency(sha256, grown, proof)]).toEqual([first, true]);
  }
});

test("after the key was changed, the first is signed by both, and then only by the new one", async () => {
  await write(1);
  await makeDueCheckpoints(opened);
  const key = await changeKey(opened, "ida@home.example");
  await makeDueCheckpoints(opened);
  const keys = await publicKeys(opened.db);
  expect(keys.map(({ id }) => id)).toEqual([key.id, expect.not.stringContaining(key.id)]);
  const first = readNote((await lastCheckpoint(opened.db))!.note);
  expect(keys.map((one) => isSignedBy(first, one))).toEqual([true, true]);
  await write(1);
  const { note } = await writing(opened.db, (tx) => makeCheckpointNow(opened, tx));
  expect(keys.map((one) => isSignedBy(readNote(note), one))).toEqual([true, false]);
});

test("a key that is changed before anything was signed is the newest all the same, whatever the keys are called", async () => {
  for (let i = 0; i < 8; i++) {
    const anew = await openLedger();
    const key = await changeKey(anew, "ida@home.example");
    expect((await publicKeys(anew.db)).map(({ id }) => id === key.id)).toEqual([true, false]);
    await anew.db.destroy();
  }
});

test("its private key is kept sealed, and sealed anew with the other secrets", async () => {
  await write(1);
  await makeDueCheckpoints(opened);
  const kept = () => opened.db.selectFrom("ledger_key").select("sealed").executeTakeFirstOrThrow();
  const { sealed } = await kept();
  expect(sealed).toMatch(/^k\./);
  opened.secrets.ring.add();
  expect(await writing(opened.db, (tx) => resealLedgerKeys(opened, tx))).toBe(1);
  expect((await kept()).sealed).not.toBe(sealed);
  await write(1);
  await writing(opened.db, (tx) => makeCheckpointNow(opened, tx));
  const [key] = await publicKeys(opened.db);
  expect(isSignedBy(readNote((await lastCheckpoint(opened.db))!.note), key)).toBe(true);
});

test("whoever can write the database and cuts or rewrites it all, hash by hash, is found by what is kept", async () => {
  await write(4);
  await makeDueCheckpoints(opened);
  const held = await heldHere(opened.db);
  await sql`drop trigger ledger_no_delete`.execute(opened.db);
  await sql`delete from ledger where seq > 2`.execute(opened.db);
  expect(await verifyLedger(opened.db)).toMatchObject({ unbroken: true, entries: 2 });
  expect(await verifyLedger(opened.db, held)).toMatchObject({ unbroken: false, seq: 3 });
  await opened.write(2, "another");
  expect(await verifyLedger(opened.db)).toMatchObject({ unbroken: true, entries: 4 });
  expect(await verifyLedger(opened.db, held)).toMatchObject({ unbroken: false, seq: 4 });
});

test("what was made can't be changed by a slip", async () => {
  await write(1);
  await makeDueCheckpoints(opened);
  const refusal = { message: expect.stringContaining("only added to") };
  await expect(opened.db.updateTable("checkpoint").set({ at: "x" }).execute()).rejects.toMatchObject(refusal);
  await expect(opened.db.deleteFrom("checkpoint").execute()).rejects.toMatchObject(refusal);
});

test("checked part by part, as in threads, it says the same as when it is checked as a whole", async () => {
  await write(12);
  await makeDueCheckpoints(opened);
  const held = await heldHere(opened.db);
  const parts = [0, 5, 8].map((after, i, all) => ({ after, to: all[i + 1] ?? Infinity }));
  const inParts = (given = held) => {
    const proofs = parts.map((part) => verifyPart(opened.db, part, given));
    return firstFault(proofs) ?? proofs.at(-1);
  };
  expect(inParts()).toEqual(await verifyLedger(opened.db, held));
  const longer = held.map((one) => ({ ...one, size: one.size + 3 }));
  expect(inParts(longer)).toEqual(await verifyLedger(opened.db, longer));
  await sql`drop trigger ledger_no_update`.execute(opened.db);
  for (const seq of [10, 6, 5, 2]) {
    await sql`update ledger set actor = 'you' where seq = ${seq}`.execute(opened.db);
    expect(await verifyLedger(opened.db, held)).toMatchObject({ unbroken: false, seq });
    expect(inParts()).toMatchObject({ unbroken: false, seq });
  }
  // Where a later part begins, it stands on what earlier parts check.
  await sql`update ledger set nodes = x'' where seq = 8`.execute(opened.db);
  expect(verifyPart(opened.db, parts[2], held)).toMatchObject({ unbroken: false, seq: 8 });
});

import { createHash } from "node:crypto";
import { constants } from "node:fs";
import { open } from "node:fs/promises";
import { join } from "node:path";
import { readNote } from "@/core/ledger/checkpoint";
import { base64 } from "@/core/ledger/bytes";
import type { WitnessKind } from "@/core/evidence/witness";
import { DAY, seconds } from "@/core/time/instant";
import { channelsOf, type Channels } from "../messages/channels";
import { afterSending } from "../messages/retrying";
import { mailBy, postWebhook, writeLog } from "../messages/sending";
import type { Platform } from "../platform/platform";
import type { CheckpointTable, WitnessTable } from "../platform/db/schema";
import { checkpointsAfter, lastCheckpoint } from "../records/ledger/checkpoints";
import { stamped } from "./stamping";
import { takeFolder, witnessRows } from "./witnesses";
import type { Selectable } from "kysely";

type Row = Selectable<WitnessTable>;
/** @param checkpoints that the witness hasn't had, the smallest first */
type Sending = (app: Platform, witness: Row, checkpoints: CheckpointTable[], channels: Channels) => Promise<void>;

/** Mails are bundled: nobody wants one for every docket. */
const MAIL_EVERY_S = DAY;

const SENDING: Record<WitnessKind, Sending> = {
  folder: keepInFolder,
  mail: (_, { target }, checkpoints, { mail }) => mailBy(mail, letter(target, checkpoints)),
  webhook: (app, _, checkpoints, { webhook }) =>
    postWebhook(app, webhook, "ledger.checkpoints", { checkpoints: checkpoints.map(({ at, note }) => ({ at, note })) }),
  log: (app, _, checkpoints, { syslog }) => writeLog(app, syslog, checkpoints.map(logEntry)),
  stamp: stampNewest,
};

/** Sends every witness the checkpoints that it hasn't had. One that doesn't take them is tried again, less and less often. */
export async function sendToWitnesses(app: Platform): Promise<void> {
  await takeFolder(app);
  const last = await lastCheckpoint(app.db);
  if (!last) return;
  const now = app.clock.seconds();
  const due = (await witnessRows(app, app.db)).filter((one) => one.sent_size < last.size && one.next_at <= now);
  const channels = due.length > 0 ? await channelsOf(app) : undefined;
  for (const witness of due) {
    if (witness.kind === "mail" && witness.sent_at && now - seconds(witness.sent_at) < MAIL_EVERY_S) continue;
    const checkpoints = await checkpointsAfter(app.db, witness.sent_size);
    const error = await SENDING[witness.kind](app, witness, checkpoints, channels!).then(
      () => null,
      (failed: Error) => failed.message,
    );
    await noteSent(app, witness, last.size, error);
  }
}

async function noteSent(app: Platform, { id, tries }: Row, size: number, error: string | null) {
  const now = app.clock.seconds();
  // It is never given up: without a witness nobody outside could tell.
  const after = afterSending({ tries, due_at: now }, error, now);
  const changed =
    error === null
      ? { sent_size: size, sent_at: app.clock.text(), tries: 0, next_at: 0, error }
      : { error, tries: tries + 1, next_at: after.next_at };
  await app.db.updateTable("witness").set(changed).where("id", "=", id).execute();
}

/** A file for each, named by its size; one that is there already is never written again. */
async function keepInFolder(_: Platform, { target }: Row, checkpoints: CheckpointTable[]) {
  for (const { size, note } of checkpoints) {
    const { O_CREAT, O_EXCL, O_WRONLY, O_NOFOLLOW } = constants;
    const file = await open(join(target, `${size}.txt`), O_CREAT | O_EXCL | O_WRONLY | O_NOFOLLOW, 0o444).catch(
      (error: NodeJS.ErrnoException) => {
        if (error.code === "EEXIST") return null;
        throw new Error(`The folder can’t be written to (${error.code}).`);
      },
    );
    await file?.writeFile(note).finally(() => file.close());
  }
}

function letter(to: string, checkpoints: readonly CheckpointTable[]) {
  const newest = checkpoints[checkpoints.length - 1];
  return {
    to,
    subject: `Checkpoint of the ledger: ${newest.size.toLocaleString("en-GB")} entries`,
    text:
      "Keep this mail where nobody who runs Tight Latch can change it. Who later cuts or rewrites the ledger is found " +
      "by comparing it with this: latch verify-ledger --against FILE, where FILE holds one of these parts.\n\n" +
      checkpoints.map(({ at, note }) => `Made ${at}:\n\n${note}`).join("\n"),
    attachments: [{ filename: `${newest.size}.txt`, content: newest.note, contentType: "text/plain; charset=utf-8" }],
  };
}

function logEntry({ at, size, note }: CheckpointTable) {
  const { checkpoint, signatures } = readNote(note);
  const [{ name, id, signature }] = signatures;
  const data = { origin: name, size: String(size), root: base64(checkpoint.root), key: id };
  return {
    ...{ at, severity: "low" as const, id: "checkpoint" },
    ...{ data: { ...data, signature: base64(signature) }, words: `Checkpoint of the ledger: ${size} entries` },
  };
}

/** The newest covers all that the others do. */
async function stampNewest({ db }: Platform, { id, target }: Row, checkpoints: CheckpointTable[]) {
  const { size, note } = checkpoints[checkpoints.length - 1];
  const answer = await stamped(target, createHash("sha256").update(note).digest());
  await db.insertInto("stamp").values({ size, witness_id: id, answer }).execute();
}

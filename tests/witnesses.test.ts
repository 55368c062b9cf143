import { execFileSync } from "node:child_process";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "kysely";
import { Webhook } from "standardwebhooks";
import { isSignedBy, keyLine, readNote } from "@/core/ledger/checkpoint";
import { witnessLines } from "@/server/evidence";
import { proveLedger } from "@/server/evidence/proof";
import { addWitness, removeWitness, witnesses } from "@/server/evidence/witnesses";
import { sendToWitnesses } from "@/server/evidence/witnessing";
import { setChannels } from "@/server/messages/channels";
import { makeDueCheckpoints } from "@/server/records/ledger/checkpoints";
import { changeKey, publicKeys } from "@/server/records/ledger/keys";
import { append, entriesBefore } from "@/server/records/ledger/ledger";
import { ONE_OF_EACH, openHouse } from "./house";
import { openLedger, type OpenedLedger } from "./openLedger";

const ADA = "ada@home.example";
let opened: OpenedLedger;
let folder: string;
let server: Server | undefined;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "latch-witnesses-"));
  opened = await openLedger({ witnesses: folder });
});
afterEach(async () => {
  await opened.db.destroy();
  await new Promise((closed) => (server ? server.close(closed) : closed(undefined)));
  server = undefined;
});

/** Writes, makes the day's checkpoint, and sends it. */
async function day(text = "note") {
  await opened.write(2, text);
  opened.pass(1);
  await makeDueCheckpoints(opened);
  await sendToWitnesses(opened);
}
const kept = () => readdirSync(folder).sort();
const noteOf = (size: number) => readNote(readFileSync(join(folder, `${size}.txt`), "utf8"));

/** Something that is asked by HTTP. @returns where it is */
async function listening(
  answer: (body: Buffer, headers: NodeJS.Dict<string | string[]>) => { status?: number; body?: Buffer },
) {
  server = createServer((request, response) => {
    const pieces: Buffer[] = [];
    request.on("data", (piece) => pieces.push(piece));
    request.on("end", () => {
      const { status = 200, body } = answer(Buffer.concat(pieces), request.headers);
      response.writeHead(status).end(body);
    });
  });
  await new Promise<void>((resolve) => server!.listen(0, "127.0.0.1", resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
}

test("the folder gets every checkpoint, each in a file that is never written again", async () => {
  await day();
  await day();
  // That the folder became a witness is an entry as well.
  expect(kept()).toEqual(["2.txt", "5.txt"]);
  const [key] = await publicKeys(opened.db);
  expect([noteOf(2), noteOf(5)].map((note) => isSignedBy(note, key))).toEqual([true, true]);
  chmodSync(join(folder, "5.txt"), 0o600);
  writeFileSync(join(folder, "5.txt"), "other");
  await opened.db.updateTable("witness").set({ sent_size: 0 }).execute();
  await sendToWitnesses(opened);
  expect(readFileSync(join(folder, "5.txt"), "utf8")).toBe("other");
  await expect(proveLedger(opened)).rejects.toThrow(/5\.txt: .*: somebody changed it, or the disk is damaged/);
  rmSync(folder, { recursive: true });
  await expect(proveLedger(opened)).rejects.toThrow("can’t be read (ENOENT): nothing was compared");
});

test("whoever rewrites or cuts the whole database, checkpoints and all, is found by the folder", async () => {
  await day();
  await day();
  expect(await proveLedger(opened)).toMatchObject({ unbroken: true, entries: 5 });
  for (const table of ["ledger", "checkpoint"]) await sql.raw(`drop trigger ${table}_no_delete`).execute(opened.db);
  await sql`delete from checkpoint where size > 2`.execute(opened.db);
  await sql`delete from ledger where seq > 2`.execute(opened.db);
  expect(await proveLedger(opened)).toEqual({
    ...{ unbroken: false, seq: 3 },
    why: `it ends with entry 2, and the folder ${folder} holds a checkpoint of 5 entries: the last 3 were cut off`,
  });
  await opened.write(3, "other");
  expect(await proveLedger(opened)).toMatchObject({ unbroken: false, seq: 5 });
});

test("whoever makes all of it anew, key and all, is found by the key that signed what the folder holds", async () => {
  await day();
  const folderOfOthers = mkdtempSync(join(tmpdir(), "latch-others-"));
  const other = await openLedger({ witnesses: folderOfOthers });
  await other.write(2);
  await makeDueCheckpoints(other);
  await sendToWitnesses(other);
  writeFileSync(join(folderOfOthers, "3.txt"), readFileSync(join(folder, "2.txt")));
  expect(await proveLedger(other)).toMatchObject({ why: expect.stringContaining("no key of this ledger has signed") });
  const [key] = await publicKeys(opened.db);
  rmSync(join(folderOfOthers, "3.txt"));
  expect(await proveLedger(other, { key })).toMatchObject({ why: expect.stringContaining("isn’t signed by the key") });
  expect(await proveLedger(other)).toMatchObject({ unbroken: true });
  await other.db.destroy();
});

test("a key that was changed as it should be is no stranger", async () => {
  await day();
  const [before] = await publicKeys(opened.db);
  await changeKey(opened, ADA);
  await makeDueCheckpoints(opened);
  await sendToWitnesses(opened);
  expect(await proveLedger(opened, { key: before })).toMatchObject({ unbroken: true });
  await day();
  expect(await proveLedger(opened, { key: before })).toMatchObject({ unbroken: false });
  expect(await proveLedger(opened, { against: noteOf(2) })).toMatchObject({ unbroken: true });
});

test("a webhook gets the checkpoints that it hasn't had, signed as all that goes there", async () => {
  const secret = `whsec_${Buffer.alloc(32, 1).toString("base64")}`;
  const got: { checkpoints: { note: string }[] }[] = [];
  let status = 500;
  const url = await listening((body, headers) => {
    const message = new Webhook(secret);
    // The clock stands still here, and the library goes by the machine's.
    const signature = message.sign(
      String(headers["webhook-id"]),
      new Date(Number(headers["webhook-timestamp"]) * 1_000),
      `${body}`,
    );
    expect(headers["webhook-signature"]).toBe(signature);
    if (status === 200) got.push(JSON.parse(`${body}`).data);
    return { status };
  });
  await setChannels(opened, { webhook: { url, secret } }, ADA);
  await addWitness(opened, { kind: "webhook", to: "" }, ADA);
  await day();
  const hook = async () => (await witnesses(opened)).find(({ kind }) => kind === "webhook");
  expect(await hook()).toMatchObject({
    kind: "webhook",
    sentSize: 0,
    error: expect.stringMatching(/^The webhook answered 500/),
  });
  expect(await witnessLines(opened)).toEqual([]);
  status = 200;
  await day();
  const notes = got[0].checkpoints.map(({ note }) => readNote(note).checkpoint.size);
  expect([got.length, notes]).toEqual([
    1,
    kept()
      .map((name) => parseInt(name))
      .sort((a, b) => a - b),
  ]);
  expect(await hook()).toMatchObject({ error: null, sentSize: notes.at(-1) });
});

test("the Desk says when a witness hasn't taken one for days, and the ledger who added and removed one", async () => {
  await addWitness(opened, { kind: "log", to: "" }, ADA);
  for (let i = 0; i < 4; i++) await day();
  expect(await witnessLines(opened)).toEqual([
    expect.objectContaining({ words: expect.stringMatching(/^1 witness hasn’t taken a checkpoint/), isPressing: true }),
  ]);
  await expect(addWitness(opened, { kind: "log", to: "" }, ADA)).rejects.toThrow("go there already");
  const [{ id: folderId }, { id }] = (await witnesses(opened)).sort((a, b) => a.kind.localeCompare(b.kind));
  await removeWitness(opened, id, ADA);
  await expect(removeWitness(opened, id, ADA)).rejects.toThrow("no longer");
  await expect(removeWitness(opened, folderId, ADA)).rejects.toThrow("LATCH_WITNESSES");
  const [{ kind, body }] = await entriesBefore(opened.db, Infinity, 1);
  expect([kind, body]).toEqual(["witness-removed", { witness: "log", to: "" }]);
});

test("a mail address gets one mail a day at most, with the checkpoint as a file", async () => {
  const { app, mails, close } = await openHouse(ONE_OF_EACH);
  await addWitness(app, { kind: "mail", to: "auditor@board.example" }, ADA);
  const send = async () => {
    await append(app.db, ADA, "enforcing-stopped", {});
    await append(app.db, "dockets", "docket-done", { docket: "d", ...NOTHING_LEFT });
    await makeDueCheckpoints(app);
    await sendToWitnesses(app);
    return mails.filter(({ to }) => (to as { text: string }).text === "auditor@board.example");
  };
  const [first] = await send();
  const [key] = await publicKeys(app.db);
  const note = readNote(first.attachments[0].content.toString("utf8"));
  expect([first.subject, isSignedBy(note, key)]).toEqual([expect.stringMatching(/^Checkpoint of the ledger/), true]);
  expect(first.text).toContain("latch verify-ledger --against");
  expect(await send()).toHaveLength(1);
  app.clock.standsAt = new Date(app.clock.standsAt!.getTime() + 86_400_000);
  const later = (await send())[1];
  expect(readNote(later.attachments[0].content.toString("utf8")).checkpoint.size).toBeGreaterThan(note.checkpoint.size);
  await close();
});
const NOTHING_LEFT = { staged: 0, sending: 0, done: 1, failed: 0, "set-aside": 0, "by-hand": 0 };

test("what the page about the ledger says to type checks a checkpoint with openssl alone", async () => {
  await day();
  const commands = /```sh\n([^]*?)```/.exec(readFileSync("docs/ledger.md", "utf8"))![1];
  const [key] = await publicKeys(opened.db);
  const cwd = mkdtempSync(join(tmpdir(), "latch-typed-"));
  const typed = (note: string) =>
    execFileSync("sh", ["-ec", commands], {
      cwd,
      env: { ...process.env, NOTE: note, KEY: keyLine(key).split("+").slice(2).join("+") },
      stdio: ["ignore", "pipe", "pipe"],
    });
  const note = join(folder, "2.txt");
  expect(`${typed(note)}`).toContain("Signature Verified Successfully");
  writeFileSync(join(cwd, "other"), readFileSync(note, "utf8").replace("\n2\n", "\n3\n"));
  expect(() => typed(join(cwd, "other"))).toThrow();
});

/** OpenSSL is the authority, and verifies what it answered. */
test("a time-stamping authority stamps the newest, by RFC 3161, and another program verifies the stamp", async () => {
  const authority = mkdtempSync(join(tmpdir(), "latch-authority-"));
  const openssl = (...args: string[]) =>
    execFileSync("openssl", args, { cwd: authority, stdio: ["ignore", "pipe", "pipe"] });
  writeFileSync(
    join(authority, "tsa.cnf"),
    [
      "[ tsa ]",
      "default_tsa = made",
      "[ made ]",
      "serial = ./serial",
      "signer_digest = sha256",
      "default_policy = 1.2.3.4.1",
    ]
      .concat(["digests = sha256", "ess_cert_id_alg = sha256", "crypto_device = builtin"])
      .join("\n"),
  );
  openssl("req", "-x509", "-newkey", "rsa:2048", "-nodes", "-keyout", "key.pem", "-out", "cert.pem", "-days", "2", "-subj", "/CN=Authority",
    "-addext", "extendedKeyUsage=critical,timeStamping", "-addext", "basicConstraints=CA:false"); // prettier-ignore
  let isOff = false;
  const url = await listening((body) => {
    if (isOff) return { body: Buffer.from("3003020102", "hex") };
    writeFileSync(join(authority, "query.tsq"), body);
    openssl("ts", "-reply", "-queryfile", "query.tsq", "-config", "tsa.cnf", "-signer", "cert.pem", "-inkey", "key.pem", "-out", "reply.tsr"); // prettier-ignore
    return { body: readFileSync(join(authority, "reply.tsr")) };
  });
  await expect(addWitness(opened, { kind: "stamp", to: "http://stamps.example/" }, ADA)).rejects.toThrow("https");
  await addWitness(opened, { kind: "stamp", to: url }, ADA);
  await day();
  const { size, answer } = await opened.db.selectFrom("stamp").selectAll().executeTakeFirstOrThrow();
  writeFileSync(join(authority, "note"), readFileSync(join(folder, `${size}.txt`)));
  writeFileSync(join(authority, "kept.tsr"), answer);
  const verify = ["ts", "-verify", "-in", "kept.tsr", "-CAfile", "cert.pem", "-data"];
  expect(`${openssl(...verify, "note")}`).toContain("Verification: OK");
  writeFileSync(join(authority, "other"), "other");
  expect(() => openssl(...verify, "other")).toThrow();
  isOff = true;
  await day();
  expect((await witnesses(opened)).find(({ kind }) => kind === "stamp")).toMatchObject({
    ...{ sentSize: size, error: "What the time-stamping authority answered is no answer to a request." },
  });
});

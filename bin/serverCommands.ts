import { type Command, Option } from "commander";
import { createWriteStream } from "node:fs";
import { basename } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { setTimeout } from "node:timers/promises";
import { ROLES, type SignInRole } from "../contract/roles";
import type { App } from "../server/app";
import { linesOf } from "../core/estate/lines";
import type { LeftOut } from "../server/records/exportEstate";
import { application, BY_COMMAND } from "./application";
import { piecesOf, readBytes, readStart, tellProblems } from "./files";
import { Refusal } from "./refusal";

interface ConnectOptions {
  name: string;
  url: string;
}

interface ImportOptions {
  as: string;
  lenient?: boolean;
}

interface ReportOptions {
  mapping: string;
  as?: string;
  lenient?: boolean;
  ended?: number;
}

interface DirectoryOptions {
  as: string;
  leavers?: boolean;
  inactive?: number;
}

interface MailOptions {
  host: string;
  port: number;
  from: string;
  user: string;
  secure?: boolean;
}

interface WatchesOptions {
  tell?: string;
  zone: string;
  days: number;
}

interface PersonOptions {
  name: string;
  role: SignInRole;
}

/** The verbs that work on the application's own database, in LATCH_DATA. They load the server only when called. */
export function addServerCommands(program: Command) {
  program
    .command("import <file>")
    .description("adds an estate file to what is known; nothing of it while it has errors")
    .requiredOption("--as <name>", "whose word the file is: a name for where it comes from, the same each time")
    .option("--lenient", "skip bad records, and say which")
    .action(importFile);
  program
    .command("import-report <file>")
    .description(
      "imports a report that a store exported, by a mapping that was kept; nothing of it while it has errors",
    )
    .requiredOption("--mapping <name>", "how it is read: as its columns were mapped on the Imports screen")
    .option("--as <name>", "as whose word it counts, where not the mapping’s own")
    .option("--lenient", "skip rows that can’t be read, and say which; then no share ends")
    .option("--ended <count>", "how many shares may end, where that is so many that it is held", Number)
    .action(importReportFile);
  program
    .command("directory <file>")
    .description("reads a directory's list of people, or of leavers; nothing of it while it has errors")
    .requiredOption("--as <name>", "what the directory is called: the same word each time")
    .option("--leavers", "the list has only those who leave; of everybody else it says nothing")
    .option("--inactive <count>", "how many it may leave inactive, where that is so many that it is held", Number)
    .action(readDirectory);
  program
    .command("set-home <domain...>")
    .description("sets the home domains: people with an address there are insiders")
    .action(setHome);
  program
    .command("export <file>")
    .description("writes the estate as it is now to an estate file")
    .option("--with-addresses", "with the addresses of links, which are live secrets")
    .action((file: string, { withAddresses }: { withAddresses?: boolean }) => exportFile(file, withAddresses ?? false));
  program
    .command("connect <id>")
    .description("adds a store to be read; its key comes from LATCH_STORE_KEY")
    .requiredOption("--name <name>", "what people call it")
    .requiredOption("--url <url>", "where it is")
    .action(connectStore);
  program
    .command("read")
    .description("reads what changed in every connected store")
    .option("--without-events", "leaves what happened there to a later reading")
    .action(({ withoutEvents }: { withoutEvents?: boolean }) => readAll(withoutEvents ?? false));
  program
    .command("tick")
    .description("does what is due: standing orders, owners to be asked, grace that is over, waivers that end")
    .action(doDue);
  program
    .command("set-mail")
    .description("sets the mail server; its password comes from LATCH_SMTP_PASSWORD")
    .requiredOption("--host <host>", "the server")
    .requiredOption("--port <port>", "its port", Number)
    .requiredOption("--from <email>", "the sender’s address")
    .option("--secure", "TLS from the start (implicit)")
    .option("--user <name>", "who signs in there", "")
    .action(setMail);
  program
    .command("add-watches")
    .description("adds the ready-made watches that are not there yet, switched on")
    .option("--tell <email>", "who gets a mail")
    .option("--zone <zone>", "by whose clocks a day begins", "UTC")
    .option("--days <days>", "so many past days raise alerts too", Number, 0)
    .action(addWatches);
  program
    .command("rotate-key")
    .description("seals all secrets by a new key; everybody signs in again")
    .action(rotateTheKey);
  program
    .command("forget-older-keys")
    .description("forgets all keys but the newest; addresses in earlier mails stop working")
    .action(forgetKeys);
  program
    .command("set-role <email>")
    .description("says what somebody may do from now on")
    .addOption(new Option("--role <role>", "what they are").choices([...ROLES]).makeOptionMandatory())
    .action(setTheRole);
  program
    .command("remove-person <email>")
    .description("ends somebody's account and their sessions")
    .action(removePerson);
  program
    .command("reset-password <email>")
    .description("ends somebody's password and sessions, and prints the address by which they choose another")
    .action(resetThePassword);
  program
    .command("reset-factors <email>")
    .description("ends somebody's passkeys, codes and sessions")
    .action(resetTheFactors);
  program.command("end-sessions <email>").description("signs somebody out everywhere").action(endTheSessions);
  program
    .command("unlock <email>")
    .description("lets somebody try to sign in again who has tried too often, or was made to look so")
    .action(unlock);
  program
    .command("allow-passwords")
    .description("lets people sign in by password again, where single sign-on has failed")
    .action(allowPasswords);
  program
    .command("add-person <email>")
    .description("makes somebody who can sign in; the password comes from LATCH_NEW_PASSWORD")
    .requiredOption("--name <name>", "their name")
    .addOption(new Option("--role <role>", "what they are").choices([...ROLES]).makeOptionMandatory())
    .action(addSignIn);
}

async function importFile(path: string, { as, lenient }: ImportOptions) {
  const { importEstate, sourceNameSchema } = await import("../server/stores/importEstate");
  const named = sourceNameSchema.safeParse(as);
  if (!named.success) throw new Refusal(2, `--as ${as} ${named.error.issues[0].message}`);
  const lines = linesOf(piecesOf(path));
  const app = await application();
  const imported = await importEstate(app, lines, { as, name: basename(path), lenient });
  tellProblems(path, imported, lenient ?? false, "imported");
  if (imported.otherHome) {
    const domains = imported.otherHome.join(", ");
    console.error(`${path}: warning: its home domains are passed over; ${domains} are set, and change in the settings`);
  }
  console.log(`${imported.changed} records are new or changed.`);
  if ((imported.changed ?? 0) >= MANY) await readyEngine(app);
}

/** Whoever starts the application next needn't wait until the engine has read them all. */
async function readyEngine(app: App) {
  console.error("Getting the engine ready for the next start.");
  await app.engine.ask("refresh", {});
}

async function importReportFile(path: string, { mapping, as, lenient, ended }: ReportOptions) {
  const [{ importReport }, { mappingName }] = await Promise.all([
    import("../server/imports"),
    import("../core/imports/mapping"),
  ]);
  const named = mappingName.safeParse(as ?? mapping);
  if (!named.success) throw new Refusal(2, `--as ${as} ${named.error.issues[0].message}`);
  // So a file that can't be read is refused before anything else is begun.
  readStart(path);
  const app = await application();
  const given = { path, file: basename(path), as: as ?? null, mapping };
  const imported = await importReport(app, given, { skips: lenient ?? false, ended: ended ?? null }, BY_COMMAND);
  if ("unchangedSince" in imported) return console.log("This report has been imported already. Nothing has changed.");
  const { outlook } = imported;
  for (const { line, message } of outlook.problems) console.error(`${path}: row ${line}: skipped: ${message}`);
  for (const { line, message } of outlook.remarks) console.error(`${path}: row ${line}: ${message}`);
  const shares = imported.ended === 1 ? "1 share has ended" : `${imported.ended} shares have ended`;
  console.log(`${imported.changed} records are new or changed, and ${shares}.`);
  if (imported.changed >= MANY) await readyEngine(app);
}

/** So many records take the engine longer to read than people like to wait. */
const MANY = 20_000;

async function readDirectory(path: string, { as, leavers, inactive }: DirectoryOptions) {
  const [{ directoryName }, { takeList }, { Problem }] = await Promise.all([
    import("../contract/directory"),
    import("../server/directory/take"),
    import("../server/platform/problem"),
  ]);
  const named = directoryName.safeParse(as);
  if (!named.success) throw new Refusal(2, `--as ${as} ${named.error.issues[0].message}`);
  const text = new TextDecoder().decode(readBytes(path));
  const given = { directory: as, kind: leavers ? "leavers" : "people", file: basename(path), text } as const;
  try {
    const { db } = await application();
    const { counts, remarks } = await takeList(db, given, { digest: null, inactive: inactive ?? null }, BY_COMMAND);
    for (const { line, message } of remarks) console.error(`${path}:${line}: warning: ${message}`);
    console.log(
      `${counts.joins} join, ${counts.returns} are back, ${counts.leaves} have left, ${counts.suspended} are suspended, ` +
        `${counts["last-day"]} have a last day, ${counts.changes} change, ${counts.same} unchanged.`,
    );
  } catch (error) {
    if (error instanceof Problem) throw new Refusal(1, error.message);
    throw error;
  }
}

async function setHome(domains: string[]) {
  const [{ homeBody }, { setHomeDomains }] = await Promise.all([
    import("../contract/estate"),
    import("../server/records/homeDomains"),
  ]);
  const parsed = homeBody.safeParse({ domains });
  if (!parsed.success) throw new Refusal(2, parsed.error.issues.map((issue) => issue.message).join(" "));
  await setHomeDomains((await application()).db, "command line", parsed.data.domains);
}

async function exportFile(path: string, withAddresses: boolean) {
  const [{ exportEstate, NoHomeDomains }, { recordLine }] = await Promise.all([
    import("../server/records/exportEstate"),
    import("../core/estate/estateFile"),
  ]);
  const leftOut: LeftOut = new Map();
  const { db } = await application();
  let count = 0;
  async function* lines() {
    for await (const record of exportEstate(db, {}, leftOut)) {
      count++;
      yield recordLine(record, { withAddresses }) + "\n";
    }
  }
  try {
    await pipeline(Readable.from(lines()), createWriteStream(path, { mode: 0o600 }));
  } catch (error) {
    if (error instanceof NoHomeDomains) throw new Refusal(1, `nothing was exported: ${error.message}`);
    if (!isSystemError(error)) throw error;
    throw new Refusal(1, `${path}: can't be written: ${error.message}`);
  }
  for (const [type, many] of leftOut)
    console.error(`${path}: warning: ${many} of type ${type} are left out: what they speak of is not known`);
  console.log(`${count} records written to ${path}.`);
}

/** Whether the file system refused something. */
function isSystemError(error: unknown): error is NodeJS.ErrnoException {
  return error instanceof Error && "syscall" in error;
}

async function connectStore(id: string, { name, url }: ConnectOptions) {
  const key = process.env.LATCH_STORE_KEY;
  if (!key) throw new Refusal(2, "set LATCH_STORE_KEY to the store's key");
  const { connect } = await import("../server/stores/connections");
  await connect(await application(), { id, name, url: url.replace(/\/$/, ""), key }, BY_COMMAND);
}

async function readAll(withoutEvents: boolean) {
  const { readStores } = await import("../server/stores/read");
  const tell = ({ store, records }: { store: string; records: number }) =>
    console.error(`${store}: ${records} records`);
  const results = await readStores(await application(), tell, { withEvents: !withoutEvents });
  for (const { store, changed, events, error } of results)
    console.log(`${store}: ${error ?? `${changed} new or changed, ${events} events`}`);
  if (results.some((one) => one.error)) throw new Refusal(1, "not every store could be read");
}

/** For a cron of the house's own; the server does the same by itself every minute. */
async function doDue() {
  const [{ allCarriedOut }, { readNow }] = await Promise.all([
    import("../server/dockets/executor"),
    import("../server/reading"),
  ]);
  const app = await application();
  await readNow(app);
  let alerts = await app.jobs.doDue();
  // Where another process is at it, what has become due since it looked is still to be done.
  for (; alerts === null; alerts = await app.jobs.doDue()) await setTimeout(500);
  await allCarriedOut(app);
  console.log(`What was due is done; ${alerts} new alerts.`);
}

async function addSignIn(email: string, { name, role }: PersonOptions) {
  const [{ newPerson }, { addPerson }] = await Promise.all([
    import("../contract/people"),
    import("../server/people/people"),
  ]);
  const parsed = newPerson.safeParse({ email, name, password: process.env.LATCH_NEW_PASSWORD ?? "" });
  if (!parsed.success) throw new Refusal(2, parsed.error.issues.map((issue) => issue.message).join(" "));
  await addPerson(await application(), parsed.data, role, BY_COMMAND);
}

async function rotateTheKey() {
  const { rotateKey } = await import("../server/rotating");
  const app = await application();
  const resealed = await rotateKey(app, BY_COMMAND);
  console.log(`${resealed} secrets are sealed by the key ${app.secrets.ring.newest.id} now.`);
}

async function forgetKeys() {
  const { forgetOlderKeys } = await import("../server/rotating");
  console.log(`${await forgetOlderKeys(await application(), BY_COMMAND)} older keys are forgotten.`);
}

type Accounts = typeof import("../server/people/accounts");

/** Does something with somebody's account. */
async function withAccount<T>(
  email: string,
  work: (app: App, id: string, accounts: Accounts) => Promise<T>,
): Promise<T> {
  const accounts = await import("../server/people/accounts");
  const app = await application();
  return work(app, await accounts.accountOf(app.db, email), accounts);
}

const setTheRole = (email: string, { role }: { role: SignInRole }) =>
  withAccount(email, ({ db }, id, { setRole }) => setRole(db, id, role, BY_COMMAND));

const removePerson = (email: string) =>
  withAccount(email, ({ db }, id, { removeAccount }) => removeAccount(db, id, BY_COMMAND));

const resetThePassword = (email: string) =>
  withAccount(email, async (app, id, { resetPassword }) => {
    const { address, until, isMailed } = await resetPassword(app, id, BY_COMMAND);
    console.log(`${address}\nIt works once, until ${until}${isMailed ? ", and has been mailed to them" : ""}.`);
  });

const resetTheFactors = (email: string) =>
  withAccount(email, ({ db }, id, { resetFactors }) => resetFactors(db, id, BY_COMMAND));

const endTheSessions = (email: string) =>
  withAccount(email, async ({ db }, id, { endSessionsOf }) =>
    console.log(`${await endSessionsOf(db, id, BY_COMMAND)} sessions have ended.`),
  );

async function unlock(email: string) {
  const { unlockSignIn } = await import("../server/people/unlock");
  await withAccount(email, (app, id) => unlockSignIn(app, { id, email: email.toLowerCase() }, BY_COMMAND));
}

async function allowPasswords() {
  const [{ policy, setPolicy }, { writing }] = await Promise.all([
    import("../server/people/policy"),
    import("../server/platform/db/open"),
  ]);
  const { db } = await application();
  await writing(db, async (tx) => setPolicy(tx, { ...(await policy(tx)), passwordsOff: false }, BY_COMMAND));
}

async function setMail({ host, port, from, user, secure = false }: MailOptions) {
  const [{ channelsBody }, { setChannels }] = await Promise.all([
    import("../contract/estate"),
    import("../server/messages/channels"),
  ]);
  const password = process.env.LATCH_SMTP_PASSWORD ?? "";
  const parsed = channelsBody.safeParse({ mail: { host, port, from, user, secure, password } });
  if (!parsed.success) throw new Refusal(2, parsed.error.issues.map((issue) => issue.message).join(" "));
  await setChannels(await application(), parsed.data, BY_COMMAND);
}

async function addWatches({ tell, zone, days }: WatchesOptions) {
  const { saveShipped } = await import("../server/trail/shipped");
  const { db, clock } = await application();
  const told = { mail: tell ? [tell] : [], webhook: false, syslog: false, zone };
  const kept = await saveShipped(db, "command line", told, clock.seconds() - days * 86_400);
  console.log(`${kept} watches added.`);
}

import { type Command, Option } from "commander";
import { createWriteStream, readFileSync } from "node:fs";
import { basename } from "node:path";
import { setTimeout } from "node:timers/promises";
import { Refusal } from "./refusal";

interface ConnectOptions {
  name: string;
  url: string;
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
  role: "administrator" | "auditor" | "owner";
}

/** The verbs that work on the application's own database, in LATCH_DATA. They load the server only when called. */
export function addServerCommands(program: Command) {
  program
    .command("import <file>")
    .description("adds an estate file to what is known; nothing of it while it has errors")
    .option("--lenient", "skip bad records, and say which")
    .action((file: string, { lenient }: { lenient?: boolean }) => importFile(file, lenient ?? false));
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
    .option("--without-acts", "leaves what happened there to a later reading")
    .action(({ withoutActs }: { withoutActs?: boolean }) => readAll(withoutActs ?? false));
  program
    .command("tick")
    .description("does what is due: standing orders, owners to be asked, grace that is over, waivers that end")
    .action(doDue);
  program
    .command("set-mail")
    .description("says by which server mail goes out; its password comes from LATCH_SMTP_PASSWORD")
    .requiredOption("--host <host>", "the server")
    .requiredOption("--port <port>", "its port", Number)
    .requiredOption("--from <email>", "from whom mail comes")
    .option("--secure", "TLS from the first byte")
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
    .command("add-person <email>")
    .description("makes somebody who can sign in; the password comes from LATCH_NEW_PASSWORD")
    .requiredOption("--name <name>", "their name")
    .addOption(
      new Option("--role <role>", "what they are").choices(["administrator", "auditor", "owner"]).makeOptionMandatory(),
    )
    .action(addSignIn);
}

async function importFile(path: string, lenient: boolean) {
  const [{ database }, { importEstate }] = await Promise.all([
    import("../server/db/open"),
    import("../server/reading/estateFiles"),
  ]);
  const lines = readText(path).split("\n");
  const { problems, unknownFields, changed } = await importEstate(await database(), lines, basename(path), lenient);
  for (const [field, count] of unknownFields) console.error(`${path}: warning: unknown field ${field}, ${count} times`);
  for (const { line, message } of problems) console.error(`${path}:${line}: ${lenient ? "skipped: " : ""}${message}`);
  if (changed === null) throw new Refusal(1, `${path}: ${problems.length} errors; nothing was imported`);
  console.log(`${changed} records are new or changed.`);
}

function readText(path: string): string {
  try {
    return readFileSync(path, "utf8");
  } catch (error) {
    throw new Refusal(1, `${path}: can't be read: ${(error as Error).message}`);
  }
}

async function exportFile(path: string, withAddresses: boolean) {
  const [{ database }, { exportEstate }] = await Promise.all([
    import("../server/db/open"),
    import("../server/reading/estateFiles"),
  ]);
  const out = createWriteStream(path, { mode: 0o600 });
  let count = 0;
  for await (const line of exportEstate(await database(), withAddresses)) {
    if (!out.write(line + "\n")) await new Promise<void>((resolve) => out.once("drain", () => resolve()));
    count++;
  }
  await new Promise<void>((resolve) => out.end(() => resolve()));
  console.log(`${count} records written to ${path}.`);
}

async function connectStore(id: string, { name, url }: ConnectOptions) {
  const key = process.env.LATCH_STORE_KEY;
  if (!key) throw new Refusal(2, "set LATCH_STORE_KEY to the store's key");
  const [{ database }, { connect }] = await Promise.all([
    import("../server/db/open"),
    import("../server/stores/connections"),
  ]);
  await connect(await database(), { id, name, url: url.replace(/\/$/, ""), key });
}

async function readAll(withoutActs: boolean) {
  const [{ database }, { readStores }] = await Promise.all([
    import("../server/db/open"),
    import("../server/reading/read"),
  ]);
  const tell = ({ store, records }: { store: string; records: number }) =>
    console.error(`${store}: ${records} records`);
  const results = await readStores(await database(), tell, { withActs: !withoutActs });
  for (const { store, changed, acts, error } of results)
    console.log(`${store}: ${error ?? `${changed} new or changed, ${acts} acts`}`);
  if (results.some((one) => one.error)) throw new Refusal(1, "not every store could be read");
}

/** For a cron of the house's own; the server does the same by itself every minute. */
async function doDue() {
  const [{ database }, { tick }, { allCarriedOut }, { readNow }] = await Promise.all([
    import("../server/db/open"),
    import("../server/orders/tick"),
    import("../server/dockets/executor"),
    import("../server/reading/keeper"),
  ]);
  const db = await database();
  await readNow(db);
  let alerts = await tick(db);
  // Where another process is at it, what has become due since it looked is still to be done.
  for (; alerts === null; alerts = await tick(db)) await setTimeout(500);
  await allCarriedOut();
  console.log(`What was due is done; ${alerts} new alerts.`);
}

async function addSignIn(email: string, { name, role }: PersonOptions) {
  const [{ database }, people] = await Promise.all([import("../server/db/open"), import("../server/auth/people")]);
  const parsed = people.newPersonSchema.safeParse({ email, name, password: process.env.LATCH_NEW_PASSWORD ?? "" });
  if (!parsed.success) throw new Refusal(2, parsed.error.issues.map((issue) => issue.message).join(" "));
  await people.addPerson(await database(), parsed.data, role, "command line");
}

async function setMail({ host, port, from, user, secure = false }: MailOptions) {
  const [{ database }, { channelsSchema, setChannels }] = await Promise.all([
    import("../server/db/open"),
    import("../server/notices/channels"),
  ]);
  const password = process.env.LATCH_SMTP_PASSWORD ?? "";
  const parsed = channelsSchema.safeParse({ mail: { host, port, from, user, secure, password } });
  if (!parsed.success) throw new Refusal(2, parsed.error.issues.map((issue) => issue.message).join(" "));
  await setChannels(await database(), parsed.data);
}

async function addWatches({ tell, zone, days }: WatchesOptions) {
  const [{ database }, { keepShipped }, { nowSeconds }] = await Promise.all([
    import("../server/db/open"),
    import("../server/trail/shipped"),
    import("../server/clock"),
  ]);
  const told = { mail: tell ? [tell] : [], webhook: false, syslog: false, zone };
  const kept = await keepShipped(await database(), "command line", told, nowSeconds() - days * 86_400);
  console.log(`${kept} watches added.`);
}

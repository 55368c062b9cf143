import type { Command } from "commander";
import { keyLine, NoNote, readKeyLine } from "../core/ledger/checkpoint";
import { application, BY_COMMAND } from "./application";
import { readBytes } from "./files";
import { Refusal } from "./refusal";

interface VerifyOptions {
  against?: string;
  key?: string;
}

/** The verbs about the ledger's proof. */
export function addLedgerCommands(program: Command) {
  program
    .command("verify-ledger")
    .description("reads every entry of the ledger and checks it; exit status 1 where something is wrong")
    .option("--against <file>", "a signed checkpoint that you have kept, to compare with")
    .option("--key <line>", "the key that you hold, NAME+ID+KEY: the newest checkpoint must be signed by it")
    .action(verifyLedger);
  program
    .command("ledger-key")
    .description("prints the keys that sign checkpoints, the newest first, to be kept outside")
    .option("--change", "signs by a new key from now on")
    .action(tellKeys);
  program
    .command("erase-detail <entry>")
    .description("permanently removes what names somebody outside from an entry of the ledger; every proof still works")
    .requiredOption("--reason <words>", "the reason, recorded in the ledger as a detail of its own")
    .action(erase);
}

async function verifyLedger({ against, key }: VerifyOptions) {
  const { noteIn, proveLedger } = await import("../server/evidence/proof");
  const brought = {
    against:
      against === undefined ? undefined : given(() => noteIn(against, new TextDecoder().decode(readBytes(against)))),
    key: key === undefined ? undefined : given(() => readKeyLine(key)),
  };
  const proof = await proveLedger(await application(), brought);
  if (!proof.unbroken) throw new Refusal(1, `The ledger is broken at entry ${proof.seq}: ${proof.why}.`);
  console.log(`${proof.entries} entries, unbroken; root ${proof.root}`);
  if (!against && !key)
    console.log("It is consistent, and agrees with every checkpoint kept here and in the witness folder.");
}

/** @throws {Refusal} where what was given isn't what it should be */
export function given<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    throw error instanceof NoNote ? new Refusal(2, error.message) : error;
  }
}

async function erase(entry: string, { reason }: { reason: string }) {
  const { eraseDetail } = await import("../server/records/ledger/erase");
  await eraseDetail((await application()).db, Number(entry), reason, BY_COMMAND);
  console.log(`The detail of entry ${entry} is erased. Backups and packs from before still have it.`);
}

async function tellKeys({ change }: { change?: boolean }) {
  const [{ changeKey, publicKeys }, { makeDueCheckpoints }] = await Promise.all([
    import("../server/records/ledger/keys"),
    import("../server/records/ledger/checkpoints"),
  ]);
  const app = await application();
  if (change) await changeKey(app, BY_COMMAND);
  await makeDueCheckpoints(app);
  for (const key of await publicKeys(app.db)) console.log(keyLine(key));
}

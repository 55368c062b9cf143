import type { Command } from "commander";
import { application, BY_COMMAND } from "./application";
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
  const [{ noteIn, proveLedger }, { broughtKey, broughtNote }] = await Promise.all([
    import("../server/evidence/proof"),
    import("./brought"),
  ]);
  const brought = {
    against: against === undefined ? undefined : broughtNote(against, (text) => noteIn(against, text)),
    key: key === undefined ? undefined : broughtKey(key),
  };
  const proof = await proveLedger(await application(), brought);
  if (!proof.unbroken) throw new Refusal(1, `The ledger is broken at entry ${proof.seq}: ${proof.why}.`);
  console.log(`${proof.entries} entries, unbroken; root ${proof.root}`);
  if (!against && !key)
    console.log("It is consistent, and agrees with every checkpoint kept here and in the witness folder.");
}

async function erase(entry: string, { reason }: { reason: string }) {
  const { eraseDetail } = await import("../server/records/ledger/erase");
  await eraseDetail((await application()).db, Number(entry), reason, BY_COMMAND);
  console.log(`The detail of entry ${entry} is erased. Backups and packs from before still have it.`);
}

async function tellKeys({ change }: { change?: boolean }) {
  const [{ keyLine }, { changeKey, publicKeys }, { makeDueCheckpoints }] = await Promise.all([
    import("../core/ledger/checkpoint"),
    import("../server/records/ledger/keys"),
    import("../server/records/ledger/checkpoints"),
  ]);
  const app = await application();
  if (change) await changeKey(app, BY_COMMAND);
  await makeDueCheckpoints(app);
  for (const key of await publicKeys(app.db)) console.log(keyLine(key));
}

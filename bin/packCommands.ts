import { type Command, InvalidArgumentError } from "commander";
import { copyFileSync, existsSync } from "node:fs";
import type { PackMade } from "../server/evidence/pack/make";
import type { PackTask } from "../server/evidence/pack/thread";
import { application, BY_COMMAND, platform } from "./application";
import { Refusal } from "./refusal";

interface PackOptions {
  from?: string;
  to?: string;
  query: string;
  pseudonyms?: true;
  again?: number;
  output: string;
}

/** The verbs about evidence packs. */
export function addPackCommands(program: Command) {
  program
    .command("pack")
    .description("makes an evidence pack of a span of days")
    .option("--from <day>", "its first day, in UTC", day)
    .option("--to <day>", "its last day", day)
    .option("--query <query>", "what its tables are narrowed to, as the register is asked", "")
    .option("--pseudonyms", "with pseudonyms for outsiders; their key stays here")
    .option("--again <entry>", "the pack of this entry of the ledger once more, byte for byte", Number)
    .requiredOption("-o, --output <file>", "where to write it")
    .action(makePack);
  program
    .command("whose <pseudonym>")
    .description("says who a pack’s pseudonym stands for; the ledger records that somebody asked")
    .requiredOption("--pack <entry>", "the entry of the ledger that says that the pack was made", Number)
    .action(tellWhose);
  program
    .command("verify <pack>")
    .description("checks an evidence pack; exit status 1 at the first fault")
    .option("--against <file>", "a signed checkpoint that you have kept")
    .option("--key <line>", "the key that you hold, NAME+ID+KEY")
    .action(verify);
}

function day(text: string): string {
  if (!/^\d{4}-\d\d-\d\d$/.test(text) || Number.isNaN(Date.parse(text)))
    throw new InvalidArgumentError("It must be a day such as 2026-10-05.");
  return text;
}

async function makePack({ from, to, query, pseudonyms, again, output }: PackOptions) {
  const [{ packThread }, { packFile }] = await Promise.all([
    import("../server/evidence/pack/thread"),
    import("../server/evidence/pack/packFile"),
  ]);
  const app = await platform();
  if (again !== undefined) {
    const path = packFile(app, again);
    if (!existsSync(path)) throw new Refusal(2, `--again ${again}: no pack of that entry is kept in the data folder`);
    copyFileSync(path, output);
    return;
  }
  if (!from || !to) throw new Refusal(2, "--from and --to: give the first day and the last");
  const thread = await packThread(app, ({ file }) => console.error(file));
  const asked = { from, to, scope: query, pseudonyms };
  const task: PackTask = { asked, by: BY_COMMAND, standsAt: app.clock.standsAt };
  const { seq, path } = (await thread.ask(task)) as PackMade;
  await thread.end();
  copyFileSync(path, output);
  console.log(`${output} is the pack of entry ${seq}.`);
}

async function tellWhose(pseudonym: string, { pack }: { pack: number }) {
  const { whose } = await import("../server/evidence/pack/packKeys");
  console.log(await whose(await application(), pack, pseudonym, BY_COMMAND));
}

async function verify(path: string, { against, key }: { against?: string; key?: string }) {
  const [{ PackFault, verifyPack }, { readNote }, { NoZip, zipFiles }, { broughtKey, broughtNote }] = await Promise.all(
    [
      import("../core/evidence/verifyPack"),
      import("../core/ledger/checkpoint"),
      import("../server/evidence/pack/zipFiles"),
      import("./brought"),
    ],
  );
  const kept = {
    against: against === undefined ? undefined : broughtNote(against, readNote),
    key: key === undefined ? undefined : broughtKey(key),
  };
  try {
    for await (const line of verifyPack(await zipFiles(path), kept)) console.log(line);
  } catch (error) {
    if (error instanceof PackFault || error instanceof NoZip) throw new Refusal(1, error.message);
    throw error;
  }
}

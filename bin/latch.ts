import { Command, InvalidArgumentError } from "commander";
import {
  answerExposure,
  answerFindings,
  answerPaths,
  answerReach,
  answerShortlist,
  answerSuggest,
  answerWho,
  UnknownSubject,
} from "./answers";
import { buildEstate, type Estate } from "../core/estate/estate";
import { readEstateFile } from "../core/estate/estateFile";
import { linesOf } from "../core/estate/lines";
import type { RecordOf } from "../core/estate/records";
import { KEPT_DAYS } from "../core/advice/suggest";
import { sampleSize } from "../core/advice/sample";
import { readRules } from "../core/rules/findings";
import { seconds, type Seconds } from "../core/time/instant";
import { BadSettings } from "../server/platform/badSettings";
import { Problem } from "../server/platform/problem";
import { keepFilesToOwner } from "../server/platform/ownFiles";
import { piecesOf, readBytes, tellProblems } from "./files";
import { Refusal } from "./refusal";
import { addLedgerCommands } from "./ledgerCommands";
import { addPackCommands } from "./packCommands";
import { addServerCommands } from "./serverCommands";

interface Options {
  at?: Seconds;
  person: string;
  item: string;
  /** In thousandths. */
  lambda: number;
  days: number;
  rules?: string;
  lenient?: boolean;
}

keepFilesToOwner();

const program = new Command("latch")
  .description("Answers from an estate file, one JSON object a line. See docs/command-line.md.")
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : 2));

question("validate", "checks an estate file and says what is wrong with it", () => []);

question("exposure", "what is open on every live item", answerExposure);

question("findings", "every share and item that breaks a rule", (estate, t, { rules }) =>
  answerFindings(estate, t, rules ? readRulesFile(rules) : undefined),
).option("--rules <file>", "a rules file; without one all rules run with their defaults");

question("reach", "every item that a person reaches by name", (estate, t, { person }) =>
  answerReach(estate, t, person),
).requiredOption("--person <address>", "the person's address");

question("who", "everybody who reaches an item by name", (estate, t, { item }) =>
  answerWho(estate, t, item),
).requiredOption("--item <id>", "the item's id");

question("paths", "every path from a person to an item", (estate, t, { person, item }) =>
  answerPaths(estate, t, person, item),
)
  .requiredOption("--person <address>", "the person's address")
  .requiredOption("--item <id>", "the item's id");

question("shortlist", "which changes shut the most and disturb the least", (estate, t, { lambda }) =>
  answerShortlist(estate, t, lambda),
).requiredOption(
  "--lambda <factor>",
  "how much of what is open one unit of price has to shut: a number from 0 on with up to three places",
  factorArgument,
);

question("suggest", "what to do with every outside share: keep, tighten or end it", (estate, t, { days }) =>
  answerSuggest(estate, t, days),
).option("--days <number>", "for how many days a share may stay at most", whole(1, 36_500), KEPT_DAYS);

program
  .command("sample")
  .description("how many lines to look at again, so as to meet a bad one")
  .argument("<count>", "how many lines there are", whole(1, Number.MAX_SAFE_INTEGER))
  .argument("<percent>", "how many of a hundred may be bad", whole(1, 100))
  .argument("<confidence>", "how sure one wants to be: from 0 to 1", confidenceArgument)
  .action((count: number, percent: number, confidence: number) => {
    process.stdout.write(`${sampleSize(count, percent, confidence)}\n`);
  });

addServerCommands(program);
addLedgerCommands(program);
addPackCommands(program);

function question(name: string, description: string, answer: (e: Estate, t: Seconds, o: Options) => unknown[]) {
  return program
    .command(`${name} <file>`)
    .description(description)
    .option("--at <time>", "the instant that is asked about; without it, the estate's asOf", instantArgument)
    .option("--lenient", "skip bad records, and say which")
    .action((file: string, options: Options) => {
      const estate = loadEstate(file, options.lenient ?? false, options.at);
      const lines = answer(estate, options.at ?? estate.asOf, options);
      process.stdout.write(lines.map((line) => JSON.stringify(line) + "\n").join(""));
    });
}

function instantArgument(text: string): Seconds {
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/.test(text) || Number.isNaN(Date.parse(text)))
    throw new InvalidArgumentError("It must be a time such as 2026-10-05T08:00:00Z.");
  return seconds(text);
}

/** A factor in thousandths, so that nothing is rounded. */
function factorArgument(text: string): number {
  const [, whole, places = ""] = /^(\d{1,9})(?:\.(\d{1,3}))?$/.exec(text) ?? [];
  if (whole === undefined)
    throw new InvalidArgumentError("It must be a number from 0 on with up to three places, such as 2.5.");
  return Number(whole) * 1_000 + Number(places.padEnd(3, "0"));
}

function whole(least: number, most: number) {
  return (text: string) => {
    const number = Number(text);
    if (!/^\d{1,16}$/.test(text) || number < least || number > most)
      throw new InvalidArgumentError(`It must be a whole number from ${least} to ${most}.`);
    return number;
  };
}

/** In thousandths. */
function confidenceArgument(text: string): number {
  const [, whole, places = ""] = /^([01])(?:\.(\d{1,3}))?$/.exec(text) ?? [];
  const thousandths = Number(whole) * 1_000 + Number(places.padEnd(3, "0"));
  if (whole === undefined || thousandths > 1_000)
    throw new InvalidArgumentError("It must be a number from 0 to 1 with up to three places, such as 0.95.");
  return thousandths;
}

/** @param at the instant that is asked about */
function loadEstate(path: string, lenient: boolean, at: Seconds | undefined): Estate {
  const { records, ...read } = readEstateFile(linesOf(piecesOf(path)));
  tellProblems(path, read, lenient, "used");
  const [head] = records as [RecordOf<"estate">];
  const isPast = at !== undefined && at < seconds(head.asOf);
  return buildEstate(records, isPast ? at : undefined);
}

function readRulesFile(path: string) {
  try {
    return readRules(JSON.parse(new TextDecoder().decode(readBytes(path))));
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal(1, `${path}: ${(error as Error).message}`);
  }
}

try {
  await program.parseAsync();
} catch (error) {
  if (!(
    error instanceof Refusal ||
    error instanceof UnknownSubject ||
    error instanceof BadSettings ||
    error instanceof Problem
  ))
    throw error;
  console.error(`latch: ${error.message}`);
  process.exitCode = error instanceof Refusal ? error.status : 2;
}

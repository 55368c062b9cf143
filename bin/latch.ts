import { Command, InvalidArgumentError } from "commander";
import { KEPT_DAYS } from "../core/advice/kept";
import { sampleSize } from "../core/advice/sample";
import type { Estate } from "../core/estate/estate";
import type { RuleSet } from "../core/rules/findings";
import { seconds, type Seconds } from "../core/time/instant";
import { BadSettings } from "../server/platform/badSettings";
import { Problem } from "../server/platform/problem";
import { keepFilesToOwner } from "../server/platform/ownFiles";
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
  rules?: RuleSet;
  lenient?: boolean;
}

/** What answers a question about a file; loaded when one is asked, since other verbs do without. */
type Answer = (ask: typeof import("./answers"), estate: Estate, t: Seconds, options: Options) => unknown[];

keepFilesToOwner();

const program = new Command("latch")
  .description("Answers from an estate file, one JSON object a line. See docs/command-line.md.")
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : 2));

question("validate", "checks an estate file and says what is wrong with it", () => []);

question("exposure", "what is open on every live item", (ask, estate, t) => ask.answerExposure(estate, t));

question("findings", "every share and item that breaks a rule", (ask, estate, t, { rules }) =>
  ask.answerFindings(estate, t, rules),
).option("--rules <file>", "a rules file; without one all rules run with their defaults");

question("reach", "every item that a person reaches by name", (ask, estate, t, { person }) =>
  ask.answerReach(estate, t, person),
).requiredOption("--person <address>", "the person's address");

question("who", "everybody who reaches an item by name", (ask, estate, t, { item }) =>
  ask.answerWho(estate, t, item),
).requiredOption("--item <id>", "the item's id");

question("paths", "every path from a person to an item", (ask, estate, t, { person, item }) =>
  ask.answerPaths(estate, t, person, item),
)
  .requiredOption("--person <address>", "the person's address")
  .requiredOption("--item <id>", "the item's id");

question("shortlist", "which changes shut the most and disturb the least", (ask, estate, t, { lambda }) =>
  ask.answerShortlist(estate, t, lambda),
).requiredOption(
  "--lambda <factor>",
  "how much of what is open one unit of price has to shut: a number from 0 on with up to three places",
  factorArgument,
);

question("suggest", "what to do with every outside share: keep, tighten or end it", (ask, estate, t, { days }) =>
  ask.answerSuggest(estate, t, days),
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

function question(name: string, description: string, answer: Answer) {
  return program
    .command(`${name} <file>`)
    .description(description)
    .option("--at <time>", "the instant that is asked about; without it, the estate's asOf", instantArgument)
    .option("--lenient", "skip bad records, and say which")
    .action(async (file: string, { rules: path, ...options }: Omit<Options, "rules"> & { rules?: string }) => {
      const [{ loadEstate, readRulesFile }, answers] = await Promise.all([import("./estateFile"), import("./answers")]);
      const estate = loadEstate(file, options.lenient ?? false, options.at);
      const rules = path === undefined ? undefined : readRulesFile(path);
      const lines = answer(answers, estate, options.at ?? estate.asOf, { ...options, rules });
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

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof Refusal || error instanceof BadSettings || error instanceof Problem)) throw error;
  console.error(`latch: ${error.message}`);
  process.exitCode = error instanceof Refusal ? error.status : 2;
}

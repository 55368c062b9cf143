import { buildEstate, type Estate } from "../core/estate/estate";
import { readEstateFile } from "../core/estate/estateFile";
import { linesOf } from "../core/estate/lines";
import type { RecordOf } from "../core/estate/records";
import { readRules } from "../core/rules/findings";
import { seconds, type Seconds } from "../core/time/instant";
import { piecesOf, readBytes, tellProblems } from "./files";
import { Refusal } from "./refusal";

/** @param at the instant that is asked about @throws {Refusal} where something is wrong with the file */
export function loadEstate(path: string, lenient: boolean, at: Seconds | undefined): Estate {
  const { records, ...read } = readEstateFile(linesOf(piecesOf(path)));
  tellProblems(path, read, lenient, "used");
  const [head] = records as [RecordOf<"estate">];
  const isPast = at !== undefined && at < seconds(head.asOf);
  return buildEstate(records, isPast ? at : undefined);
}

/** @throws {Refusal} where it isn’t a rules file */
export function readRulesFile(path: string) {
  try {
    return readRules(JSON.parse(new TextDecoder().decode(readBytes(path))));
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal(1, `${path}: ${(error as Error).message}`);
  }
}

import type { Line } from "./lines";
import type { Placed, Problem } from "./placed";
import type { EstateRecord, RecordOf, RecordType } from "./records";
import { recordSchemas } from "./records";
import { checkReferences, NOTHING_KNOWN } from "./references";

export interface EstateFile {
  records: EstateRecord[];
  /** Errors. Where there are any, and the reading isn't lenient, nothing of the file may be used. */
  problems: Problem[];
  /** It doesn't begin with an estate record. Of such a file nothing may be used, however lenient the reading is. */
  isHeadless: boolean;
  /** Fields that the format doesn't know, such as `link.recipients[].colour`, with how often they stood in the file. */
  unknownFields: Map<string, number>;
}

/**
 * Reads an estate file, line by line, and checks it whole: values, ids, references, the tree.
 *
 * @param lines the file's lines, without their ends; empty ones are passed over
 * @returns the good records in the file's order, and every problem with its line number
 */
export function readEstateFile(lines: Iterable<Line>): EstateFile {
  const { placed, ...read } = parseEstateFile(lines);
  const { good, problems } = checkReferences(placed, NOTHING_KNOWN);
  return {
    records: good.map((one) => one.record),
    problems: inOrder([...read.problems, ...problems]),
    isHeadless: read.isHeadless,
    unknownFields: read.unknownFields,
  };
}

/** Reads the lines of an estate file, each for itself. What its records refer to is still to be checked. */
export function parseEstateFile(lines: Iterable<Line>): Omit<EstateFile, "records"> & { placed: Placed[] } {
  const placed: Placed[] = [];
  const problems: Problem[] = [];
  const unknownFields = new Map<string, number>();
  let line = 0;
  for (const text of lines) {
    line++;
    if (typeof text !== "string") problems.push({ line, message: text.problem });
    else if (text.trim() !== "") {
      const result = parseRecord(text, unknownFields);
      if (typeof result === "string") problems.push({ line, message: result });
      else placed.push({ line, record: result });
    }
  }
  const head = checkHead(placed, problems);
  return {
    placed: head.placed,
    problems: inOrder([...problems, ...head.problems]),
    isHeadless: head.isHeadless,
    unknownFields,
  };
}

export function inOrder(problems: readonly Problem[]): Problem[] {
  return [...problems].sort((a, b) => a.line - b.line);
}

/** One line to a record, or to a message that says what is wrong with it. */
function parseRecord(text: string, unknownFields: Map<string, number>): EstateRecord | string {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return `not JSON: ${(error as Error).message}`;
  }
  return parseRecordValue(value, unknownFields);
}

/** A JSON value to a record, or to a message that says what is wrong with it. */
export function parseRecordValue(value: unknown, unknownFields?: Map<string, number>): EstateRecord | string {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return "not a JSON object";
  const type = (value as { type?: unknown }).type;
  if (typeof type !== "string" || !Object.hasOwn(recordSchemas, type))
    return `unknown type ${JSON.stringify(type) ?? "(none)"}; known are ${Object.keys(recordSchemas).join(", ")}`;
  const schema = recordSchemas[type as RecordType];
  const parsed = schema.safeParse(value);
  if (!parsed.success) {
    return parsed.error.issues.map((issue) => `bad value: ${issue.path.join(".")} ${issue.message}`).join("; ");
  }
  if (unknownFields) countUnknown(type, value, parsed.data, unknownFields);
  return parsed.data;
}

/** Counts the fields that were left out, within lists and objects too. */
function countUnknown(name: string, given: unknown, kept: unknown, counts: Map<string, number>) {
  if (Array.isArray(given)) {
    for (const [i, one] of given.entries()) countUnknown(`${name}[]`, one, (kept as unknown[])[i], counts);
    return;
  }
  if (typeof given !== "object" || given === null) return;
  // Of a million records hardly any has such a field: what it would be called is put together only then.
  for (const field in given) {
    const value = (given as Record<string, unknown>)[field];
    if (!Object.hasOwn(kept as object, field)) {
      const inner = `${name}.${field}`;
      counts.set(inner, (counts.get(inner) ?? 0) + 1);
    } else if (typeof value === "object" && value !== null)
      countUnknown(`${name}.${field}`, value, (kept as Record<string, unknown>)[field], counts);
  }
}

/** Only the first record may be, and must be, of type estate: what else says so is left out. */
function checkHead(placed: readonly Placed[], bad: readonly Problem[]) {
  const [first, ...rest] = placed;
  if (!first || first.record.type !== "estate") {
    const line = Math.min(first?.line ?? 1, bad[0]?.line ?? Infinity);
    const message = placed.length === 0 ? "the file holds no record; the first" : "the first record";
    const problems = [{ line, message: `${message} must be of type estate` }];
    return { placed: placed.filter(({ record }) => record.type !== "estate"), problems, isHeadless: true };
  }
  const second = rest.filter(({ record }) => record.type === "estate");
  const problems = second.map(({ line }) => ({ line, message: "a second estate record; there may be only one" }));
  return { placed: placed.filter((one) => !second.includes(one)), problems, isHeadless: false };
}

/** One record as a line of an estate file. A link's address is left out unless asked for: it is a live secret. */
export function recordLine(record: EstateRecord, options: { withAddresses: boolean }): string {
  if (record.type !== "link" || options.withAddresses) return JSON.stringify(record);
  const { address: _secret, ...rest } = record as RecordOf<"link">;
  return JSON.stringify(rest);
}

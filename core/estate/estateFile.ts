import type { EstateRecord, RecordOf, RecordType } from "./records";
import { recordSchemas } from "./records";
import { checkReferences, type Known, NOTHING_KNOWN } from "./references";

/** What is wrong with one line of an estate file, and where. Lines count from 1. */
export interface Problem {
  line: number;
  message: string;
}

/** A record and the line it stands on. */
export interface Placed {
  line: number;
  record: EstateRecord;
}

export interface EstateFile {
  records: EstateRecord[];
  /** Errors. Where there are any, and the reading isn't lenient, nothing of the file may be used. */
  problems: Problem[];
  /** Field names that the format doesn't know, with how often they stood in the file. */
  unknownFields: Map<string, number>;
}

/**
 * Reads an estate file, line by line, and checks it whole: values, ids, references, the tree.
 *
 * @param lines the file's lines, without their ends; empty ones are passed over
 * @param options `known`: what the estate that is added to holds already
 * @returns the good records in the file's order, and every problem with its line number
 */
export function readEstateFile(lines: Iterable<string>, options: { known?: Known } = {}): EstateFile {
  const placed: Placed[] = [];
  const problems: Problem[] = [];
  const unknownFields = new Map<string, number>();
  let line = 0;
  for (const text of lines) {
    line++;
    if (text.trim() === "") continue;
    const result = parseRecord(text, unknownFields);
    if (typeof result === "string") problems.push({ line, message: result });
    else placed.push({ line, record: result });
  }
  problems.push(...checkHead(placed));
  const { good, problems: referenceProblems } = checkReferences(placed, options.known ?? NOTHING_KNOWN);
  problems.push(...referenceProblems);
  problems.sort((a, b) => a.line - b.line);
  return { records: good.map((one) => one.record), problems, unknownFields };
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
  if (unknownFields) countUnknown(type, value, Object.keys(schema.shape), unknownFields);
  return parsed.data;
}

function countUnknown(type: string, value: object, known: string[], counts: Map<string, number>) {
  for (const field of Object.keys(value)) {
    if (known.includes(field)) continue;
    const name = `${type}.${field}`;
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
}

function checkHead(placed: Placed[]): Problem[] {
  if (placed.length === 0) return [{ line: 1, message: "the file holds no record; the first must be of type estate" }];
  const problems: Problem[] = [];
  if (placed[0].record.type !== "estate")
    problems.push({ line: placed[0].line, message: "the first record must be of type estate" });
  for (const { line, record } of placed.slice(1))
    if (record.type === "estate") problems.push({ line, message: "a second estate record; there may be only one" });
  return problems;
}

/** One record as a line of an estate file. A link's address is left out unless asked for: it is a live secret. */
export function recordLine(record: EstateRecord, options: { withAddresses: boolean }): string {
  if (record.type !== "link" || options.withAddresses) return JSON.stringify(record);
  const { address: _secret, ...rest } = record as RecordOf<"link">;
  return JSON.stringify(rest);
}

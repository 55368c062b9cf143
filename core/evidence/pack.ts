import { z } from "zod";

/** The tables of a pack, in CSV. */
export const PACK_TABLES = [
  ...(["register", "findings", "waivers", "events", "dockets", "receipts", "rounds", "decisions", "readings"] as const),
];
export type PackTable = (typeof PACK_TABLES)[number];

const hash = z.string().regex(/^[0-9a-f]{64}$/);
const instant = z.iso.datetime({ precision: 0 });
const day = z.iso.date();

/** A pack's manifest: every file in it but this one, the keys, and the files of the ledger. */
export const manifestSchema = z.strictObject({
  version: z.literal(1),
  house: z.string().min(1),
  /** Everything where it is empty; else the query that narrows the tables. */
  scope: z.string(),
  ...{ from: day, to: day, madeAt: instant, madeBy: z.string() },
  pseudonyms: z.boolean(),
  files: z.array(z.strictObject({ path: z.string(), bytes: z.int().nonnegative(), sha256: hash })),
});
export type Manifest = z.infer<typeof manifestSchema>;

/** Files that every pack has. */
export const REQUIRED = [
  ...["README.txt", "manifest.json", "rules.json", "report.pdf", "verify.html", "key.txt"],
  ...PACK_TABLES.map((table) => `${table}.csv`),
  ...["entries.jsonl", "proofs.jsonl", "checkpoint.txt", "consistency.jsonl", "key.pem"].map(
    (name) => `ledger/${name}`,
  ),
];
/** Left out where outsiders are pseudonyms. */
export const DETAILS_FILE = "ledger/details.jsonl";

const ESTATE = /^estate\/(\d{4}-\d\d-\d\d)\.jsonl$/;
const CHECKPOINT = /^ledger\/checkpoints\/([1-9]\d{0,15})\.txt$/;

/** The day that a file of the estate is of; null for any other path. */
export function estateDay(path: string): string | null {
  return ESTATE.exec(path)?.[1] ?? null;
}

/** The size of the earlier checkpoint that a path is of; null for any other. */
export function checkpointSize(path: string): number | null {
  const size = CHECKPOINT.exec(path)?.[1];
  return size === undefined ? null : Number(size);
}

/** Whether the manifest lists a file. */
export function isListed(path: string): boolean {
  return path !== "manifest.json" && path !== "key.txt" && !path.startsWith("ledger/");
}

import { createHash } from "node:crypto";
import { normaliseAddress } from "@/core/estate/address";
import type { EstateRecord, PersonRecord, RecordOf } from "@/core/estate/records";
import { recordKey } from "@/core/estate/records";
import type { Told } from "@/core/directory/reading";
import type { Reads } from "../platform/db/open";
import { bodiesOf } from "../records/facts";

/** What a directory has told until now, under the ids that it has here. */
export interface DirectoryTold {
  /** By address. */
  people: Map<string, PersonRecord>;
  /** By key: each record as it is kept. */
  bodies: Map<string, string>;
  members: RecordOf<"member">[];
}

export async function toldBy(db: Reads, directory: string): Promise<DirectoryTold> {
  const told: DirectoryTold = { people: new Map(), bodies: new Map(), members: [] };
  for (const body of await bodiesOf(db, directory, ["person", "group", "member"])) {
    const record = JSON.parse(body) as EstateRecord;
    told.bodies.set(factKey(record), body);
    if (record.type === "person") told.people.set(normaliseAddress(record.email), record);
    if (record.type === "member") told.members.push(record);
  }
  return told;
}

export function factKey(record: EstateRecord): string {
  return `${record.type} ${recordKey(record)}`;
}

/** A person as a directory told of them, without their id and in the order in which it is kept. */
export function plainly({ email, name, status, department, managerId, leftAt, suspendedAt }: PersonRecord): Told {
  return { email, name, status, department, managerId, leftAt, suspendedAt };
}

/** Short for whatever was shown, so that nothing else is applied. */
export function digestOf(shown: unknown): string {
  return createHash("sha256").update(JSON.stringify(shown)).digest("hex");
}

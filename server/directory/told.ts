import { createHash } from "node:crypto";
import { normaliseAddress } from "@/core/estate/address";
import type { EstateRecord, PersonRecord, RecordOf } from "@/core/estate/records";
import { recordKey } from "@/core/estate/records";
import type { ListReading, ToldPerson } from "@/core/directory/reading";
import type { Reads } from "../platform/db/open";
import { bodiesOf } from "../records/facts";
import { principalsRenamed } from "../records/names";

/** What a directory has reported so far. */
export interface DirectoryTold {
  /** By address. */
  people: Map<string, PersonRecord>;
  /** Keys of its groups, and by key its memberships as they are kept. */
  groups: Set<string>;
  members: Map<string, string>;
  /** By its own id: the id here, where that differs. */
  renamed: Map<string, string>;
}

export async function toldBy(db: Reads, directory: string): Promise<DirectoryTold> {
  const people = (await bodiesOf(db, directory, ["person"])).map(({ body }) => JSON.parse(body) as PersonRecord);
  const members = await bodiesOf(db, directory, ["member"]);
  return {
    people: new Map(people.map((person) => [normaliseAddress(person.email), person])),
    groups: new Set((await bodiesOf(db, directory, ["group"])).map(({ key }) => key)),
    members: new Map(members.map(({ key, body }) => [key, body])),
    renamed: await principalsRenamed(db, directory),
  };
}

/** What a reading makes of a directory's groups: records under its own ids that are new, and memberships that are over. */
export interface GroupChanges {
  fresh: EstateRecord[];
  joined: number;
  gone: RecordOf<"member">[];
}

export function groupChanges(
  { groups }: ListReading,
  { groups: known, members, renamed }: DirectoryTold,
): GroupChanges {
  if (!groups) return { fresh: [], joined: 0, gone: [] };
  const here = (id: string) => renamed.get(id) ?? id;
  const keyOf = (one: RecordOf<"member">) =>
    recordKey(renamed.size === 0 ? one : { ...one, groupId: here(one.groupId), memberId: here(one.memberId) });
  const now = new Map(groups.members.map((one) => [keyOf(one), one]));
  const joined = [...now].filter(([key]) => !members.has(key)).map(([, one]) => one);
  return {
    fresh: [...groups.groups.filter(({ id }) => !known.has(here(id))), ...joined],
    joined: joined.length,
    gone: [...members].filter(([key]) => !now.has(key)).map(([, body]) => JSON.parse(body)),
  };
}

/** A person as a directory told of them, without their id and in the order in which it is kept. */
export function plainly({ email, name, status, department, managerId, leftAt, suspendedAt }: PersonRecord): ToldPerson {
  return { email, name, status, department, managerId, leftAt, suspendedAt };
}

/** A digest of what was shown, so that nothing else is applied. */
export function digestOf(shown: unknown): string {
  return createHash("sha256").update(JSON.stringify(shown)).digest("hex");
}

import type { MyDeputy } from "@/contract/decisions";
import type { StandIns } from "@/contract/rounds";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";

/** Heads of departments, and who stands in for whom, now or later. */
export async function standIns(app: Asking): Promise<StandIns> {
  const departments = await app.engine.ask("departments", {});
  const heads = new Map(
    (await app.db.selectFrom("department_head").selectAll().execute()).map(({ department, person }) => [
      department,
      person,
    ]),
  );
  const people = await app.engine.ask("insiders", { addresses: [...heads.values()] });
  const names = new Map(people.map(({ address, name }) => [address, name]));
  const all = [...new Set([...departments, ...heads.keys()])].sort();
  const deputies = await app.db
    .selectFrom("deputy")
    .selectAll()
    .where("ended_at", "is", null)
    .where("until_at", ">", app.clock.seconds())
    .orderBy("from_at")
    .execute();
  return {
    heads: all.map((department) => {
      const person = heads.get(department) ?? null;
      return { department, person, name: person && (names.get(person) ?? null) };
    }),
    deputies: deputies.map(({ id, person, deputy, from_at, until_at }) => {
      return { id, person, deputy, from: from_at, until: until_at };
    }),
  };
}

/** Sets who heads a department; null for nobody. @throws {Problem} if they don't work here */
export async function setHead(app: Asking, department: string, person: string | null, actor: string): Promise<void> {
  const address = person?.toLowerCase() ?? null;
  if (address !== null) await checkActive(app, address);
  await writing(app.db, async (tx) => {
    if (address === null) await tx.deleteFrom("department_head").where("department", "=", department).execute();
    else
      await tx
        .insertInto("department_head")
        .values({ department, person: address })
        .onConflict((conflict) => conflict.column("department").doUpdateSet({ person: address }))
        .execute();
    await appendWithin(tx, actor, "department-head-set", { department, person: address });
  });
}

async function checkActive(app: Asking, address: string) {
  const [{ isActive }] = await app.engine.ask("insiders", { addresses: [address] });
  if (!isActive) throw new Problem("bad", `${address} isn’t one of your active people, so they can’t decide.`);
}

interface Deputy {
  person: string;
  deputy: string;
  from: Seconds;
  until: Seconds;
}

/** Names a deputy for a span of days. @throws {Problem} if the span is empty, or they can't decide */
export async function nameDeputy(app: Asking, given: Deputy, actor: string): Promise<void> {
  const [person, deputy] = [given.person.toLowerCase(), given.deputy.toLowerCase()];
  const { from, until } = given;
  if (person === deputy) throw new Problem("bad", "Deputy: name somebody else.");
  if (until <= from) throw new Problem("bad", "Until: choose a day after the first.");
  if (until <= app.clock.seconds()) throw new Problem("bad", "Until: choose a day in the future.");
  await checkActive(app, person);
  await checkActive(app, deputy);
  await writing(app.db, async (tx) => {
    const others = await tx
      .selectFrom("deputy")
      .selectAll()
      .where("person", "=", person)
      .where("ended_at", "is", null)
      .execute();
    if (others.some((one) => from < one.until_at && one.from_at < until))
      throw new Problem("conflict", "They already have a deputy on some of these days. End that one first.");
    await tx
      .insertInto("deputy")
      .values({ person, deputy, from_at: from, until_at: until, given_by: actor, ended_at: null })
      .execute();
    await appendWithin(tx, actor, "deputy-named", { person, deputy, from: rfc3339(from), until: rfc3339(until) });
  });
}

/** Who stands in for somebody, now or later. */
export async function deputiesOf(db: Reads, person: string): Promise<MyDeputy[]> {
  const rows = await db
    .selectFrom("deputy")
    .selectAll()
    .where("person", "=", person)
    .where("ended_at", "is", null)
    .where("until_at", ">", db.clock.seconds())
    .orderBy("from_at")
    .execute();
  return rows.map(({ id, deputy, from_at, until_at }) => ({ id, deputy, from: from_at, until: until_at }));
}

/** @param of whose deputy it has to be; anybody's where that is left out @throws {Problem} where there is none such */
export function endDeputy(db: Db, id: number, actor: string, of?: string): Promise<void> {
  return writing(db, async (tx) => {
    const row = await tx
      .selectFrom("deputy")
      .selectAll()
      .where("id", "=", id)
      .where("ended_at", "is", null)
      .executeTakeFirst();
    if (!row || (of !== undefined && row.person !== of)) throw new Problem("unknown", "That deputy no longer exists.");
    await tx.updateTable("deputy").set({ ended_at: tx.clock.seconds() }).where("id", "=", id).execute();
    await appendWithin(tx, actor, "deputy-ended", { person: row.person, deputy: row.deputy });
  });
}

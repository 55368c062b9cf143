import type { DecidingAsked } from "../engine/roundBook";
import type { Reads } from "../platform/db/open";
import type { Round } from "./round";

/** Whom a round would ask now, with the heads of departments and the deputies that have been named. */
export async function decidingOf(db: Reads, { asked }: Pick<Round, "asked">): Promise<DecidingAsked> {
  const deputies = await db.selectFrom("deputy").selectAll().where("ended_at", "is", null).orderBy("id").execute();
  return {
    order: asked.order,
    named: asked.named,
    heads: await headsOfDepartments(db),
    deputies: deputies.map(({ person, deputy, from_at, until_at }) => {
      return { person, deputy, from: from_at, until: until_at };
    }),
  };
}

/** Who heads which department, as set by an administrator. */
export function headsOfDepartments(db: Reads): Promise<{ department: string; person: string }[]> {
  return db.selectFrom("department_head").selectAll().execute();
}

import { z } from "zod";
import { HOUR, seconds } from "@/core/time/instant";
import { nowSeconds, nowText } from "./clock";
import type { Db } from "./db/open";

/** Who comes back within this time is still having the same look. */
const ONE_LOOK_S = HOUR;
const NAME = "desk";
const schema = z.object({ looked: z.string(), before: z.string().nullable() });

/** Notes that somebody looks at the Desk. @returns when they did so before this look; null at the first time */
export async function lookedAtDesk(db: Db, person: string): Promise<string | null> {
  const row = await db
    .selectFrom("setting")
    .select("body")
    .where("person", "=", person)
    .where("name", "=", NAME)
    .executeTakeFirst();
  const known = row && schema.parse(JSON.parse(row.body));
  const isNew = !known || nowSeconds() - seconds(known.looked) >= ONE_LOOK_S;
  const before = isNew ? (known?.looked ?? null) : known.before;
  const body = JSON.stringify({ looked: nowText(), before });
  await db
    .insertInto("setting")
    .values({ person, name: NAME, body })
    .onConflict((conflict) => conflict.columns(["person", "name"]).doUpdateSet({ body }))
    .execute();
  return before;
}

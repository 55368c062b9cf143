import { z } from "zod";
import { HOUR, seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";

/** Coming back within this time counts as the same visit. */
const ONE_LOOK_S = HOUR;
const NAME = "desk";
const schema = z.object({ looked: z.string(), before: z.string().nullable() });

/** Notes that somebody looks at the Desk. @returns when they did so before this look; null at the first time */
export async function lookedAtDesk(db: Db, person: string): Promise<string | null> {
  const text = await savedText(db, person, NAME);
  const known = text === undefined ? undefined : schema.parse(JSON.parse(text));
  const isNew = !known || db.clock.seconds() - seconds(known.looked) >= ONE_LOOK_S;
  const before = isNew ? (known?.looked ?? null) : known.before;
  await saveText(db, person, NAME, JSON.stringify({ looked: db.clock.text(), before }));
  return before;
}

import { z } from "zod";
import { registerSettingsBody } from "@/contract/register";
import type { RegisterSettings } from "@/core/register/saved";
import { HOUR, seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";

const NAME = "register";
/** Coming back within this time counts as the same visit. */
const ONE_LOOK_S = HOUR;

const storedSchema = registerSettingsBody.extend({
  looked: z.string().nullable(),
  lookedBefore: z.string().nullable(),
});
type Stored = z.infer<typeof storedSchema>;
const NOTHING_SET: Stored = { table: null, start: null, looked: null, lookedBefore: null };

async function storedOf(db: Db, person: string): Promise<Stored> {
  const text = await savedText(db, person, NAME);
  return text === undefined ? NOTHING_SET : storedSchema.parse(JSON.parse(text));
}

export async function setRegister(db: Db, person: string, changes: Partial<z.infer<typeof registerSettingsBody>>) {
  await store(db, person, { ...(await storedOf(db, person)), ...changes });
}

/** Notes that somebody looks at the register, and returns their settings. */
export async function lookedAtRegister(db: Db, person: string): Promise<RegisterSettings> {
  const known = await storedOf(db, person);
  const isNewLook = known.looked === null || db.clock.seconds() - seconds(known.looked) >= ONE_LOOK_S;
  const settings = { ...known, looked: db.clock.text(), lookedBefore: isNewLook ? known.looked : known.lookedBefore };
  await store(db, person, settings);
  return { ...settings, startView: await viewOf(db, person, settings.start) };
}

/** The text of a saved query of theirs or for all; it may have been deleted since. */
async function viewOf(db: Db, person: string, id: string | null): Promise<string | null> {
  if (id === null) return null;
  const row = await db
    .selectFrom("saved_query")
    .select("view")
    .where("id", "=", id)
    .where((eb) => eb.or([eb("owner", "=", person), eb("for_all", "=", 1)]))
    .executeTakeFirst();
  return row?.view ?? null;
}

function store(db: Db, person: string, settings: Stored): Promise<void> {
  return saveText(db, person, NAME, JSON.stringify(settings));
}

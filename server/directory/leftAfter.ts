import { agedTo } from "@/core/directory/reading";
import type { PersonRecord } from "@/core/estate/records";
import { HOUR } from "@/core/time/instant";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { knownSources } from "../records/belief";
import { bodiesOf, keepFacts } from "../records/facts";
import { appendWithin } from "../records/ledger/ledger";
import { plainly } from "./told";

/** The settings: after how many days of suspension somebody has left, and when that was last checked. */
const [DAYS, LOOKED] = ["left-after-days", "left-looked"];
const DEFAULT_DAYS = "14";

/** After so many days of suspension somebody counts as having left. */
export async function leftAfterDays(db: Reads): Promise<number> {
  return Number((await savedText(db, "", DAYS)) ?? DEFAULT_DAYS);
}

export async function setLeftAfterDays(db: Db, days: number, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const before = await leftAfterDays(tx);
    await saveText(tx, "", DAYS, String(days));
    await appendWithin(tx, actor, "left-after-set", { before, days });
    await age(tx);
  });
}

/** Hourly: people whose last day is over, or who have been suspended too long, have left. */
export function ageDirectories(db: Db): Promise<void> {
  return writing(db, async (tx) => {
    const hour = String(Math.floor(tx.clock.seconds() / HOUR));
    if ((await savedText(tx, "", LOOKED)) === hour) return;
    await saveText(tx, "", LOOKED, hour);
    await age(tx);
  });
}

async function age(tx: Tx) {
  const [t, days, at] = [tx.clock.seconds(), await leftAfterDays(tx), tx.clock.text()];
  for (const { name, kind } of await knownSources(tx)) {
    if (kind !== "directory") continue;
    const people = (await bodiesOf(tx, name, ["person"])).map(({ body }) => JSON.parse(body) as PersonRecord);
    const aged = people.map((person): PersonRecord => ({
      type: "person",
      id: person.id,
      ...agedTo(t, plainly(person), days),
    }));
    const turned = aged.filter(({ status }, i) => status !== people[i].status);
    await keepFacts(
      tx,
      name,
      turned.map((record) => ({ record, at, since: at })),
    );
  }
}

import type { LeaverOwn } from "@/contract/leavers";
import { normaliseAddress } from "@/core/estate/address";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { endWaiversWithin, waiversGivenBy } from "../rules";
import { turnWatches, watchesOn } from "../trail";

/** What somebody has set up in the application itself: ids of their waivers and watches. */
export async function ownOf(db: Reads, address: string): Promise<{ waivers: number[]; watches: string[] }> {
  const person = normaliseAddress(address);
  const made = (await watchesOn(db)).filter(({ madeBy }) => madeBy === person);
  return { waivers: await waiversGivenBy(db, person), watches: made.map(({ id }) => id) };
}

export async function ownCounts(db: Reads, address: string): Promise<LeaverOwn> {
  const { waivers, watches } = await ownOf(db, address);
  return { waivers: waivers.length, watches: watches.length };
}

/** Ends all of it. @param shown what whoever asks was shown. @throws {Problem} where it has changed since */
export async function endOwn(db: Db, address: string, shown: LeaverOwn, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const { waivers, watches } = await ownOf(tx, address);
    if (waivers.length !== shown.waivers || watches.length !== shown.watches)
      throw new Problem("conflict", "This has changed since it was shown. Review it again, then end it.");
    if (waivers.length > 0) await endWaiversWithin(tx, actor, waivers);
    await turnWatches(tx, actor, watches, false);
  });
}

import { hostname } from "node:os";
import { v7 as uuid } from "uuid";
import { runningSeconds } from "./platform/clock";
import { type Db, writing } from "./platform/db/open";
import { wipeOld } from "./dockets/passphrases";
import { engine } from "./engine/client";
import { sendNow } from "./messages/outbox";
import { bringDemands } from "./rules/demands";
import { takeOverdue } from "./rules/graceOver";
import { endWaivers } from "./rules/waivers";
import { raiseNotYet } from "./trail/notYet";
import { carryOutOrders } from "./dockets/dueOrders";

/** A tick that takes longer hangs, and another one may begin. */
const LONGEST_S = 300;

/**
 * Does what is due: standing orders, owners to be asked, grace that is over, waivers that end, passphrases to be
 * wiped. Each piece looks at what stands in the database and is put down there as done in one transaction: what was
 * missed while nothing ran is done once, and nothing twice, whoever calls this and however often.
 * @returns how many alerts were raised, or null where another process is at it
 */
export async function tick(db: Db): Promise<number | null> {
  const holder = `${hostname()} ${process.pid} ${uuid()}`;
  if (!(await take(db, holder))) return null;
  try {
    await endWaivers(db);
    await engine().ask("refresh", {});
    await carryOutOrders(db);
    const breaches = await bringDemands(db);
    const alerts = (await takeOverdue(db, breaches)) + (await raiseNotYet(db));
    await wipeOld(db);
    await sendNow(db);
    return alerts;
  } finally {
    await db.deleteFrom("lease").where("name", "=", "tick").where("holder", "=", holder).execute();
  }
}

function take(db: Db, holder: string): Promise<boolean> {
  const now = runningSeconds();
  return writing(db, async (within) => {
    const held = await within.selectFrom("lease").selectAll().where("name", "=", "tick").executeTakeFirst();
    if (held && held.until > now && isAtWork(held.holder)) return false;
    const lease = { holder, until: now + LONGEST_S };
    await within
      .insertInto("lease")
      .values({ name: "tick", ...lease })
      .onConflict((conflict) => conflict.column("name").doUpdateSet(lease))
      .execute();
    return true;
  });
}

/** Whether the process that holds a lease still runs; of another machine's we don't know, and wait. */
function isAtWork(holder: string): boolean {
  const [host, pid] = holder.split(" ");
  if (host !== hostname()) return true;
  try {
    return process.kill(Number(pid), 0);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}

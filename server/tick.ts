import { carryOutOrders } from "./dockets/dueOrders";
import { wipeOld } from "./dockets/passphrases";
import { sendNow } from "./messages/outbox";
import type { Jobs } from "./platform/jobs";
import type { ReadingAll } from "./reading";
import { askDue } from "./rounds/asking";
import { closeDue } from "./rounds/closing";
import { openDue } from "./rounds/opening";
import { overtakeAll } from "./rounds/overtaking";
import type { Rounding } from "./rounds/rounding";
import { bringDemands, unansweredAt } from "./rules/demands";
import { takeOverdue } from "./rules/graceOver";
import { ageDirectories, type Listing } from "./directory";
import { engagementsDue } from "./engagements";
import { sendDueReports, sendToWitnesses } from "./evidence";
import type { Importing } from "./imports";
import { noteLeavers } from "./leavers";
import { endStances } from "./outsiders";
import { forgetCodes } from "./people";
import { clearMonthly } from "./clearing";
import { makeDue } from "./sharing";
import { endWaivers } from "./rules/waivers";
import { recordOpenness } from "./shortlist/openness";
import { raiseNotYet } from "./trail/notYet";
import { makeDueCheckpoints } from "./records/ledger/checkpoints";

/** Has the rooms do every minute what is due in them: in this order, since each may make work for the next. */
export function registerJobs(app: Rounding & ReadingAll & Importing & Listing & { jobs: Jobs }) {
  app.jobs.register(
    () => endWaivers(app.db),
    () => endStances(app.db),
    () => ageDirectories(app.db),
    async () => void (await app.engine.ask("refresh", {})),
    async () => void (await carryOutOrders(app)),
    async () => takeOverdue(app, await bringDemands(app)),
    () => makeDue(app),
    () => clearMonthly(app),
    () => noteLeavers(app),
    () => engagementsDue(app),
    () => overtakeAll(app),
    () => closeDue(app),
    () => openDue(app),
    () => askDue(app),
    () => raiseNotYet(app.db, unansweredAt),
    () => recordOpenness(app),
    async () => void (await wipeOld(app.db)),
    async () => void (await makeDueCheckpoints(app)),
    () => sendToWitnesses(app),
    () => sendDueReports(app),
    () => sendNow(app),
    () => app.imports.dropIdle(),
    () => app.lists.dropIdle(),
    () => app.limits.clear(),
    () => forgetCodes(app.db),
  );
}

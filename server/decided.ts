import { ruleSetOf } from "@/core/rules/setting";
import { sharesOfDocket } from "./dockets/changes";
import { ordersAt } from "./dockets/standingOrders";
import type { Decided } from "./engine/source";
import type { Db } from "./platform/db/open";
import { labelRulesAt } from "./labels/labelRules";
import { lastDaysAt } from "./leavers/lastDays";
import { sameFirms } from "./outsiders/sameFirms";
import { confirmationsAt, sharesOfRound } from "./rounds/confirmations";
import { ruleSettings } from "./rules/settings";
import { waiversAt } from "./rules/waivers";

/** What rooms above the engine know, for the engine to judge by. */
export function decidedIn(db: Db): Decided {
  return {
    waivers: (at) => waiversAt(db, at),
    rules: async (at) => ruleSetOf(await ruleSettings(db, at)),
    orders: (at) => ordersAt(db, at),
    confirmations: (at) => confirmationsAt(db, at),
    lastDays: (at) => lastDaysAt(db, at),
    labelRules: (at) => labelRulesAt(db, at),
    sameFirms: (at) => sameFirms(db, at),
    lookedUp: { docket: (id) => sharesOfDocket(db, id), round: (id) => sharesOfRound(db, id) },
  };
}

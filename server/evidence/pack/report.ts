import { type Report, type ReportSection, tableOf } from "@/core/evidence/report";
import { rfc3339 } from "@/core/time/instant";
import { changesDone, docketsBetween } from "../../dockets/between";
import type { Platform } from "../../platform/platform";
import { roundsBetween } from "../../rounds";
import { waiversBetween } from "../../rules";
import { completeSection } from "../report/complete";
import { dayOf, figure } from "../report/days";
import type { PackSpan } from "./tables";

/** What a person reads of a pack. @param open what was so on both days */
export async function packReport(app: Platform, span: PackSpan, open: readonly ReportSection[]): Promise<Report> {
  const { from, to, scope, naming } = span;
  return {
    title: `Shared outside, ${dayOf(from)} to ${dayOf(to)}`,
    words:
      `${scope === "" ? "About everything that is known." : `About what this query finds: ${naming.text(scope)}`} Days are of UTC. ` +
      "The tables in this pack have every line behind these figures. README.txt says how to check them.",
    sections: [...open, await done(app, span), await completeSection(app, from, to)],
  };
}

async function done({ db }: Platform, { from, to }: PackSpan): Promise<ReportSection> {
  const [begins, ends] = [rfc3339(from), rfc3339(to)];
  const changes = (await changesDone(db, begins, ends)).reduce((sum, { count }) => sum + count, 0);
  return {
    title: "What was done",
    words: "Counted over the whole period, whatever the pack’s query.",
    table: tableOf(
      ["What", "How many"],
      [
        ["Dockets applied", figure((await docketsBetween(db, begins, ends)).length)],
        ["Changes carried out", figure(changes)],
        ["Rounds held", figure((await roundsBetween(db, from, to)).length)],
        ["Waivers in force", figure((await waiversBetween(db, begins, ends)).length)],
      ],
      [1],
    ),
  };
}

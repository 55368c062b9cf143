import { REPORT_WORDS } from "@/core/evidence/report";
import { type Every, nextDue, type ReportSchedule, type ScheduledKind } from "@/core/evidence/schedule";
import { domainOf, isHomeDomain } from "@/core/estate/address";
import { DAY, type Seconds, utcDay } from "@/core/time/instant";
import type { ReportAsked } from "@/contract/reports";
import type { Selectable } from "kysely";
import type { Asking } from "../../engine/client";
import { channelsOf, type Channels } from "../../messages/channels";
import { afterSending } from "../../messages/retrying";
import { mailBy } from "../../messages/sending";
import { seesConsole } from "../../people";
import { type Db, type Reads, writing } from "../../platform/db/open";
import type { ReportScheduleTable } from "../../platform/db/schema";
import type { Platform } from "../../platform/platform";
import { Problem } from "../../platform/problem";
import { homeDomains } from "../../records/homeDomains";
import { appendWithin } from "../../records/ledger/ledger";
import { reportFile, reportFor } from "./reports";

type Row = Selectable<ReportScheduleTable>;

export async function schedules(db: Reads): Promise<ReportSchedule[]> {
  const rows = await db.selectFrom("report_schedule").selectAll().orderBy("id").execute();
  return rows.map(({ id, kind, every, target, added_by, due_at, sent_at, error }) => ({
    ...{ id, kind, every, to: target, addedBy: added_by, nextAt: due_at, sentAt: sent_at, error },
  }));
}

/** @param given who it goes to, and in which time zone @throws {Problem} if it may not go there, or already does */
export async function addSchedule(
  app: Platform,
  given: { kind: ScheduledKind; every: Every; to: string },
  { email, zone }: { email: string; zone: string },
): Promise<void> {
  await writing(app.db, async (tx) => {
    const { kind, every, to: target } = given;
    if (!(await mayGoTo(tx, target)))
      throw new Problem(
        "bad",
        `to: ${target} has no account that can see the console and isn’t at a home domain. Reports name outsiders: send it yourself.`,
      );
    const due = nextDue(every, app.clock.seconds(), zone);
    const added = await tx
      .insertInto("report_schedule")
      .values({ kind, every, target, zone, added_by: email, due_at: due, next_at: due })
      .onConflict((conflict) => conflict.doNothing())
      .returning("id")
      .executeTakeFirst();
    if (!added) throw new Problem("conflict", "That report goes there already.");
    await appendWithin(tx, email, "report-scheduled", { report: kind, every, to: target });
  });
}

/** @throws {Problem} where there is none */
export function removeSchedule(db: Db, id: number, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const row = await tx.deleteFrom("report_schedule").where("id", "=", id).returningAll().executeTakeFirst();
    if (!row) throw new Problem("unknown", "That report is no longer scheduled.");
    await appendWithin(tx, actor, "report-unscheduled", { report: row.kind, every: row.every, to: row.target });
  });
}

async function mayGoTo(db: Reads, address: string): Promise<boolean> {
  return (await seesConsole(db, address)) || isHomeDomain(domainOf(address), await homeDomains(db));
}

/** Makes and sends the reports that are due. One that can't be sent is tried again for a day, then waits for its next day. */
export async function sendDueReports(app: Asking): Promise<void> {
  const now = app.clock.seconds();
  const due = await app.db.selectFrom("report_schedule").selectAll().where("next_at", "<=", now).execute();
  if (due.length === 0) return;
  const { mail } = await channelsOf(app);
  for (const row of due) {
    const error = await send(app, mail, row).then(
      () => null,
      (failed: Error) => failed.message,
    );
    await noteSent(app, row, error);
  }
}

async function noteSent(app: Asking, row: Row, error: string | null) {
  const now = app.clock.seconds();
  const after = afterSending(row, error, now);
  const isOver = error === null || after.state === "aside";
  const due = isOver ? nextDue(row.every, now, row.zone) : row.due_at;
  const changed = {
    ...{ error, due_at: due, next_at: isOver ? due : after.next_at },
    ...{ tries: isOver ? 0 : row.tries + 1, sent_at: error === null ? now : row.sent_at },
  };
  await app.db.updateTable("report_schedule").set(changed).where("id", "=", row.id).execute();
}

/** As a link for those who sign in; as the PDF where the address is at a home domain. @throws {Error} why it could not go out */
async function send(app: Asking, mail: Channels["mail"], { kind, every, target, due_at }: Row): Promise<void> {
  const { title } = REPORT_WORDS[kind];
  const asked = askedFor(kind, every, due_at);
  if (await seesConsole(app.db, target)) {
    const { kind: _, ...rest } = asked;
    const address = `${app.settings.url}/ledger/reports/${kind}?${new URLSearchParams(rest as Record<string, string>)}`;
    return mailBy(mail, { to: target, subject: title, text: `The report is here:\n\n${address}\n` });
  }
  if (!isHomeDomain(domainOf(target), await homeDomains(app.db)))
    throw new Error("The address no longer belongs to an account or a home domain.");
  const report = await reportFor(app, asked);
  const content = Buffer.from(await reportFile(app, report));
  const attachments = [{ filename: `${kind}.pdf`, content, contentType: "application/pdf" }];
  return mailBy(mail, { to: target, subject: report.title, text: `${report.words}\n`, attachments });
}

/** Up to the day before the one on which it is due. */
function askedFor(kind: ScheduledKind, every: Every, due: Seconds): ReportAsked {
  const day = utcDay(due - DAY);
  return kind === "controls" ? { kind, from: utcDay(due - (every === "week" ? 7 : 31) * DAY), to: day } : { kind, day };
}

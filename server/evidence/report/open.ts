import { type Report, tableOf } from "@/core/evidence/report";
import { noReason, whyOpen } from "@/core/register/publicList";
import { countWords } from "@/core/text/words";
import { NEVER } from "@/core/time/instant";
import type { Asking } from "../../engine/client";
import { notesOn } from "../../register";
import { waiversOn } from "../../rules";
import { dayOf, endOfDay, figure, pastOr } from "./days";

/** What could be opened without a name on a day: why, and who answers for it. */
export async function openReport(app: Asking, { day }: { day: string }): Promise<Report> {
  const at = endOfDay(app, day);
  const past = pastOr(app, at);
  const shares = await app.engine.ask("publicList", {}, past);
  const [waivers, notes] = [await waiversOn(app.db, null, past), await notesOn(app.db, null, past)];
  const reasons = shares.map(({ row }) => whyOpen(row, waivers, notes));
  const unexplained = reasons.filter((why) => why.length === 0).length;
  const nobody = shares.filter(({ answers }) => answers === null).length;
  const rows = shares.map(({ row, sentence, answers }, i) => [
    row.itemName,
    [row.storeName, ...row.place].join(" / "),
    sentence,
    reasons[i].map(reasonWords).join(" ") || noReason(row),
    row.expires === NEVER ? "never" : dayOf(row.expires),
    answers === null ? "nobody" : `${answers.name} (${answers.as})`,
  ]);
  return {
    title: `Open to anyone on ${dayOf(at)}`,
    words: "Links that can be used by whoever has the address. Nobody can know who has used them.",
    sections: [
      {
        title: countWords(shares.length, "share"),
        words:
          (unexplained === 0 ? "Each has a known reason; " : `${figure(unexplained)} have no known reason; `) +
          (nobody === 0
            ? "somebody answers for each."
            : `nobody still working here is responsible for ${figure(nobody)}.`),
        table: tableOf(["Item", "Where", "How it is shared", "Why", "Ends", "Responsible"], rows),
      },
    ],
  };
}

function reasonWords({ words, waivedUntil }: { words: string; waivedUntil: string | null }): string {
  return waivedUntil === null ? words : `${words} (waived until ${waivedUntil})`;
}

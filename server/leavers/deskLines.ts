import type { DeskLine } from "@/contract/desk";
import { type Leaver, standing } from "@/core/leavers/leavers";
import { countWords, type DayWords } from "@/core/text/words";
import { DAY, type Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";

/** Those who left in the last days each have a line; the others are counted. */
const [NEW_S, MOST_NAMED] = [14 * DAY, 5];
/** How long before the end of somebody's last day their sheet is due. */
const AHEAD_S = 2 * DAY;

/** What the Desk says of leavers: who is about to go, who has just gone, and how many others have something left. */
export async function leaverLines(app: Asking, days: DayWords): Promise<DeskLine[]> {
  const now = app.clock.seconds();
  const leavers = await app.engine.ask("leavers", {});
  const going = leavers.filter(({ lastDay }) => lastDay !== null && lastDay - now <= AHEAD_S);
  const gone = leavers.filter(({ status }) => status !== "active");
  const fresh = gone.filter(({ since }) => since !== null && since > now - NEW_S).slice(0, MOST_NAMED);
  const others = gone.length - fresh.length;
  return [
    ...going.slice(0, MOST_NAMED).map((one) => goingLine(one, now, days)),
    ...fresh.map(goneLine),
    ...(others > 0
      ? [
          {
            words: `${countWords(others, fresh.length > 0 ? "other leaver has" : "leaver has", `${fresh.length > 0 ? "other " : ""}leavers have`)} something left.`,
            href: "/people/leavers",
            isPressing: false,
          },
        ]
      : []),
  ];
}

function goingLine(leaver: Leaver, now: Seconds, days: DayWords): DeskLine {
  const { name, lastDay } = leaver;
  const words =
    lastDay! > now
      ? `${name} leaves on ${days(lastDay!)}: ${leftWords(leaver)}.`
      : `${name}’s last day was ${days(lastDay!)}, and they are still active.`;
  return { words, href: sheetOf(leaver), isPressing: true };
}

function goneLine(leaver: Leaver): DeskLine {
  const has = leaver.status === "left" ? "has left" : "is suspended";
  return { words: `${leaver.name} ${has}: ${leftWords(leaver)}.`, href: sheetOf(leaver), isPressing: true };
}

function leftWords(leaver: Leaver): string {
  const { owned, links, grants, groups } = leaver;
  if (standing(leaver) === 0) return "they leave nothing behind";
  const parts: [number, string][] = [
    [owned, "item"],
    [links, "live link"],
    [grants, "grant"],
    [groups, "group"],
  ];
  const told = parts.filter(([count]) => count > 0).map(([count, word]) => countWords(count, word));
  return `${told.join(", ")} to settle`;
}

function sheetOf({ address }: Leaver): string {
  return `/people/leaver?address=${encodeURIComponent(address)}`;
}

import type { DecidedLine } from "@/contract/decisions";
import { grouped } from "@/core/text/grouped";

/** Lines that go together under one heading. */
export interface LineGroup {
  key: string;
  title: string;
  /** Lines that are alike, so that they can be decided together. */
  alike: DecidedLine[][];
}

const PRESSING: Record<string, number> = { end: 0, tighten: 1, keep: 2 };
/** What has been decided stays where it is, until it is final. */
const pressing = ({ suggest, isSettled }: DecidedLine) => (isSettled ? 4 : (PRESSING[suggest ?? ""] ?? 3));

/** Lines by place, or by whom they let in; what is most pressing comes first. */
export function groupsOf(lines: readonly DecidedLine[], by: "share" | "person"): LineGroup[] {
  const keyOf = (line: DecidedLine) => (by === "share" ? line.place : line.audienceKey);
  const groups = [...grouped(lines, keyOf)].map(([key, all]) => ({
    key,
    title: by === "share" ? key : all[0].audienceTitle,
    alike: alikeAmong(all),
    rank: Math.min(...all.map(pressing)),
  }));
  return groups.sort((a, b) => a.rank - b.rank);
}

/** Those on the same place, for the same people, and with the same suggestion. */
function alikeAmong(lines: readonly DecidedLine[]): DecidedLine[][] {
  const alike = grouped(lines, ({ place, audience, suggest, isSettled }) =>
    JSON.stringify([place, audience, suggest, isSettled]),
  );
  return [...alike.values()].sort((a, b) => pressing(a[0]) - pressing(b[0]));
}

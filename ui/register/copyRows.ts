import { registerOperations } from "@/contract/register";
import type { RegisterRow } from "@/core/register/columns";
import { ask } from "../parts/ask";
import type { Dates } from "../parts/dates";
import { countWords } from "../parts/words";

const MOST = 5_000;

/** Puts shares on the clipboard as text, a line each with tabs between. @returns what came of it, in words */
export async function copyRows(ids: string[], past: string | null, dates: Dates): Promise<string> {
  if (ids.length > MOST) return `At most ${MOST.toLocaleString("en-GB")} shares can be copied; export the others.`;
  const { rows } = await ask(registerOperations.rows, { body: { ids: [...ids] }, past });
  try {
    await navigator.clipboard.writeText(rows.map((row) => lineOf(row, dates)).join("\n"));
  } catch {
    return "The browser doesn’t allow this page to use the clipboard. Export instead.";
  }
  return `${countWords(rows.length, "share")} copied.`;
}

/** No cell holds a tab or a line end, so that a line stays a line. */
export function lineOf(row: RegisterRow, dates: Dates): string {
  const cells = [
    row.itemName,
    [row.storeName, ...row.place].join(" / "),
    row.audience,
    row.role,
    dates.end(row.expires),
    !row.isUseKnown ? "unknown" : row.lastUsed === null ? "never" : dates.day(row.lastUsed),
    row.maker,
  ];
  return cells.map((cell) => cell.replace(/[\t\r\n]+/g, " ")).join("\t");
}

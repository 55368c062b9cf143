import { registerOperations } from "@/contract/register";
import { NEVER } from "@/core/time/instant";
import type { RegisterRow } from "@/core/register/columns";
import { ask } from "../parts/ask";
import { countWords, dayWords } from "../parts/words";

const MOST = 5_000;

/** Puts shares on the clipboard as text, a line each with tabs between. @returns what came of it, in words */
export async function copyRows(ids: string[], past: string | null): Promise<string> {
  if (ids.length > MOST) return `At most ${MOST.toLocaleString("en-GB")} shares can be copied; export the others.`;
  const { rows } = await ask(registerOperations.rows, { body: { ids: [...ids] }, past });
  try {
    await navigator.clipboard.writeText(rows.map(lineOf).join("\n"));
  } catch {
    return "The browser does not let this page use the clipboard; export instead.";
  }
  return `${countWords(rows.length, "share")} copied.`;
}

/** No cell holds a tab or a line end, so that a line stays a line. */
export function lineOf(row: RegisterRow): string {
  const cells = [
    row.itemName,
    [row.storeName, ...row.place].join(" / "),
    row.audience,
    row.role,
    row.expires === NEVER ? "no end" : dayWords(row.expires),
    !row.isUseKnown ? "unknown" : row.lastUsed === null ? "never" : dayWords(row.lastUsed),
    row.maker,
  ];
  return cells.map((cell) => cell.replace(/[\t\r\n]+/g, " ")).join("\t");
}

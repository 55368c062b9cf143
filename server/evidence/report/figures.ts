import { type ReportSection, tableOf } from "@/core/evidence/report";
import { LABELS } from "@/core/estate/records";
import { RULE_IDS, RULES } from "@/core/rules/list";
import type { Seconds } from "@/core/time/instant";
import type { AskingEstate } from "../../engine/client";
import { dayOf, figure, pastOr } from "./days";

export const OUTSIDE = "state:live outside:yes";
/** Figures of the register: what each is called, and the query that counts it. */
const FIGURES: readonly (readonly [title: string, query: string])[] = [
  ["Outside shares", OUTSIDE],
  ["Open to anyone", `${OUTSIDE} reach:open`],
  ["Open to anyone, without a password", `${OUTSIDE} reach:open -password:set`],
  ["Without an end", `${OUTSIDE} ends:never`],
  ["Never used", `${OUTSIDE} used:never`],
  ["Of very high risk", `${OUTSIDE} risk:very-high`],
  ["Of high risk", `${OUTSIDE} risk:high`],
  ...LABELS.map((label) => [`On ${label} items`, `${OUTSIDE} label:${label}`] as const),
];

/** How much of what a query finds was open at two instants. @param words what the two instants are called */
export async function figuresSection(
  app: AskingEstate,
  instants: readonly [Seconds, Seconds],
  words: string,
  scope = "",
): Promise<ReportSection> {
  const queries = FIGURES.map(([, query]) => query);
  // Who knows of one instant at a time goes back more easily than on.
  const now = await counted(app, queries, scope, instants[1]);
  const before = await counted(app, queries, scope, instants[0]);
  const rows = FIGURES.map(([title], i) => [title, figure(before[i]), figure(now[i]), difference(now[i] - before[i])]);
  return {
    title: "What was open",
    words,
    table: tableOf(["Shares", ...instants.map(dayOf), "Change"], rows, [1, 2, 3]),
  };
}

/** What breaks a rule at an instant. */
export async function findingsSection(app: AskingEstate, at: Seconds, scope = ""): Promise<ReportSection> {
  const queries = RULE_IDS.map((rule) => `rule:${rule}`);
  const counts = await counted(app, queries, scope, at);
  const rows = RULE_IDS.map((rule, i) => [RULES[rule].title, figure(counts[i])]).filter((_, i) => counts[i] > 0);
  return {
    title: "What broke a rule",
    words:
      rows.length === 0
        ? "No share broke an active rule."
        : `Shares that broke each active rule on ${dayOf(at)}. One share can break several.`,
    table: tableOf(["Rule", "Shares"], rows, [1]),
  };
}

function counted(app: AskingEstate, queries: readonly string[], scope: string, at: Seconds): Promise<number[]> {
  return app.engine.ask("counts", { queries: queries.map((query) => `${query} ${scope}`.trim()) }, pastOr(app, at));
}

const difference = (value: number) => (value === 0 ? "none" : `${value > 0 ? "+" : "−"}${figure(Math.abs(value))}`);

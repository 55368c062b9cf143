import { leftByRisk } from "../core/advice/byRisk";
import { choiceAt } from "../core/advice/choice";
import { bendOf, frontier, MOST_POINTS } from "../core/advice/frontier";
import { massOf, shortlist } from "../core/advice/shortlist";
import { buildEstate } from "../core/estate/estate";
import { Share } from "../core/estate/share";
import { LEVELS, riskOf } from "../core/rules/risk";
import { generateEstate } from "./generate";
import { memoryInUse } from "./memory";
import type { Report } from "./report";
import { timed } from "./timing";
import { finish } from "../core/time/steps";

const ITEMS = 1_000_000;

/** What to do first: one point of its frontier, all of it; and what a list by risk shuts for as much. */
export async function measureShortlist(report: Report, shares: number) {
  const estate = buildEstate(generateEstate(ITEMS, 1, shares));
  const t = estate.asOf;
  const add = (what: string, value: number, unit: "ms" | "%" | "MB", wanted: number | null = null) =>
    report.add({ size: shares, what, value, unit, wanted, isAsked: true });
  const before = memoryInUse();
  const began = performance.now();
  const choice = choiceAt(estate, t);
  const chosen = performance.now() - began;
  const points = frontier(choice);
  const all = performance.now() - began;
  add("shortlist: what there is to choose from", chosen, "ms");
  const bend = points[bendOf(points)];
  const point = await timed(5, () => shortlist(choice, bend.factor), 1);
  add("shortlist: one point, with what there is to choose from", chosen + point.median, "ms", 1_000);
  add(`shortlist: the frontier, ${MOST_POINTS} points`, all, "ms", 3_000);
  add("shortlist: memory that what is held ready takes", (memoryInUse() - before) / 2 ** 20, "MB", 300);
  const mass = massOf(choice);
  const risks = Uint8Array.from(choice.candidates, ({ slot }) =>
    LEVELS.indexOf(riskOf(estate, new Share(estate, slot), t)),
  );
  const [byRisk] = finish(leftByRisk(choice, risks, [bend.price]));
  add("shortlist: of what is open it shuts, where it bends", (100 * (mass - bend.left)) / mass, "%");
  add("shortlist: ended by risk, for the same price", 100 - (100 * byRisk) / mass, "%");
}

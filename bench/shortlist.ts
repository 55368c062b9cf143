import { buildEstate, type Estate } from "../core/estate/estate";
import { type Choice, choiceAt, frontier, massOf, shortlist } from "../core/advice/shortlist";
import { LEVELS, riskOf } from "../core/rules/risk";
import type { Seconds } from "../core/time/instant";
import { generateEstate } from "./generate";
import type { Report } from "./report";
import { timed } from "./timing";

const ITEMS = 1_000_000;
const POINTS = 20;
/** From where next to nothing is worth its price, down to where nearly all is. */
const factors = Array.from({ length: POINTS }, (_, n) => Math.round(64_000 / 1.5 ** n));
/** The point of the frontier that is held against a list sorted by risk. */
const COMPARED = 2_000;

/** What to do first: the choice worked out, one point of its frontier, all of it; and what a list by risk shuts for as much. */
export async function measureShortlist(report: Report, shares: number) {
  const estate = buildEstate(generateEstate(ITEMS, 1, shares));
  const t = estate.asOf;
  const add = (what: string, value: number, unit: "ms" | "%" | "MB", wanted: number | null = null) =>
    report.add({ size: shares, what, value, unit, wanted, isAsked: true });
  const before = process.memoryUsage().rss;
  const began = performance.now();
  const choice = choiceAt(estate, t);
  const chosen = performance.now() - began;
  add("shortlist: what there is to choose from", chosen, "ms");
  const point = await timed(5, () => shortlist(choice, COMPARED), 1);
  add("shortlist: one point, with what there is to choose from", chosen + point.median, "ms", 1_000);
  const all = performance.now();
  frontier(choice, factors);
  add(`shortlist: the frontier, ${POINTS} points`, chosen + performance.now() - all, "ms", 3_000);
  add("shortlist: memory", (process.memoryUsage().rss - before) / 2 ** 20, "MB", 300);
  const { mass, left, price } = shortlist(choice, COMPARED);
  add("shortlist: of what is open it shuts", (100 * (mass - left)) / mass, "%");
  add("shortlist: ended by risk, for the same price", (100 * shutByRisk(estate, choice, price, t)) / mass, "%");
}

/** The mass that is shut by ending the riskiest shares one by one, for as long as the price lasts. */
function shutByRisk(estate: Estate, choice: Choice, price: number, t: Seconds): number {
  const { candidates } = choice;
  const risks = candidates.map(({ id }) => LEVELS.indexOf(riskOf(estate, estate.share(id)!, t)));
  const order = [...candidates.keys()].sort((a, b) => risks[b] - risks[a] || a - b);
  const ended = new Set<number>();
  let left = price;
  for (const share of order) {
    if (candidates[share].endPrice > left) break;
    left -= candidates[share].endPrice;
    ended.add(share);
  }
  const levels = choice.candidates.map(({ level }, share) => (ended.has(share) ? 0 : level));
  return massOf(choice) - massOf(choice, levels);
}

import type { Choice } from "./choice";
import { massOf } from "./shortlist";

/**
 * What is left open when the riskiest shares are ended one by one for as long as a price lasts: what a list sorted by
 * risk comes to, to hold the shortlist against.
 * @param risks by candidate, the higher the riskier
 */
export function leftByRisk(choice: Choice, risks: ArrayLike<number>, price: number): number {
  const { candidates } = choice;
  const degrees = candidates.map(({ degree }): number => degree);
  const order = [...candidates.keys()].sort((a, b) => risks[b] - risks[a] || a - b);
  let rest = price;
  for (const at of order) {
    if (candidates[at].endPrice > rest) break;
    rest -= candidates[at].endPrice;
    degrees[at] = 0;
  }
  return massOf(choice, degrees);
}

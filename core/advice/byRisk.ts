import type { Choice } from "./choice";
import { massOf } from "./shortlist";
import type { Steps } from "../time/steps";

/**
 * What is left open when the riskiest shares are ended one by one until a price is used up: what a list sorted by
 * risk comes to, to hold the shortlist against.
 * @param risks by candidate, the higher the riskier
 * @param prices rising
 * @returns by price
 */
export function* leftByRisk(choice: Choice, risks: Uint8Array, prices: readonly number[]): Steps<number[]> {
  const { candidates } = choice;
  const degrees = Uint8Array.from(candidates, ({ degree }) => degree);
  const order = riskiestFirst(risks);
  const left: number[] = [];
  let [spent, next] = [0, 0];
  for (const price of prices) {
    yield;
    for (; next < order.length; next++) {
      const { endPrice } = candidates[order[next]];
      if (spent + endPrice > price) break;
      spent += endPrice;
      degrees[order[next]] = 0;
    }
    left.push(massOf(choice, degrees));
  }
  return left;
}

function riskiestFirst(risks: Uint8Array): Uint32Array {
  const order = new Uint32Array(risks.length);
  let placed = 0;
  for (let risk = risks.reduce((most, one) => Math.max(most, one), 0); risk >= 0; risk--)
    for (let at = 0; at < risks.length; at++) if (risks[at] === risk) order[placed++] = at;
  return order;
}

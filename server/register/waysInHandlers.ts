import type { waysInOperations } from "@/contract/waysIn";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";

const NOBODY = "Nothing and nobody with that name is known at this time.";

export const waysInHandlers: Handlers<Asking, typeof waysInOperations> = {
  async waysIn({ engine }, { query, past }) {
    const ways = await engine.ask("waysIn", query, past);
    if (!ways) throw new Problem("unknown", NOBODY);
    return ways;
  },
  find: ({ engine }, { query, past }) => engine.ask("find", query, past),
  async cheapestCut({ engine }, { query, past }) {
    const cut = await engine.ask("cheapestCut", query, past);
    if (!cut) throw new Problem("unknown", NOBODY);
    return cut;
  },
};

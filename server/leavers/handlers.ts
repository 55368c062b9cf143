import type { leaversOperations } from "@/contract/leavers";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import { headsOfDepartments } from "../rounds";
import type { Handlers } from "../platform/serving";

export const leaversHandlers: Handlers<Asking, typeof leaversOperations> = {
  leavers: async ({ engine }, { past }) => ({ leavers: await engine.ask("leavers", {}, past) }),
  async leaver({ engine, db }, { query: { address }, past }) {
    const sheet = await engine.ask("leaver", { address, heads: await headsOfDepartments(db) }, past);
    if (!sheet) throw new Problem("unknown", `${address} isn’t somebody who has left, or is suspended.`);
    return sheet;
  },
};

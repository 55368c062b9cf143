import type { deskOperations } from "@/contract/desk";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { dayIn } from "@/core/time/style";
import { datesToCome } from "./dates";
import { deskFor } from "./desk";

export const deskHandlers: Handlers<Asking, typeof deskOperations> = {
  lookAtDesk: (app, { actor, query }) => deskFor(app, actor.email, (at) => dayIn(query, at)),
  dates: async (app) => ({
    type: "text/calendar; charset=utf-8",
    name: "dates.ics",
    body: await datesToCome(app),
  }),
};

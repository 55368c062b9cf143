import type { deskOperations } from "@/contract/desk";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { datesToCome } from "./dates";
import { deskFor } from "./desk";

export const deskHandlers: Handlers<Asking, typeof deskOperations> = {
  lookAtDesk: (app, { actor }) => deskFor(app, actor.email),
  dates: async (app) => ({
    type: "text/calendar; charset=utf-8",
    name: "dates.ics",
    body: await datesToCome(app),
  }),
};

import type { shortlistOperations } from "@/contract/shortlist";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { askAdvice, linesAt, stagePoint, touchedBy, whereToStart } from "./shortlist";
import { setWeighing, weighingSetting } from "./weighing";

export const shortlistHandlers: Handlers<Asking, typeof shortlistOperations> = {
  curve: (app, { query }) => askAdvice(app, "curve", query),
  curvePoint: (app, { query }) => askAdvice(app, "point", query),
  pointLines: (app, { query }) => linesAt(app, query),
  pointTouches: (app, { query }) => touchedBy(app, query),
  stagePoint: (app, { actor, body: { digest, ...at } }) => stagePoint(app, actor.email, at, digest),
  whereToStart: (app) => whereToStart(app),
  weighing: async ({ db }) => ({ weighing: await weighingSetting(db) }),
  async setWeighing({ db }, { actor, body }) {
    await setWeighing(db, body, actor.email);
    return {};
  },
};

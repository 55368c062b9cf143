import type { EventEmitter } from "node:events";
import type { alertsOperations } from "@/contract/alerts";
import { DAY } from "@/core/time/instant";
import { releaseHeld, type Sending, sendNow } from "../messages/outbox";
import { subjectOf } from "../platform/signed";
import type { BodyOf } from "@/contract/operation";
import { type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { alertOf, alerts, assign, markSeen, newAlerts, settle } from "./alerts";
import { saveShipped } from "./shipped";
import { dropWatch, saveWatch, turnWatches, watchList } from "./watches";

/** What is needed for alerts and watches. */
export interface Alerting extends Sending {
  /** Says `alerts` when there are new ones, or one has been seen to. */
  readonly alertEvents: EventEmitter;
}

export const alertsHandlers: Handlers<Alerting, typeof alertsOperations> = {
  alerts: async ({ db }, { query: { state } }) => ({ alerts: await alerts(db, state ? [state] : ["new", "seen"]) }),
  alertNews: ({ db, alertEvents }) => ({
    emitter: alertEvents,
    name: "alerts",
    current: async () => ({ fresh: await newAlerts(db) }),
  }),
  async alert({ db }, { params }) {
    const alert = await alertOf(db, numberOf(params.id));
    if (!alert) throw new Problem("unknown", "There is no such alert. Alerts lists the others.");
    return alert;
  },
  async handleAlerts({ db, alertEvents }, { actor, body: { ids, does } }) {
    await writing(db, async (tx) => {
      for (const id of new Set(ids)) await handle(tx, actor.email, id, does);
    });
    alertEvents.emit("alerts");
    return {};
  },
  async seeByMail(app, { body: { token } }) {
    const alert = subjectOf(app, "see-alert", token);
    if (alert === null) throw new Problem("gone", "This address no longer works. Sign in to see the alert.");
    await writing(app.db, (tx) => markSeen(tx, Number(alert)));
    app.alertEvents.emit("alerts");
    return {};
  },
  watches: async ({ db }) => ({ watches: await watchList(db) }),
  saveWatch: async ({ db }, { actor, body }) => ({
    id: await writing(db, (within) => saveWatch(within, actor.email, body)),
  }),
  async turnWatches({ db }, { actor, body: { ids, isOn } }) {
    await writing(db, (tx) => turnWatches(tx, actor.email, ids, isOn));
    return {};
  },
  async dropWatch({ db }, { actor, params }) {
    if (!(await writing(db, (within) => dropWatch(within, actor.email, params.id))))
      throw new Problem("unknown", "That watch no longer exists.");
    return {};
  },
  async releaseHeld(app, { params }) {
    const released = await releaseHeld(app.db, params.id);
    await sendNow(app);
    return { released };
  },
  async addShipped({ db, clock }, { actor, body: { zone } }) {
    const told = { mail: [actor.email], webhook: false, syslog: false, zone };
    return { kept: await saveShipped(db, actor.email, told, clock.seconds()) };
  },
  async testWatch({ engine, clock }, { body: { watch, days } }) {
    if (watch.kind !== "events") return { alerts: null, days };
    const to = clock.seconds() + 1;
    return { alerts: await engine.ask("wouldHaveRaised", { watch, from: to - days * DAY, to }), days };
  },
};

type Does = BodyOf<(typeof alertsOperations)["handleAlerts"]>["does"];

/** @throws {Problem} where there is no such alert, or nobody to give it to */
async function handle(tx: Tx, actor: string, id: number, does: Does) {
  if (!(await alertOf(tx, id))) throw new Problem("unknown", "There is no such alert. Alerts lists the others.");
  if (does.act === "see") await markSeen(tx, id);
  else if (does.act === "assign") {
    if (!(await assign(tx, actor, id, does.to))) throw new Problem("bad", "Nobody signs in with that address.");
  } else await settle(tx, actor, id, does.act === "settle" ? does.note : null);
}

/** Ids of alerts are numbers; whatever else stands in an address is no alert's. */
function numberOf(id: string): number {
  return /^[1-9]\d{0,15}$/.test(id) ? Number(id) : 0;
}

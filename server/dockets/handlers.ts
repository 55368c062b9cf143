import type { docketsOperations } from "@/contract/dockets";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { agreeToApproval, approvalView, dropProposedApproval, setApproval } from "./approval";
import { handWorkCsv, handWorkOf, sayDone } from "./byHand";
import type { Carrying } from "./carrying";
import { docketProgress } from "./docketProgress";
import { applyDocket, dropDocket, pauseDocket, resumeDocket, retryFailed, stopDocket, takeOver } from "./executor";
import { progressNow } from "./held";
import { noticesView, sendNotices } from "./notices";
import { showAllOnce, showOnce } from "./passphrases";
import { docketLines, docketView } from "./receipts";
import { dropOrder, ordersView } from "./standingOrders";
import { nameAfter, stage, trayOf, unstage } from "./tray";
import { prepareUndo } from "./undo";

export const docketsHandlers: Handlers<Carrying, typeof docketsOperations> = {
  tray: (app, { actor }) => trayOf(app, actor.email),
  stage: (app, { actor, body }) => stage(app, actor.email, body.changes, nameAfter(body.query)),
  async unstage({ db }, { actor, body }) {
    await unstage(db, actor.email, body.subjects);
    return {};
  },
  dockets: async ({ db }) => ({ dockets: await docketLines(db) }),
  docket: async (app, { params, query }) => ({
    ...(await docketView(app, params.id, query)),
    progress: await progressNow(app, params.id),
  }),
  async docketNews(app, { params: { id } }) {
    await docketProgress(app.db, id);
    return { emitter: app.carrying.events, name: id, current: () => progressNow(app, id) };
  },
  async applyDocket(app, { actor, params, body }) {
    const applied = await applyDocket(app, params.id, actor.email, { ...body, by: actor });
    if (applied === "nothing")
      throw new Problem(
        "conflict",
        "There is nothing to apply: the docket is empty, is already being applied, or is somebody else’s tray.",
      );
    return { applied };
  },
  async pauseDocket(app, { actor, params }) {
    await pauseDocket(app, params.id, actor.email);
    return {};
  },
  async resumeDocket(app, { actor, params }) {
    await resumeDocket(app, params.id, actor.email);
    return {};
  },
  async retryDocket(app, { actor, params }) {
    await retryFailed(app, params.id, actor.email);
    return {};
  },
  async dropDocket(app, { actor, params }) {
    if (!(await dropDocket(app, params.id, actor.email)))
      throw new Problem(
        "conflict",
        "Only a docket that hasn’t been applied can be discarded. One being applied can be stopped.",
      );
    return {};
  },
  async takeOverDocket(app, { actor, params }) {
    await takeOver(app, params.id, actor.email);
    return {};
  },
  async stopDocket(app, { actor, params }) {
    await stopDocket(app, params.id, actor.email);
    return {};
  },
  undoDocket: (app, { actor, params, body }) => prepareUndo(app, params.id, body.subjects, actor.email),
  docketNotices: (app, { params }) => noticesView(app, params.id),
  sendNotices: async (app, { actor, params, body }) => ({
    count: await sendNotices(app, params.id, body, actor.email),
  }),
  handWork: async ({ db }, { params }) => ({ work: await handWorkOf(db, params.id) }),
  handWorkTable: async ({ db }, { params }) => ({
    type: "text/csv; charset=utf-8",
    name: "by-hand.csv",
    body: handWorkCsv(await handWorkOf(db, params.id)),
  }),
  async sayDone({ db }, { actor, params, body }) {
    await sayDone(db, params.id, body.subject, actor.email);
    return {};
  },
  showPassphrase: async (app, { actor, params }) => ({ passphrase: await showOnce(app, params.id, actor.email) }),
  showPassphrases: async (app, { actor, params }) => ({ sheet: await showAllOnce(app, params.id, actor.email) }),
  orders: async ({ db }) => ({ orders: await ordersView(db) }),
  async dropOrder(app, { actor, body }) {
    if (!(await dropOrder(app, actor.email, body.id)))
      throw new Problem("unknown", "This order no longer exists: it was carried out or cancelled.");
    return {};
  },
  approval: ({ db }) => approvalView(db),
  async setApproval({ db }, { actor, body }) {
    await setApproval(db, body, actor.email);
    return approvalView(db);
  },
  async agreeToApproval({ db }, { actor, body }) {
    await agreeToApproval(db, body, actor.email);
    return approvalView(db);
  },
  async dropProposedApproval({ db }, { actor, body }) {
    await dropProposedApproval(db, body, actor.email);
    return approvalView(db);
  },
};

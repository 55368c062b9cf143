import type { askingOperations, sharingOperations } from "@/contract/sharing";
import type { Wish } from "@/core/sharing/wish";
import type { Carrying } from "../dockets/carrying";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { beginningFor } from "./beginning";
import { codeOf } from "./code";
import { lookAt } from "./look";
import { approveRequest, askForShare, makeShare, refuseRequest, withdrawRequest } from "./asking";
import { requestOf, requests } from "./requests";
import {
  freeRequests,
  setFreeRequests,
  setShareTemplates,
  setShareWords,
  shareTemplates,
  shareWords,
} from "./settings";

export const sharingHandlers: Handlers<Carrying, typeof sharingOperations> = {
  beginShare: (app, { actor, query: { item, replaces } }) => beginningFor(app, actor.email, item, replaces),
  lookAtShare: (app, { body: { wish }, actor, query }) => lookAt(app, wish, actor.email, query),
  makeShare: (app, { actor, body }) => makeShare(app, actor, body),
  shareRequests: ({ db }) => requests(db, null),
  shareRequest: ({ db }, { params }) => requestOf(db, params.id),
  async lookAtRequest(app, { params, query }) {
    const { wish, askedBy } = await requestOf(app.db, params.id);
    return lookAt(app, wish, askedBy, query);
  },
  approveRequest: async (app, { actor, params, body }) => ({
    docketId: await approveRequest(app, actor, params.id, body),
  }),
  async refuseRequest(app, { actor, params, body }) {
    await refuseRequest(app, actor.email, params.id, body.word);
    return {};
  },
  shareCode: ({ db }, { actor, params, query }) => codeOf(db, actor.email, params.id, query.format),
  sharingSettings: async ({ db }) => ({
    ...{ templates: await shareTemplates(db), free: await freeRequests(db), words: await shareWords(db) },
  }),
  async setShareWords({ db }, { actor, body }) {
    await setShareWords(db, body.words, actor.email);
    return {};
  },
  async setTemplates({ db }, { actor, body }) {
    await setShareTemplates(db, body, actor.email);
    return {};
  },
  async setFreeRequests({ db }, { actor, body }) {
    await setFreeRequests(db, body.free, actor.email);
    return {};
  },
};

export const askingHandlers: Handlers<Carrying, typeof askingOperations> = {
  async myItems({ engine }, { actor, query }) {
    const found = await engine.ask("ownItems", { address: actor.email, text: query.text, most: MOST_ITEMS });
    return found.map(({ id, name, place }) => ({ id, name, place: place.join(" / ") }));
  },
  async beginMyShare(app, { actor, query: { item } }) {
    await mustOwn(app, actor.email, item);
    return beginningFor(app, actor.email, item);
  },
  async lookAtMyShare(app, { actor, body: { wish }, query }) {
    mustBeNew(wish);
    await mustOwn(app, actor.email, wish.itemId);
    return lookAt(app, wish, actor.email, query);
  },
  async askForShare(app, { actor, body }) {
    mustBeNew(body.wish);
    await mustOwn(app, actor.email, body.wish.itemId);
    const { id, state } = await askForShare(app, actor.email, body);
    return { id, state };
  },
  myRequests: ({ db }, { actor }) => requests(db, actor.email),
  async withdrawRequest(app, { actor, params }) {
    await withdrawRequest(app, actor.email, params.id);
    return {};
  },
};
const MOST_ITEMS = 50;

/** @throws {Problem} where it would revoke another share: that is for administrators to decide */
function mustBeNew({ replaces }: Wish) {
  if (replaces !== undefined) throw new Problem("bad", "wish.replaces: only an administrator can replace a share.");
}

/** @throws {Problem} where an item isn't theirs: what it is called, or whether there is one, is not told */
async function mustOwn({ engine }: Carrying, address: string, item: string) {
  if (!(await engine.ask("ownsItem", { address, item })))
    throw new Problem("unknown", "You can ask to share what you own. Choose one of your own files or folders.");
}

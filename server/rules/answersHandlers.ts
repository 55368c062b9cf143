import type { answersOperations } from "@/contract/answers";
import type { Carrying } from "../dockets/carrying";
import type { Handlers } from "../platform/serving";
import { letterAt } from "./askedAt";
import { answer, askedBy, showToOwner } from "./answers";

export const answersHandlers: Handlers<Carrying, typeof answersOperations> = {
  asked: async (app, { body: { token }, network }) => askedBy(app, await letterAt(app, token, network)),
  async decide(app, { body, network }) {
    await answer(app, await letterAt(app, body.token, network), body.answer);
    return {};
  },
  showToOwner: async (app, { body: { token, change }, network }) => ({
    passphrase: await showToOwner(app, await letterAt(app, token, network), change),
  }),
};

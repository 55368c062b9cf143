import type { answersOperations } from "@/contract/answers";
import type { Carrying } from "../dockets/carrying";
import type { Handlers } from "../platform/serving";
import { type Answering, letterAt } from "./askedAt";
import { answer, askedBy, showToOwner } from "./answers";

export const answersHandlers: Handlers<Answering & Carrying, typeof answersOperations> = {
  asked: (app, { body: { token } }) => askedBy(app, letterAt(app, token)),
  async decide(app, { body }) {
    await answer(app, letterAt(app, body.token), body.answer);
    return {};
  },
  showToOwner: async (app, { body: { token, change } }) => ({
    passphrase: await showToOwner(app, letterAt(app, token), change),
  }),
};

import type { peopleOperations } from "@/contract/people";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { type Founding, makeFirstAdministrator } from "./firstRun";
import { signIns } from "./people";

const WORDS = {
  "wrong-code": "That is not the code. It stands in the terminal in which the application was started.",
  "too-many-tries": "Too many tries. Start the application again for a new code.",
  "not-first": "There is an administrator already. Sign in instead.",
};

export const peopleHandlers: Handlers<Founding, typeof peopleOperations> = {
  people: async ({ db }) => ({ people: await signIns(db) }),
  async firstRun(app, { body: { code, ...person } }) {
    const result = await makeFirstAdministrator(app, code, person);
    if (result !== "made") throw new Problem("not-allowed", WORDS[result]);
    return {};
  },
};

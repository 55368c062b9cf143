import type { estateOperations } from "@/contract/estate";
import { Readable } from "node:stream";
import { recordLine } from "@/core/estate/estateFile";
import { exportEstate } from "./records/exportEstate";
import { append } from "./records/ledger/ledger";
import { channelsOf, setChannels, shown } from "./messages/channels";
import { mailBy } from "./messages/sending";
import type { Reads } from "./platform/db/open";
import { Problem } from "./platform/problem";
import type { Handlers } from "./platform/serving";
import { type ReadingAll, readingStatus, readNow } from "./reading";
import { homeDomains, houseName, setHomeDomains, setHouseName } from "./records/homeDomains";
import { connections } from "./stores/connections";

const TEST_MAIL = { subject: "A test from Tight Latch", text: "Mail works. There is nothing to do.\n" };

export const estateHandlers: Handlers<ReadingAll, typeof estateOperations> = {
  stores: async ({ db }) => ({ stores: (await connections(db)).map(({ id, name }) => ({ id, name })) }),
  readNow: async (app) => ({ results: await readNow(app) }),
  readingNews: (app) => ({ emitter: app.readingEvents, name: "progress", current: () => readingStatus(app) }),
  async estateFile({ db }, { actor }) {
    if ((await homeDomains(db)).length === 0)
      throw new Problem("conflict", "Nothing was exported: no home domains are set. Set them under Estate.");
    await append(db, actor.email, "estate-exported", {});
    const lines = async function* () {
      for await (const record of exportEstate(db)) yield `${recordLine(record, { withAddresses: false })}\n`;
    };
    const body = Readable.toWeb(Readable.from(lines())) as ReadableStream;
    return { type: "application/jsonl; charset=utf-8", name: "estate.jsonl", body };
  },
  home: ({ db }) => homeTold(db),
  async setHome({ db, engine }, { actor, body: { name, domains } }) {
    if (name !== undefined) await setHouseName(db, actor.email, name);
    await setHomeDomains(db, actor.email, domains);
    await engine.ask("refresh", {});
    return homeTold(db);
  },
  channels: async (app) => shown(await channelsOf(app)),
  async setChannels(app, { actor, body }) {
    await setChannels(app, body, actor.email);
    return shown(await channelsOf(app));
  },
  async testMail(app, { actor }) {
    const { mail } = await channelsOf(app);
    await mailBy(mail, { to: actor.email, ...TEST_MAIL }).catch((error: Error) => {
      throw new Problem(
        "unreachable",
        `The mail could not be sent: ${error.message}. Check the server, its port and the password, then try again.`,
      );
    });
    return { to: actor.email };
  },
};

async function homeTold(db: Reads) {
  return { name: await houseName(db), domains: await homeDomains(db) };
}

import type { storesOperations } from "@/contract/stores";
import { storesKnown } from "./stores/known";
import type { Handlers } from "./platform/serving";
import { type ReadingAll, readNow } from "./reading";
import { countsBySource } from "./records/facts";
import { connect } from "./stores/connections";
import { disconnect, findStore, readAgain } from "./stores/setUp";

export const storesHandlers: Handlers<ReadingAll, typeof storesOperations> = {
  async storesTold({ db }) {
    const records = await countsBySource(db);
    const stores = await storesKnown(db);
    return { stores: stores.map((one) => ({ ...one, records: records.get(one.id) ?? 0 })) };
  },
  tryStore: (app, { body }) => findStore(app, body),
  async addStore(app, { body, actor }) {
    // A store that doesn’t answer as one isn’t connected.
    await findStore(app, body);
    await connect(app, body, actor.email);
    begin(app);
    return {};
  },
  async readStoreAgain(app, { params: { id }, actor }) {
    await readAgain(app.db, id, actor.email);
    begin(app);
    return {};
  },
  async disconnectStore(app, { params: { id }, actor }) {
    await disconnect(app.db, id, actor.email);
    await app.engine.ask("refresh", {});
    return {};
  },
};

/** Begins to read, or to read once more where a reading goes on: how far it is, is told as it goes. */
function begin(app: ReadingAll) {
  const going = app.reading?.catch(() => undefined) ?? Promise.resolve();
  void going.then(() => readNow(app)).catch((error: Error) => console.error(`reading: ${error.stack}`));
}

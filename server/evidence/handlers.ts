import type { Checkpoints, ledgerOperations, Packs } from "@/contract/ledger";
import { keyLine } from "@/core/ledger/checkpoint";
import type { Platform } from "../platform/platform";
import type { Handlers } from "../platform/serving";
import { countCheckpoints, lastCheckpoint } from "../records/ledger/checkpoints";
import { changeKey, publicKeys } from "../records/ledger/keys";
import { entriesBefore } from "../records/ledger/ledger";
import { keptPacks, packAnswer } from "./pack/kept";
import { beginPack, FILES_OF_A_PACK, type Packing, stopPack } from "./pack/packsAtWork";
import { proveLedger } from "./proof";
import { addWitness, removeWitness, witnesses } from "./witnesses";

/** How many entries are shown at once. */
const PAGE = 100;

export const ledgerHandlers: Handlers<Packing, typeof ledgerOperations> = {
  async entries({ db }, { query }) {
    const entries = await entriesBefore(db, query.before, PAGE, query.q);
    const last = entries[PAGE - 1];
    return { entries, next: last && last.seq > 1 ? last.seq : null };
  },
  proof: (app) => proveLedger(app),
  checkpoints: (app) => checkpointsTold(app),
  async addWitness(app, { actor, body }) {
    await addWitness(app, body, actor.email);
    return checkpointsTold(app);
  },
  async removeWitness(app, { actor, body }) {
    await removeWitness(app, body.id, actor.email);
    return checkpointsTold(app);
  },
  async changeLedgerKey(app, { actor }) {
    await changeKey(app, actor.email);
    return checkpointsTold(app);
  },
  packs: (app) => packsTold(app),
  async makePack(app, { actor, body }) {
    await beginPack(app, body, actor.email);
    return packsTold(app);
  },
  stopPack(app) {
    stopPack(app);
    return packsTold(app);
  },
  packFile: (app, { params: { seq } }) => packAnswer(app, Number(seq)),
};

async function packsTold(app: Packing): Promise<Packs> {
  const { making, failure } = app.packs;
  const { from, to } = making?.asked ?? { from: "", to: "" };
  return {
    packs: await keptPacks(app),
    making: making && { from, to, file: making.file, done: making.done, of: FILES_OF_A_PACK },
    failure,
  };
}

async function checkpointsTold(app: Platform): Promise<Checkpoints> {
  return {
    newest: (await lastCheckpoint(app.db)) ?? null,
    count: await countCheckpoints(app.db),
    keys: (await publicKeys(app.db)).map(keyLine),
    witnesses: await witnesses(app),
  };
}

import type { importsOperations } from "@/contract/imports";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import type { Reading } from "../stores/listeners";
import { type Hand, type Importing, receive } from "./atWork";
import { checkSaid, isHeld } from "./brake";
import { removeMapping, savedMappings } from "./mappings";
import type { FileReading } from "./rows";
import { beginRun, duringRun, endRun, runs } from "./runs";

type App = Importing & Reading & Asking;

export const importsHandlers: Handlers<App, typeof importsOperations> = {
  imports: async ({ db }) => ({ runs: await runs(db), mappings: await savedMappings(db) }),
  async removeMapping({ db }, { params: { name }, actor }) {
    await removeMapping(db, name, actor.email);
    return {};
  },
  async sendReport(app, { query: { name }, file, actor: { email } }) {
    return look(await receive(app, { email, name, file }), {});
  },
  lookAtReport: ({ imports }, { body, actor }) => look(imports.handOf(actor.email), body),
  checkReport(app, { body: { source, title, mapping }, actor }) {
    const hand = app.imports.handOf(actor.email);
    begin(hand, async () => {
      hand.checked = hand.imported = null;
      const given = { path: hand.path, file: hand.file, source, title, mapping };
      hand.checked = await hand.ask({ task: "check", given });
    });
    return {};
  },
  async reportNow({ imports }, { actor }) {
    const hand = imports.of(actor.email);
    if (!hand) return { hand: null };
    const { file, step, problem, checked, imported } = hand;
    const [outlook, unchangedSince] =
      checked && "outlook" in checked ? [checked.outlook, null] : [null, checked?.unchangedSince ?? null];
    const shown = outlook && { ...outlook, isHeld: isHeld(outlook) };
    return { hand: { file, step, problem, outlook: shown, unchangedSince, imported } };
  },
  takeReport(app, { body: { digest, mapping, skips, ended }, actor }) {
    const hand = app.imports.handOf(actor.email);
    const { checked } = hand;
    if (!checked || !("outlook" in checked) || checked.outlook.digest !== digest)
      throw new Problem("conflict", "The report has been checked again since this was shown. Look at it again.");
    checkSaid(checked.outlook, { skips, ended });
    begin(hand, async () => {
      const run = await beginRun(app.db, checked, mapping, actor.email);
      const taken = await duringRun(app, run, () => hand.ask({ task: "take" }));
      if (!taken) return;
      const ticked = await endRun(app, run, taken);
      hand.checked = null;
      hand.imported = {
        file: hand.file,
        changed: taken.changed,
        ended: taken.ended,
        ticked,
        isStopped: taken.isStopped,
      };
      await app.engine.ask("refresh", {});
    });
    return {};
  },
  stopReport({ imports }, { actor }) {
    imports.of(actor.email)?.stop();
    return {};
  },
};

async function look(hand: Hand, said: Partial<FileReading>) {
  hand.hold();
  hand.checked = hand.imported = hand.problem = null;
  const answer = await hand.ask({ task: "look", path: hand.path, said }).finally(() => hand.release());
  if (!answer) throw new Problem("conflict", "Reading the file was stopped. Choose it again.");
  return { file: hand.file, ...answer };
}

/** Begins what takes long: how far it is, and what came of it, the hand tells. @throws {Problem} where it is at something */
function begin(hand: Hand, doing: () => Promise<void>) {
  hand.hold();
  hand.problem = null;
  const work = doing().catch((error: Error) => {
    hand.problem =
      error instanceof Problem ? error.message : "It failed. Try again; if it keeps happening, check the log.";
    if (!(error instanceof Problem)) console.error(error);
  });
  void work.finally(() => hand.release());
}

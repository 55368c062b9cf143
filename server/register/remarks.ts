import type { z } from "zod";
import type { noteBody } from "@/contract/share";
import type { Note } from "@/core/register/remarks";
import { rfc3339 } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { Problem } from "../platform/problem";
import type { Asking } from "../engine/client";

/** The notes on some shares, or on all, the newest first; as they were at an instant where one is given. */
export async function notesOn(db: Db, shareIds: readonly string[] | null, at?: number): Promise<Note[]> {
  let query = db.selectFrom("note").selectAll().orderBy("id", "desc");
  if (shareIds) query = query.where("share_id", "in", shareIds);
  if (at !== undefined) query = query.where("at", "<=", rfc3339(at));
  const rows = await query.execute();
  return rows.map(({ share_id, author, at, text }) => ({ shareId: share_id, author, at, text }));
}

export async function leaveNote(app: Asking, actor: string, shareId: string, { text }: z.infer<typeof noteBody>) {
  await mustKnow(app, shareId);
  await writing(app.db, async (within) => {
    await within
      .insertInto("note")
      .values({ share_id: shareId, author: actor, at: within.clock.text(), text })
      .execute();
    await appendWithin(within, actor, "note-left", { shareId, text });
  });
}

async function mustKnow(app: Asking, shareId: string) {
  if (!(await app.engine.ask("record", { id: shareId })))
    throw new Problem("unknown", "That share no longer exists. Reload the register.");
}

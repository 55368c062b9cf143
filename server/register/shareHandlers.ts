import type { shareOperations } from "@/contract/share";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { showAddress } from "../records/showAddress";
import { waiversOn } from "../rules";
import { leaveNote, notesOn } from "./remarks";

export const shareHandlers: Handlers<Asking, typeof shareOperations> = {
  async share({ engine, db }, { params: { id }, past }) {
    const detail = await engine.ask("share", { id }, past);
    if (!detail) throw new Problem("unknown", "This share is gone: it was revoked, or its store no longer has it.");
    const notes = await notesOn(db, [id], past);
    return { ...detail, notes, waivers: await waiversOn(db, [id, detail.row.itemId], past) };
  },
  showAddress: async (app, { actor, params }) => ({ address: await showAddress(app.db, actor.email, params.id) }),
  async leaveNote(app, { actor, params, body }) {
    await leaveNote(app, actor.email, params.id, body);
    return {};
  },
};

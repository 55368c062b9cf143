import type { shareOperations } from "@/contract/share";
import type { Asking } from "../engine/client";
import type { ItemRecord } from "@/core/estate/records";
import { endedBy } from "../dockets/endedShare";
import { Problem } from "../platform/problem";
import type { Handlers } from "../platform/serving";
import { factNow } from "../records/facts";
import { showAddress } from "../records/showAddress";
import { waiversOn } from "../rules";
import { leaveNote, notesOn } from "./remarks";

export const shareHandlers: Handlers<Asking, typeof shareOperations> = {
  async share({ engine, db }, { params: { id }, query, past }) {
    const detail = await engine.ask("share", { id, dates: query }, past);
    if (!detail)
      throw new Problem("unknown", "This share no longer exists: it was revoked, or its store no longer has it.");
    const notes = await notesOn(db, [id], past);
    return { ...detail, notes, waivers: await waiversOn(db, [id, detail.row.itemId], past) };
  },
  async endedShare({ engine, db }, { params: { id } }) {
    const record = await engine.ask("record", { id });
    if (!record)
      throw new Problem(
        "unknown",
        "No share with this address was ever known here. Search for its item in the register.",
      );
    const docket = await endedBy(db, id);
    if (docket) return docket;
    const item = await factNow<ItemRecord>(db, "item", record.itemId);
    const itemName = item?.name ?? "A deleted item";
    return { itemName, audience: "", endedAt: record.revokedAt ?? null, by: null, docketId: null };
  },
  showAddress: async (app, { actor, params }) => ({ address: await showAddress(app.db, actor.email, params.id) }),
  async leaveNote(app, { actor, params, body }) {
    await leaveNote(app, actor.email, params.id, body);
    return {};
  },
};

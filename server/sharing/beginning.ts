import type { LinkRecord, PersonRecord, ShareRecord } from "@/core/estate/records";
import { ROLES } from "@/core/estate/records";
import { wishFrom } from "@/core/sharing/templates";
import { type Wish, WISHED_ROLES } from "@/core/sharing/wish";
import type { Asking } from "../engine/client";
import { Problem } from "../platform/problem";
import { factNow } from "../records/facts";
import { outlookOf } from "./look";
import { shareTemplates } from "./settings";

/** The sentence for an item as the template of its label has it; in place of a share, as that is, made strict. */
export async function beginningFor(app: Asking, by: string, itemId: string, replaces?: string) {
  const ways = await app.engine.ask("waysIn", { item: itemId });
  if (!ways || ways.kind !== "item") throw new Problem("unknown", "This item is no longer known. Choose another one.");
  const { label, name } = ways.item;
  const wish = wishFrom((await shareTemplates(app.db))[label], itemId, app.clock.seconds());
  const begun = replaces === undefined ? wish : await inPlaceOf(app, wish, replaces);
  const { folder } = await outlookOf(app, { ...begun, to: "anyone" }, { by, mark: "begun" });
  return { wish: begun, itemName: name, folder };
}

/** @throws {Problem} where the share isn't here, or sits on something else */
async function inPlaceOf(app: Asking, wish: Wish, shareId: string): Promise<Wish> {
  const record = await app.engine.ask("record", { id: shareId });
  if (!record || record.revokedAt) throw new Problem("unknown", "The share that this one is to replace has ended.");
  const role = record.role === "deposit" ? wish.role : stricter(wish.role, record.role);
  const named = await namedBy(app, record);
  return {
    ...wish,
    ...{ replaces: shareId, role, download: wish.download && record.download },
    to: named.length > 0 ? named : wish.to,
    until: record.expiresAt !== null && record.expiresAt < wish.until! ? record.expiresAt : wish.until,
  };
}

function stricter(one: Wish["role"], other: Exclude<ShareRecord["role"], "deposit">): Wish["role"] {
  return WISHED_ROLES[Math.min(ROLES.indexOf(one), ROLES.indexOf(other))];
}

async function namedBy(app: Asking, record: ShareRecord): Promise<string[]> {
  if (record.type === "link") return (record as LinkRecord).recipients.map(({ email }) => email);
  const person = await factNow<PersonRecord>(app.db, "person", record.toId);
  return person ? [person.email] : [];
}

import { randomBytes, randomUUID } from "node:crypto";
import { mailAddress } from "@/core/estate/mailAddress";
import { z } from "zod";
import type { LinkRecord } from "../../core/estate/records";
import { nowText } from "../parts/clock";
import type { StoreDatabase } from "./database";

export const madeSchema = z.object({
  itemId: z.string().min(1),
  by: z.string().min(1),
  reach: z.enum(["open", "house", "named"]),
  recipients: z.array(mailAddress).default([]),
});

/** Makes a link, as somebody does who shares something; without an end, a password or a block. */
export function makeLink(db: StoreDatabase, { itemId, by, reach, recipients }: z.infer<typeof madeSchema>): LinkRecord {
  const link: LinkRecord = {
    type: "link",
    id: randomUUID(),
    itemId,
    reach,
    role: "view",
    password: false,
    download: true,
    opensAt: null,
    expiresAt: null,
    maxUses: null,
    uses: 0,
    listed: false,
    recipients: recipients.map((email) => ({ email })),
    createdBy: by,
    createdAt: nowText(),
    lastUsedAt: null,
    address: randomBytes(16).toString("hex"),
  };
  return db.transaction(() => {
    db.put(link);
    const about = { itemId, shareId: link.id, actorId: by };
    db.addEvent({ type: "event", id: randomUUID(), at: nowText(), verb: `shared-${reach}`, ...about });
    return link;
  });
}

import { downloadPossible } from "../../core/estate/shares";
import type { ItemRecord, LinkRecord, StoreRecord } from "../../core/estate/records";
import { now } from "../parts/clock";
import type { StoreDatabase } from "./database";

/** What a store says to somebody who comes with a link's address. */
export type Opening =
  | { state: "gone" }
  | { state: "not-yet"; opensAt: string }
  | { state: "there"; link: LinkRecord; item: ItemRecord; mayDownload: boolean };

/** A cap on uses is not looked at for somebody who is inside already. */
export function opening(db: StoreDatabase, store: StoreRecord, token: string, isInside: boolean): Opening {
  const link = db.linkByToken(token);
  const item = link && db.get<ItemRecord>("item", link.itemId);
  const time = now().getTime();
  if (!link || !item || link.revokedAt || !isLive(db, item)) return { state: "gone" };
  if (link.expiresAt && Date.parse(link.expiresAt) <= time) return { state: "gone" };
  if (!isInside && link.maxUses !== null && link.uses >= link.maxUses) return { state: "gone" };
  if (link.opensAt && Date.parse(link.opensAt) > time) return { state: "not-yet", opensAt: link.opensAt };
  const mayDownload = link.role !== "deposit" && downloadPossible(link, item.kind, store.capabilities);
  return { state: "there", link, item, mayDownload };
}

export function isLive(db: StoreDatabase, item: ItemRecord): boolean {
  for (let at: ItemRecord | undefined = item; at; at = at.parentId ? db.get("item", at.parentId) : undefined)
    if (at.state !== "live") return false;
  return true;
}

/** An item that a share on `top` reaches, by its id: itself or below it, through items that inherit. */
export function reachedItem(db: StoreDatabase, top: ItemRecord, id: string): ItemRecord | undefined {
  const wanted = db.get<ItemRecord>("item", id);
  for (let at = wanted; at; at = at.parentId ? db.get("item", at.parentId) : undefined) {
    if (at.state !== "live") return undefined;
    if (at.id === top.id) return wanted;
    if (!at.inherits) return undefined;
  }
  return undefined;
}

/** What stands directly in a folder for somebody who came in further up. */
export function listed(db: StoreDatabase, folder: ItemRecord): ItemRecord[] {
  return db.childrenOf(folder.id).filter((child) => child.state === "live" && child.inherits);
}

/** What a made-up file says. */
export function textOf(db: StoreDatabase, item: ItemRecord): string {
  if (db.fileBytes(item.id)) return "A file that was sent in.";
  return `${item.name}\n\nMade-up contents of a file of the Wrenmoor Philharmonic, last changed on ${item.modifiedAt.slice(0, 10)}.`;
}

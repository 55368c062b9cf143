import type { Capabilities, Kind } from "../estate/records";
import type { Share } from "../estate/share";

/** What holds a share shut, always in this order. */
export const LATCHES = ["expiry", "password", "download", "named"] as const;
export type Latch = (typeof LATCHES)[number];
export const LATCH_WORDS: Record<Latch, string> = {
  expiry: "Expiry",
  password: "Password",
  download: "No download",
  named: "Named",
};

/** Whether the store can set an end date on a share of this kind. */
export function canEnd(share: Share, capabilities: Capabilities): boolean {
  return share.isLink
    ? capabilities.linkExpiry.includes(share.reach)
    : (capabilities.grantExpiry as string[]).includes(share.role);
}

/** Whether the store can ask for a password on a share: only what the address alone opens can have one. */
export function canHavePassword({ isLink, reach }: Share, capabilities: Capabilities): boolean {
  return isLink && reach === "open" && capabilities.linkPassword;
}

/** Whether the store would honour a download block for a role on such an item. */
export function honoursBlock(role: Share["role"], kind: Kind, { downloadBlock }: Capabilities): boolean {
  const isLooking = role === "view" || role === "comment";
  return isLooking && downloadBlock.roles.includes(role) && downloadBlock.on.includes(kind);
}

/** Whether the store can make an open or house link a named one and keep its address. */
export function canNarrow({ namedLinks, changeReach }: Capabilities): boolean {
  return namedLinks && changeReach === true;
}

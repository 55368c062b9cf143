import { type Estate, storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import { canEnd, canNarrow, honoursBlock } from "./latches";
import { type Change, isMaking } from "./change";
import type { SubjectWords } from "./subject";

/** A change with what it is about, as that is now. */
export interface PlannedChange {
  change: Change;
  words: SubjectWords;
}

/**
 * The changes that it takes to get a intent, in the order in which they have to be done: what a store can't do as
 * it was asked is done another way where there is one, and what has to come before stands before it.
 */
export function planOf(estate: Estate, intent: Change): Change[] {
  const share = "shareId" in intent ? estate.share(intent.shareId) : undefined;
  if (!share) return [intent];
  const { capabilities } = storeAt(estate, share.position);
  switch (intent.action) {
    case "set-expiry":
      return canEnd(share, capabilities)
        ? [intent]
        : [
            {
              ...{ action: "order-revoke", shareId: share.id, on: intent.expiresAt },
              ...(intent.later && { later: intent.later }),
            },
          ];
    case "block-download": {
      if (!needsLowering(estate, share)) return [intent];
      const lowering: Change = { action: "set-role", shareId: share.id, role: "view" };
      // A block that is set already, and that the role had undone, holds again.
      return share.promisesDownload ? [lowering, intent] : [lowering];
    }
    case "narrow":
      if (canNarrow(capabilities) || !capabilities.namedLinks) return [intent];
      return [
        { action: "make-link", shareId: share.id, addresses: intent.addresses },
        { action: "revoke", shareId: share.id },
      ];
    case "move-intake":
      return [intent, { action: "revoke", shareId: share.id }];
    default:
      return [intent];
  }
}

/** Whether a block would be honoured for somebody who may only view, but not in the role that the share gives. */
function needsLowering(estate: Estate, { role, position }: Share): boolean {
  const { capabilities } = storeAt(estate, position);
  const kind = estate.tree.kindAt(position);
  return !honoursBlock(role, kind, capabilities) && honoursBlock("view", kind, capabilities);
}

/** Whether a change may only be done once another one on the same share has been. */
export function needs(later: Change, earlier: Change): boolean {
  // What a new share takes the place of goes once the new one is there.
  if (isMaking(earlier)) return later.action === "revoke" && earlier.replaces === later.shareId;
  if (!("shareId" in later) || !("shareId" in earlier) || later.shareId !== earlier.shareId) return false;
  if (later.action === "block-download") return earlier.action === "set-role";
  // Nobody shall lose the old link before there is the new one.
  return later.action === "revoke" && (earlier.action === "make-link" || earlier.action === "move-intake");
}

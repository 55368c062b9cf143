import { type Estate, storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import { canEnd, canNarrow, honoursBlock } from "./latches";
import { type Change, isMaking } from "./change";
import type { SubjectWords } from "./subject";

/** A change with its subject as it is now. */
export interface PlannedChange {
  change: Change;
  words: SubjectWords;
}

/**
 * The changes that carry out an intent, in their order. What a store can't do as it was
 * asked is done in another way where there is one, and what has to happen first comes first.
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
      // A download block that the role made ineffective takes effect again.
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

/** Whether a download block would work for the view role, but not for the role that the share gives. */
function needsLowering(estate: Estate, { role, position }: Share): boolean {
  const { capabilities } = storeAt(estate, position);
  const kind = estate.tree.kindAt(position);
  return !honoursBlock(role, kind, capabilities) && honoursBlock("view", kind, capabilities);
}

/** Whether a change can be made only after another one on the same share. */
export function needs(later: Change, earlier: Change): boolean {
  // A share is revoked only once its replacement exists.
  if (isMaking(earlier)) return later.action === "revoke" && earlier.replaces === later.shareId;
  if (!("shareId" in later) || !("shareId" in earlier) || later.shareId !== earlier.shareId) return false;
  if (later.action === "block-download") return earlier.action === "set-role";
  // Nobody loses the old link before the new one exists.
  return later.action === "revoke" && (earlier.action === "make-link" || earlier.action === "move-intake");
}

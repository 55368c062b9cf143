import { type Estate, storeAt } from "../estate/estate";
import type { Share } from "../estate/share";
import { downloadPossible } from "../estate/shares";
import { NEVER, seconds, type Seconds } from "../time/instant";
import type { Settings, ShareChange } from "./change";

/** What changes can affect in a share, and what later changes are judged by. */
type Turned = Partial<
  Pick<Share, "role" | "reach" | "hasPassword" | "promisesDownload" | "expires" | "revoked" | "order">
>;

/** A share as a series of changes leaves it. Whom it lets in stays as it was. */
export function shareAfter(estate: Estate, share: Share, done: readonly ShareChange[], t: Seconds): Share {
  if (done.length === 0) return share;
  const turned = done.reduce<Turned>((now, change) => ({ ...now, ...turnedBy(change, t) }), {});
  const { role = share.role, promisesDownload = share.promisesDownload } = turned;
  const { capabilities } = storeAt(estate, share.position);
  const kind = estate.tree.kindAt(share.position);
  const { expires = share.expires, order = share.order } = turned;
  const after = {
    ...turned,
    download: downloadPossible({ role, download: promisesDownload }, kind, capabilities),
    ends: Math.min(expires, order ?? NEVER),
  };
  // Everything else is still read from the columns.
  return Object.create(share, Object.fromEntries(Object.entries(after).map(([name, value]) => [name, { value }])));
}

function turnedBy(change: ShareChange, t: Seconds): Turned {
  switch (change.action) {
    case "revoke":
      return { revoked: t };
    case "set-expiry":
      return { expires: seconds(change.expiresAt) };
    case "order-revoke":
      return { order: seconds(change.on) };
    case "drop-order":
      return { order: null };
    case "set-password":
      return { hasPassword: true };
    case "block-download":
      return { promisesDownload: false };
    case "set-role":
      return { role: change.role };
    case "narrow":
      return { reach: "named", hasPassword: false };
    case "put-back":
      return turnedBack(change.was);
    case "set-start":
    case "set-words":
    case "move-intake":
    case "make-link":
    case "remake-link":
    case "drop-recipient":
      return {};
  }
}

function turnedBack({ revokedAt, expiresAt, role, download, password, reach }: Settings): Turned {
  return {
    ...(revokedAt === null && { revoked: NEVER }),
    ...(expiresAt !== undefined && { expires: expiresAt === null ? NEVER : seconds(expiresAt) }),
    ...(role !== undefined && { role }),
    ...(download !== undefined && { promisesDownload: download }),
    ...(password !== undefined && { hasPassword: password }),
    ...(reach !== undefined && { reach }),
  };
}

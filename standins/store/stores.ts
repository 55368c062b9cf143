import type { StoreRecord } from "../../core/estate/records";

export type StoreName = "stacks" | "alcoves" | "dock";

/** The store that tells how good its links' passwords are. */
export const TELLS_PASSWORDS: StoreName = "dock";

/** The stores that tell of files that came in what they are: their hash, their first bytes. */
export const TELLS_BYTES: ReadonlySet<string> = new Set(["dock"]);

/** The three stores of the demo, with unlike limits. */
export const STORES: Record<StoreName, StoreRecord> = {
  stacks: {
    type: "store",
    id: "stacks",
    name: "Stacks",
    region: "home",
    capabilities: {
      openLinks: true,
      houseLinks: true,
      namedLinks: true,
      intakeLinks: false,
      linkPassword: true,
      linkExpiry: ["open", "house"],
      grantExpiry: ["view", "comment", "edit", "manage"],
      minExpiryLeadHours: 24,
      downloadBlock: { on: ["file", "folder", "space"], roles: ["view"] },
      maxUses: false,
      startTime: false,
      lastUse: true,
      perRecipientUse: true,
      changeReach: true,
    },
  },
  alcoves: {
    type: "store",
    id: "alcoves",
    name: "Alcoves",
    region: "overseas",
    capabilities: {
      openLinks: true,
      houseLinks: true,
      namedLinks: true,
      intakeLinks: true,
      linkPassword: false,
      linkExpiry: ["open", "house", "named"],
      grantExpiry: ["view", "comment"],
      minExpiryLeadHours: 0,
      downloadBlock: { on: ["file"], roles: ["view", "comment"] },
      maxUses: false,
      startTime: false,
      lastUse: true,
      perRecipientUse: false,
    },
  },
  dock: {
    type: "store",
    id: "dock",
    name: "Loading Dock",
    region: "home",
    capabilities: {
      openLinks: true,
      houseLinks: false,
      namedLinks: false,
      intakeLinks: true,
      visitorWords: true,
      linkPassword: true,
      linkExpiry: ["open"],
      grantExpiry: [],
      minExpiryLeadHours: 0,
      downloadBlock: { on: ["file", "folder", "space"], roles: ["view"] },
      maxUses: true,
      startTime: true,
      lastUse: true,
      perRecipientUse: false,
    },
  },
};

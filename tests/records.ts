import { buildEstate, type Estate } from "@/core/estate/estate";
import type * as records from "@/core/estate/records";
import { seconds } from "@/core/time/instant";

/** Short ways to write down small estates: every field has a plain value, and a test names what it is about. */
export const NOW = "2026-10-05T08:00:00Z";
export const T = seconds(NOW);

export const capable: records.Capabilities = {
  openLinks: true,
  houseLinks: true,
  namedLinks: true,
  intakeLinks: true,
  linkPassword: true,
  linkExpiry: ["open", "house", "named"],
  grantExpiry: ["view", "comment", "edit", "manage"],
  minExpiryLeadHours: 0,
  downloadBlock: { on: ["file", "folder", "space"], roles: ["view", "comment"] },
  maxUses: true,
  startTime: true,
  lastUse: true,
  perRecipientUse: true,
};

export function head(homeDomains = ["home.example"]): records.RecordOf<"estate"> {
  return { type: "estate", version: 1, asOf: NOW, homeDomains };
}

export function store(id = "st", capabilities: Partial<records.Capabilities> = {}): records.StoreRecord {
  return { type: "store", id, name: `Store ${id}`, capabilities: { ...capable, ...capabilities } };
}

export function person(id: string, email: string, more: Partial<records.PersonRecord> = {}): records.PersonRecord {
  return { type: "person", id, email, name: `Person ${id}`, status: "active", ...more };
}

export function group(id: string, ...memberIds: string[]): records.EstateRecord[] {
  return [
    { type: "group", id, name: `Group ${id}` },
    ...memberIds.map((memberId): records.EstateRecord => ({ type: "member", groupId: id, memberId })),
  ];
}

export function item(id: string, parentId: string | null, more: Partial<records.ItemRecord> = {}): records.ItemRecord {
  return {
    type: "item",
    id,
    storeId: "st",
    parentId,
    kind: "folder",
    name: `Item ${id}`,
    ownerId: null,
    label: null,
    inherits: true,
    state: "live",
    createdAt: "2026-01-01T00:00:00Z",
    modifiedAt: "2026-01-01T00:00:00Z",
    ...more,
  };
}

export function file(id: string, parentId: string | null, more: Partial<records.ItemRecord> = {}) {
  return item(id, parentId, { kind: "file", ...more });
}

export function grant(
  id: string,
  itemId: string,
  toId: string,
  more: Partial<records.GrantRecord> = {},
): records.GrantRecord {
  return {
    type: "grant",
    id,
    itemId,
    toId,
    role: "view",
    download: true,
    expiresAt: null,
    grantedBy: "in",
    grantedAt: "2026-09-30T08:00:00Z",
    lastUsedAt: "2026-10-04T08:00:00Z",
    ...more,
  };
}

export function link(id: string, itemId: string, more: Partial<records.LinkRecord> = {}): records.LinkRecord {
  return {
    type: "link",
    id,
    itemId,
    reach: "open",
    role: "view",
    password: false,
    download: true,
    opensAt: null,
    expiresAt: null,
    maxUses: null,
    uses: 0,
    listed: false,
    recipients: [],
    createdBy: "in",
    createdAt: "2026-09-30T08:00:00Z",
    lastUsedAt: "2026-10-04T08:00:00Z",
    ...more,
  };
}

export function named(id: string, itemId: string, emails: string[], more: Partial<records.LinkRecord> = {}) {
  return link(id, itemId, { reach: "named", recipients: emails.map((email) => ({ email })), ...more });
}

export function party(domain: string, stance: records.Stance): records.PartyRecord {
  return { type: "party", domain, stance };
}

/** An estate with one store, one insider `in` and one outsider `out`, and whatever else is given. */
export function estateOf(...more: (records.EstateRecord | records.EstateRecord[])[]): Estate {
  const given = more.flat();
  const stores = given.some((record) => record.type === "store") ? [] : [store()];
  return buildEstate([head(), ...stores, person("in", "in@home.example"), person("out", "out@quay.example"), ...given]);
}

/** So many days from the tests' now, as records hold it. */
export function inDays(days: number): string {
  return new Date((T + days * 86_400) * 1000).toISOString().replace(".000Z", "Z");
}

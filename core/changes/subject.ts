import { type Estate } from "../estate/estate";
import { audienceWords } from "../estate/shareWords";
import type { Reach } from "../estate/records";
import type { Change } from "./change";

/** What a change is about, as it was when the change was staged, in words; and the store that has to do it. */
export interface SubjectWords {
  /** Null where no store keeps it. */
  storeId: string | null;
  itemName: string;
  audience: string;
}

/** Null where the subject doesn't exist here. */
export function subjectWords(estate: Estate, change: Change): SubjectWords | null {
  const { tree, principals } = estate;
  const at = (position: number, audience: string) => ({
    storeId: tree.storeIdAt(position),
    itemName: tree.nameAt(position),
    audience,
  });
  if ("itemId" in change) {
    const position = tree.position(change.itemId);
    if (position === undefined) return null;
    return at(position, itemAudience(estate, change));
  }
  if ("groupId" in change) {
    const group = principals.findGroup(change.groupId);
    if (group === undefined) return null;
    const { name, storeId } = principals.groups[group];
    return { storeId: storeId ?? null, itemName: `Group ${name}`, audience: personName(estate, change.address) };
  }
  const share = estate.share(change.shareId);
  if (!share) return null;
  const audience =
    change.action === "drop-recipient" ? personName(estate, change.address) : audienceWords(estate, share);
  return at(share.position, audience);
}

function itemAudience(estate: Estate, change: Extract<Change, { itemId: string }>): string {
  switch (change.action) {
    case "hand-over":
      return `To ${personName(estate, change.address)}`;
    case "new-grant":
      return personName(estate, change.address);
    case "new-link":
      return LINK_AUDIENCES[change.reach] ?? change.addresses.map((one) => personName(estate, one)).join(", ");
    default:
      return "Everything shared further up";
  }
}
const LINK_AUDIENCES: Partial<Record<Reach, string>> = { open: "Anyone with the link", house: "All our own people" };

function personName({ principals, people }: Estate, address: string): string {
  const person = principals.findAddress(address);
  return person === undefined ? address : people[person].name;
}

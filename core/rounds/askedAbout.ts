import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { worstLabel } from "../estate/tree";

/**
 * All that one decides a share by, as a text: what it is on and how sensitive that is, whom it lets in, what they may do,
 * and what holds it shut. Two texts of one share are equal unless it has changed in something of that. They can be long:
 * whoever keeps them keeps their hash.
 */
export function askedAbout(estate: Estate, share: Share): string {
  const { tree, people, principals } = estate;
  const { position } = share;
  const label = worstLabel(tree, position, tree.end[position]);
  const names = [...share.people].map((index) => people[index].address).sort();
  return JSON.stringify([
    ...[share.itemId, share.audience, share.group < 0 ? null : principals.groups[share.group].id, names],
    ...[share.role, share.download, share.hasPassword, share.ends, label < 0 ? null : LABELS[label]],
  ]);
}

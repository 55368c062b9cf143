import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { worstLabel } from "../estate/tree";

/**
 * Everything that people decide about a share by, as one text: its item and how sensitive that is, its audience and role,
 * and its latches. Two texts of one share are equal unless one of these has changed. They can be long, so only
 * their hash is kept.
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

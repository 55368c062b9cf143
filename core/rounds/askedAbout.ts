import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { Estate } from "../estate/estate";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { worstLabel } from "../estate/tree";

/**
 * A mark of all that one decides a share by: what it is on and how sensitive that is, whom it lets in, what they may do,
 * and what holds it shut. Two marks of one share are equal unless it has changed in something of that.
 * @returns SHA-256 in hex
 */
export function askedAbout(estate: Estate, share: Share): string {
  const { tree, people, principals } = estate;
  const { position } = share;
  const label = worstLabel(tree, position, tree.end[position]);
  const names = [...share.people].map((index) => people[index].address).sort();
  const parts = [
    ...[share.itemId, share.audience, share.group < 0 ? null : principals.groups[share.group].id, names],
    ...[share.role, share.download, share.hasPassword, share.ends, label < 0 ? null : LABELS[label]],
  ];
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(parts))));
}

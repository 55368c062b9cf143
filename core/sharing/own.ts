import type { Estate } from "../estate/estate";
import { placeOf } from "../estate/tree";
import { byText, fold } from "../text/text";

/** Whether somebody owns an item or a folder above it. */
export function ownsItem(estate: Estate, address: string, item: string): boolean {
  const person = estate.principals.findAddress(address);
  let position = estate.tree.position(item) ?? -1;
  if (person === undefined) return false;
  for (; position >= 0; position = estate.tree.parent[position]) if (estate.ownerAt(position) === person) return true;
  return false;
}

/** Live items with a text in their name that somebody owns, or that are in a folder of theirs, sorted by name. */
export function ownItems(estate: Estate, address: string, text: string, most: number) {
  const { tree, principals } = estate;
  const person = principals.findAddress(address);
  if (person === undefined) return [];
  const wanted = fold(text.trim());
  const isTheirs = new Uint8Array(tree.length);
  const found: { id: string; name: string; place: string[] }[] = [];
  // Parents always come before their children.
  for (let position = 0; position < tree.length; position++) {
    const above = tree.parent[position];
    if (estate.ownerAt(position) !== person && (above < 0 || isTheirs[above] === 0)) continue;
    isTheirs[position] = 1;
    const name = tree.nameAt(position);
    if (tree.live[position] === 1 && fold(name).includes(wanted))
      found.push({ id: tree.idAt(position), name, place: placeOf(tree, position) });
  }
  return found.sort((a, b) => byText(a.name, b.name)).slice(0, most);
}

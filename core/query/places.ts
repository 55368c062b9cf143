import type { Tree } from "../estate/tree";

/** By position: 1 where an item, or one above it, is among some items. @param items slots */
export function positionsHolding(tree: Tree, items: ArrayLike<number>): Uint8Array {
  const holds = new Uint8Array(tree.length);
  for (let i = 0; i < items.length; i++) {
    const position = tree.positionOf[items[i]];
    if (position >= 0) holds[position] = 1;
  }
  // A parent always stands before its children.
  const { parent, length } = tree;
  for (let position = 0; position < length; position++) {
    const above = parent[position];
    if (above >= 0) holds[position] |= holds[above];
  }
  return holds;
}

import type { Places } from "./choice";

/** How far each place is open: the highest degree of what reaches it. @param degreeOf by candidate */
export function openOf({ count, above, begins }: Places, degreeOf: (at: number) => number): Uint8Array {
  const open = new Uint8Array(count);
  for (let place = 0; place < count; place++) {
    let highest = above[place] < 0 ? 0 : open[above[place]];
    for (let at = begins[place]; at < begins[place + 1]; at++) highest = Math.max(highest, degreeOf(at));
    open[place] = highest;
  }
  return open;
}

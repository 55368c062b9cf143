const BITS = 11;
const DIGITS = 2 ** BITS;

type Column = Int32Array<ArrayBuffer>;

/**
 * Sorts positions, by least significant digits first (radix sort): what has one position stays in its order.
 * @returns them anew in order, and the place that each had before
 */
export function sortByPosition(positions: Column): { positions: Column; order: Column } {
  const { length } = positions;
  let highest = 0;
  for (let i = 0; i < length; i++) if (positions[i] > highest) highest = positions[i];
  let from = { positions, order: new Int32Array(length) };
  for (let i = 0; i < length; i++) from.order[i] = i;
  for (let shift = 0; shift === 0 || highest >> shift > 0; shift += BITS) {
    const to = { positions: new Int32Array(length), order: new Int32Array(length) };
    const starts = new Int32Array(DIGITS + 1);
    for (let i = 0; i < length; i++) starts[((from.positions[i] >> shift) & (DIGITS - 1)) + 1]++;
    for (let digit = 0; digit < DIGITS; digit++) starts[digit + 1] += starts[digit];
    for (let i = 0; i < length; i++) {
      const place = starts[(from.positions[i] >> shift) & (DIGITS - 1)]++;
      to.positions[place] = from.positions[i];
      to.order[place] = from.order[i];
    }
    from = to;
  }
  return from;
}

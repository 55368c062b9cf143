export type Column = Float64Array | Int32Array | Uint32Array | Uint16Array | Uint8Array;

/** The column itself where it is long enough, else a longer copy; what is new in it is 0. */
export function grown<C extends Column>(column: C, length: number): C {
  if (length <= column.length) return column;
  const longer = new (column.constructor as new (length: number) => C)(Math.max(length, column.length * 2, 16));
  longer.set(column);
  return longer;
}

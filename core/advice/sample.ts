/** Confidences have up to three places: they are counted in thousandths. */
const THOUSAND = 1_000n;

/**
 * The smallest sample, drawn without replacement, that holds at least one bad line with some confidence, where a part
 * of all lines is bad: the smallest n with 1 − C(N − B, n) / C(N, n) ≥ confidence, B being ⌈N × percent / 100⌉ (the
 * hypergeometric distribution; exact, in whole numbers).
 * @param count how many lines there are, at least 1
 * @param percent how many of a hundred are bad, 1 to 100
 * @param confidence in thousandths, 0 to 1,000
 */
export function sampleSize(count: number, percent: number, confidence: number): number {
  const all = BigInt(count);
  const bad = (all * BigInt(percent) + 99n) / 100n;
  const good = all - bad;
  const mayMiss = THOUSAND - BigInt(confidence);
  if (mayMiss === 0n) return Number(good) + 1;
  // The chance that n draws find no bad one, as a fraction.
  let [missed, drawn] = [1n, 1n];
  let size = 0n;
  for (; missed * THOUSAND > mayMiss * drawn; size++) {
    missed *= good - size;
    drawn *= all - size;
  }
  return Number(size);
}

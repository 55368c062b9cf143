/** The known word that is the fewest letters away. */
export function nearest(word: string, known: readonly string[]): string {
  return [...known].sort((a, b) => editDistance(word, a) - editDistance(word, b))[0];
}

/** Levenshtein's distance, one row at a time. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length];
}

/** Times in milliseconds of several runs of the same work, and what the last of them gave. */
export interface Timed<T> {
  median: number;
  p95: number;
  p99: number;
  result: T;
}

/**
 * @param work is given the number of the run
 * @param warmUps runs before those that count, so that what is measured has been compiled
 */
export async function timed<T>(runs: number, work: (run: number) => T | Promise<T>, warmUps = 0): Promise<Timed<T>> {
  const times: number[] = [];
  let result!: T;
  for (let run = -warmUps; run < runs; run++) {
    const start = performance.now();
    const given = work(run);
    result = given instanceof Promise ? await given : given;
    if (run >= 0) times.push(performance.now() - start);
  }
  const sorted = times.sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(runs - 1, Math.floor(runs * share))];
  return { median: at(0.5), p95: at(0.95), p99: at(0.99), result };
}

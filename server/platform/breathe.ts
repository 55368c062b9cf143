/** Work without a break for longer than this makes others wait noticeably. */
const LONG_MS = 10;
let turnedAt = performance.now();

/**
 * Lets the event loop turn if work has gone on for long without it. Work that only waits for the database is done
 * in microtasks, one after the other, and nobody else's request is looked at meanwhile.
 */
export async function breathe(): Promise<void> {
  if (performance.now() - turnedAt < LONG_MS) return;
  await new Promise((resolve) => setImmediate(resolve));
  turnedAt = performance.now();
}

/** Does something for each of very many, letting others in between. */
export async function eachBreathing<A, B>(all: readonly A[], work: (one: A) => B): Promise<B[]> {
  const done: B[] = [];
  for (const one of all) {
    if (done.length % PIECE === 0) await breathe();
    done.push(work(one));
  }
  return done;
}
const PIECE = 100;

/**
 * The same pieces, each asked for while the one before it is used: whoever makes them and whoever uses them then work at
 * the same time. At most one lies ready.
 */
export async function* readAhead<T>(pieces: AsyncIterable<T>): AsyncGenerator<T> {
  const made = pieces[Symbol.asyncIterator]();
  let next = made.next();
  try {
    for (;;) {
      const { done, value } = await next;
      if (done) return;
      next = made.next();
      // Where it fails, whoever comes for it is told; until then nobody waits for it.
      next.catch(() => undefined);
      yield value;
    }
  } finally {
    await made.return?.();
  }
}

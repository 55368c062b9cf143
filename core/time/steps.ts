/** Work in pieces, so that the caller can do other things in between. */
export type Steps<T> = Generator<void, T>;

/** Works it out in one go. */
export function finish<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** Enough work to be worth a pause, and little enough that nobody notices. */
const AT_ONCE = 100;

/** Does something for each of very many, pausing after every few. */
export function* eachInSteps<A, B>(all: Iterable<A>, work: (one: A) => B): Steps<B[]> {
  const done: B[] = [];
  for (const one of all) {
    done.push(work(one));
    if (done.length % AT_ONCE === 0) yield;
  }
  return done;
}

/** Something that is worked out piece by piece, so that whoever drives it can see to other things in between. */
export type Steps<T> = Generator<void, T>;

/** Works it out in one go. */
export function finish<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

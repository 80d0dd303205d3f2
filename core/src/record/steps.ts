/** Work that is done in steps, between which something else may be done. */
export type Steps<T> = Generator<void, T>;

/** Does all the steps of some work, one after the other. */
export function atOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

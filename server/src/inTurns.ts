/** Does work in steps, between which other requests are answered. */
export async function inTurns<T>(steps: Iterator<void, T>): Promise<T> {
  for (;;) {
    await new Promise((next) => setImmediate(next));
    const { done, value } = steps.next();
    if (done) return value;
  }
}

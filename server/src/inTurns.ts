/** Does work in steps, between which other requests are answered. */
export function inTurns(steps: Iterator<void>): void {
  setImmediate(() => {
    if (!steps.next().done) inTurns(steps);
  });
}

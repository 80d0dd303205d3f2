/** Longest that a thread works before it hears what it was told meanwhile, milliseconds. */
export const DEAF = 30;

/** Long work in a thread that hears meanwhile what it is told, so that the work can be ended by a word. */
export class Turns {
  private number = 0;

  /** Ends what is worked on, with what there is. */
  hurry(): void {
    this.number++;
  }

  /**
   * Works until it is done, time is up, or somebody hurries.
   * @param until time at which it ends at the latest, as `performance.now()` gives it
   * @param work goes on until the time that it is given
   * @returns what the last piece of work came to
   */
  async go<T>(until: number, work: (until: number) => { made: T; isDone: boolean }): Promise<T> {
    const own = this.number;
    for (;;) {
      const now = performance.now();
      const { made, isDone } = work(Math.min(until, now + DEAF));
      if (isDone || performance.now() >= until) return made;
      await heard();
      if (this.number !== own) return made;
    }
  }
}

/** Comes back when the messages that have come up to now are heard. A timer would wait for some milliseconds each time. */
function heard(): Promise<void> {
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      done();
    };
    port2.postMessage(null);
  });
}

/** Notes what is asked while something is found out. */
export class Noting<T> {
  private noted: Set<T> | null = null;

  /** Says that something was asked. */
  note(asked: T): void {
    this.noted?.add(asked);
  }

  /** Finds something out, and tells what was asked meanwhile; what is found out on the way counts for what it is found out for as well. */
  during<R>(find: () => R): { made: R; asked: readonly T[] } {
    const outer = this.noted;
    const own = new Set<T>();
    this.noted = own;
    try {
      return { made: find(), asked: [...own] };
    } finally {
      this.noted = outer;
      for (const each of own) outer?.add(each);
    }
  }
}

/** Above this share of what lies below it, what has changed is laid down with it. */
const MOST_CHANGED = 0.1;
const GONE = Symbol("gone");

/**
 * A map that begins as another one, which stays as it is: what changes is kept beside what both share, so that making it takes
 * as long as there are changes, not as there are entries. Entries come in the order of the first map, those that are new after them.
 */
export class ChangedMap<K, V> {
  private readonly below: ReadonlyMap<K, V>;
  private readonly changes: Map<K, V | typeof GONE>;

  constructor(before: ReadonlyMap<K, V> | ChangedMap<K, V>) {
    if (before instanceof ChangedMap) {
      const isFew = before.changes.size <= before.below.size * MOST_CHANGED;
      this.below = isFew ? before.below : laidDown(before.below, before.changes);
      this.changes = isFew ? new Map(before.changes) : new Map();
    } else {
      this.below = before;
      this.changes = new Map();
    }
  }

  get(key: K): V | undefined {
    const changed = this.changes.get(key);
    if (changed === undefined) return this.below.get(key);
    return changed === GONE ? undefined : changed;
  }

  has(key: K): boolean {
    return this.get(key) !== undefined;
  }

  set(key: K, value: V): this {
    this.changes.set(key, value);
    return this;
  }

  delete(key: K): void {
    if (this.below.has(key)) this.changes.set(key, GONE);
    else this.changes.delete(key);
  }

  *[Symbol.iterator](): IterableIterator<[K, V]> {
    for (const [key, value] of this.below) {
      const changed = this.changes.get(key);
      if (changed !== GONE) yield [key, changed ?? value];
    }
    for (const [key, value] of this.changes) if (value !== GONE && !this.below.has(key)) yield [key, value];
  }
}

/** A map with what has changed of it. */
function laidDown<K, V>(below: ReadonlyMap<K, V>, changes: ReadonlyMap<K, V | typeof GONE>): Map<K, V> {
  // to copy a map as it is costs a fraction of putting one together
  const all = new Map(below);
  for (const [key, value] of changes) {
    if (value === GONE) all.delete(key);
    else all.set(key, value);
  }
  return all;
}

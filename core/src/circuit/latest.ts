/** A memory of so many values at most: what was asked for longest ago is forgotten first. */
export class Latest<V> {
  private readonly kept = new Map<string, V>();

  constructor(private readonly most: number) {}

  /** The value of a key, made when it is not remembered. */
  at(key: string, make: () => V): V {
    const value = this.kept.get(key) ?? make();
    // put last anew, so that the first is the one that was asked for longest ago
    this.kept.delete(key);
    this.kept.set(key, value);
    const [oldest] = this.kept.keys();
    if (this.kept.size > this.most && oldest !== undefined) this.kept.delete(oldest);
    return value;
  }
}

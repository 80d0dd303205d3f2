/** Names that are joined, directly or through others (union-find). */
export class Groups {
  private readonly indexes = new Map<string, number>();
  private readonly up: number[] = [];

  /** Joins two names. @returns whether they were apart */
  join(a: string, b: string): boolean {
    const first = this.numberOf(a);
    const second = this.numberOf(b);
    this.up[first] = second;
    return first !== second;
  }

  /** A number that all names of a group have, and no other's; it may change when names are joined. */
  numberOf(name: string): number {
    return this.root(this.indexOf(name));
  }

  /** Each name with the number of its group, from 0 in the order of first mention. */
  numbered(): Map<string, number> {
    const numbers = new Int32Array(this.up.length).fill(-1);
    const result = new Map<string, number>();
    let groups = 0;
    for (const [name, index] of this.indexes) {
      const root = this.root(index);
      if (numbers[root] === -1) numbers[root] = groups++;
      result.set(name, numbers[root] as number);
    }
    return result;
  }

  private indexOf(name: string): number {
    const known = this.indexes.get(name);
    if (known !== undefined) return known;
    this.indexes.set(name, this.up.length);
    this.up.push(this.up.length);
    return this.up.length - 1;
  }

  private root(index: number): number {
    let root = index;
    while (this.up[root] !== root) {
      const above = this.up[this.up[root] as number] as number;
      this.up[root] = above;
      root = above;
    }
    return root;
  }
}

/** Numbers that are joined, directly or through others (union-find). */
export class NumberGroups {
  private readonly up: Int32Array;

  /** @param size numbers from 0, each by itself at first */
  constructor(size: number) {
    this.up = Int32Array.from({ length: size }, (_, index) => index);
  }

  /** Joins two of them. */
  join(a: number, b: number): void {
    this.up[this.root(a)] = this.root(b);
  }

  /** The one by which a group is known; another one when it is joined to more. */
  root(number: number): number {
    let root = number;
    while (this.up[root] !== root) {
      const above = this.up[this.up[root] as number] as number;
      this.up[root] = above;
      root = above;
    }
    return root;
  }
}

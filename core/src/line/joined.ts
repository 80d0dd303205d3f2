/** Things that are joined to one another, by number. */
export class Joined {
  private readonly root: number[] = [];

  /** @returns the first of so many new ones */
  add(count: number): number {
    const first = this.root.length;
    for (let index = 0; index < count; index++) this.root.push(first + index);
    return first;
  }

  rootOf(node: number): number {
    let at = node;
    while (this.root[at] !== at) {
      this.root[at] = this.root[this.root[at] as number] as number;
      at = this.root[at] as number;
    }
    return at;
  }

  join(a: number | null, b: number | null): void {
    if (a !== null && b !== null) this.root[this.rootOf(a)] = this.rootOf(b);
  }
}

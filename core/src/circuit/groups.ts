/** Names that are joined, directly or through others (union-find). */
export class Groups {
  private readonly parent = new Map<string, string>();

  join(a: string, b: string): void {
    this.parent.set(this.root(a), this.root(b));
  }

  /** Each name with the number of its group, from 0 in the order of first mention. */
  numbered(): Map<string, number> {
    const numbers = new Map<string, number>();
    const result = new Map<string, number>();
    for (const name of [...this.parent.keys()]) {
      const root = this.root(name);
      const number = numbers.get(root) ?? numbers.size;
      numbers.set(root, number);
      result.set(name, number);
    }
    return result;
  }

  private root(name: string): string {
    let root = name;
    for (let up = this.parent.get(root); up !== undefined && up !== root; up = this.parent.get(root)) root = up;
    this.parent.set(name, root);
    if (!this.parent.has(root)) this.parent.set(root, root);
    return root;
  }
}

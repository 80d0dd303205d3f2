/** What was found out of the things that were asked about last; of more than so many the one that nobody asked about longest goes. */
export class Recent<T> {
  private readonly known = new Map<string, T>();

  constructor(private readonly most: number) {}

  get(key: string): T | undefined {
    const found = this.known.get(key);
    if (found !== undefined) this.set(key, found);
    return found;
  }

  set(key: string, value: T): void {
    this.known.delete(key);
    this.known.set(key, value);
    const [oldest] = this.known.keys();
    if (oldest !== undefined && this.known.size > this.most) this.known.delete(oldest);
  }

  delete(key: string): void {
    this.known.delete(key);
  }

  clear(): void {
    this.known.clear();
  }

  get size(): number {
    return this.known.size;
  }
}

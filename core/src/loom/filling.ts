/** Something with numbered places of which some are taken. */
export class Places<T extends { id: string }> {
  private readonly taken: boolean[] = [];
  private first = 1;
  private used = 0;

  /** @param usable places that may be taken for what is proposed; the others are spare */
  constructor(
    readonly thing: T,
    readonly count: number,
    private readonly usable: number,
  ) {}

  take(number: number): void {
    if (!this.taken[number]) this.used++;
    this.taken[number] = true;
  }

  isFree(number: number): boolean {
    return number <= this.count && !this.taken[number];
  }

  /** Whether no more may be taken for what is proposed; it stays so, since nothing is given back. */
  get isFull(): boolean {
    return this.used >= this.usable;
  }

  /** The first free place at which a condition holds, as long as enough are left spare; null when there is none. */
  free(holds: (number: number) => boolean = () => true): number | null {
    while (this.first <= this.count && this.taken[this.first]) this.first++;
    if (this.isFull) return null;
    for (let number = this.first; number <= this.count; number++)
      if (!this.taken[number] && holds(number)) return number;
    return null;
  }
}

/** Things with numbered places in their order, of which those that are full are not looked at again. */
export class Row<T extends { id: string }> {
  readonly all: Places<T>[] = [];
  private open: number[] = [];
  private readonly spots = new Map<T, number>();

  add(places: Places<T>): void {
    this.spots.set(places.thing, this.all.length);
    this.open.push(this.all.length);
    this.all.push(places);
  }

  /** Where a thing stands in the row, from 0; -1 when it does not. */
  spotOf(thing: T): number {
    return this.spots.get(thing) ?? -1;
  }

  /** Those that are not full, each with where it stands. */
  get notFull(): { places: Places<T>; spot: number }[] {
    this.open = this.open.filter((spot) => !this.all[spot]?.isFull);
    return this.open.flatMap((spot) => {
      const places = this.all[spot];
      return places ? [{ places, spot }] : [];
    });
  }
}

/** Rows by what each is for, made when first asked for. */
export class Rows<K, T extends { id: string }> {
  private readonly rows = new Map<K, Row<T>>();

  of(key: K): Row<T> {
    const row = this.rows.get(key) ?? new Row<T>();
    this.rows.set(key, row);
    return row;
  }
}

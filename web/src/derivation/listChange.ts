/** A list made of stretches of the one before and of new things. */
export type ListChange<T> = readonly ({ from: number; count: number } | { item: T })[];

/** What has to be sent for the other side to have a list, when it has the one before. */
export function listChange<T>(now: readonly T[], before: readonly T[]): ListChange<T> {
  const places = new Map(before.map((item, place) => [item, place]));
  const change: ({ from: number; count: number } | { item: T })[] = [];
  for (const item of now) {
    const place = places.get(item);
    const last = change.at(-1);
    if (place === undefined) change.push({ item });
    else if (last && "from" in last && last.from + last.count === place) last.count++;
    else change.push({ from: place, count: 1 });
  }
  return change;
}

/** The list that a change makes of the one before; the same one when nothing changed. */
export function withList<T>(before: readonly T[], change: ListChange<T>): readonly T[] {
  const [first] = change;
  if (change.length === 1 && first && "from" in first && first.from === 0 && first.count === before.length)
    return before;
  if (change.length === 0 && before.length === 0) return before;
  return change.flatMap((each) => ("item" in each ? [each.item] : before.slice(each.from, each.from + each.count)));
}

/** Whether two lists hold the same things in the same order. */
export function isSameList(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a === b || (a.length === b.length && a.every((item, place) => item === b[place]));
}

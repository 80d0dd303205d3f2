/** A list made of stretches of the one before and of new things. */
export type ListChange<T> = readonly ({ from: number; count: number } | { item: T })[];

/** Where two lists differ, in which no thing comes twice: from a place in both up to one in each. */
export function stretchOf(
  now: readonly unknown[],
  before: readonly unknown[],
): { from: number; to: number; was: number } {
  const most = Math.min(now.length, before.length);
  let from = 0;
  while (from < most && now[from] === before[from]) from++;
  let left = 0;
  while (left < most - from && now[now.length - 1 - left] === before[before.length - 1 - left]) left++;
  return { from, to: now.length - left, was: before.length - left };
}

/** What has to be sent for the other side to have a list, when it has the one before. */
export function listChange<T>(now: readonly T[], before: readonly T[]): ListChange<T> {
  const { from, to, was } = stretchOf(now, before);
  const places = new Map<T, number>();
  for (let place = from; place < was; place++) places.set(before[place] as T, place);
  const change: ({ from: number; count: number } | { item: T })[] = [];
  const keep = (place: number, count: number) => {
    const last = change.at(-1);
    if (last && "from" in last && last.from + last.count === place) last.count += count;
    else if (count > 0) change.push({ from: place, count });
  };
  keep(0, from);
  for (let index = from; index < to; index++) {
    const item = now[index] as T;
    const place = places.get(item);
    if (place === undefined) change.push({ item });
    else keep(place, 1);
  }
  keep(was, before.length - was);
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

import { type Derived, isSame, type Loom, type Thread } from "@alderman/core";

/** What all screens share, as it comes from the worker. */
export type Overview = {
  -readonly [K in "loom" | "addresses" | "findings" | "loads" | "boards" | "nodeVolts" | "complete"]: Derived[K];
} & {
  threads: Thread[];
  nets: Derived["schematic"]["nets"];
};

/** The lists of an overview, of which only what is new is sent. */
type Lists = Pick<Overview, "threads" | "nets" | "addresses" | "findings" | "loads" | "boards" | "nodeVolts"> &
  Pick<Loom, "wires" | "passages" | "strips" | "cables" | "idle">;
type ListName = keyof Lists;
type Item<K extends ListName> = Lists[K][number];

/** What tells one thing of a list from the others, from one overview to the next. */
const KEYS: { [K in ListName]: (item: Item<K>) => string } = {
  threads: ({ turnout }) => turnout.id,
  nets: ({ ends: [first] }) => `${first?.deviceId}:${first?.terminal}`,
  addresses: ({ deviceId, way }) => `${deviceId} ${way}`,
  findings: ({ key }) => key,
  loads: ({ deviceId }) => deviceId,
  boards: ({ deviceId }) => deviceId,
  nodeVolts: ({ deviceId }) => deviceId,
  wires: ({ element }) => element,
  passages: ({ net }) => net,
  strips: ({ id }) => id,
  cables: ({ id }) => id,
  idle: ({ fact }) => fact.id,
};
const NAMES = Object.keys(KEYS) as ListName[];

/** A list made of stretches of the one before and of new things. */
export type ListChange<T> = readonly ({ from: number; count: number } | { item: T })[];

/** What has to be sent for the other side to have an overview, when it has the one before. */
export interface OverviewChange {
  lists: { [K in ListName]: ListChange<Item<K>> };
  complete: Overview["complete"];
}

/** What all screens share of what follows from a record; things that are as they were are the same objects as before. */
export function overviewOf(derived: Derived, before: Overview | null = null): Overview {
  const { loom, addresses, findings, loads, boards, nodeVolts, complete, schematic } = derived;
  const now = {
    loom,
    addresses,
    findings,
    loads,
    boards,
    nodeVolts,
    complete,
    threads: schematic.threads,
    nets: schematic.nets,
  };
  if (!before) return now;
  const [lists, earlier] = [listsOf(now), listsOf(before)];
  const kept = Object.fromEntries(NAMES.map((name) => [name, keptOf(name, lists[name], earlier[name])]));
  return overviewFrom(kept as unknown as Lists, complete);
}

function listsOf({ threads, nets, addresses, findings, loads, boards, nodeVolts, loom }: Overview): Lists {
  return { threads, nets, addresses, findings, loads, boards, nodeVolts, ...loom };
}

function overviewFrom({ wires, passages, strips, cables, idle, ...lists }: Lists, complete: string[]): Overview {
  return { ...lists, complete, loom: { wires, passages, strips, cables, idle } };
}

/** A list in which things that are as they were are the earlier objects. */
function keptOf<K extends ListName>(name: K, now: readonly Item<K>[], before: readonly Item<K>[]): Item<K>[] {
  const keyOf = KEYS[name] as (item: Item<K>) => string;
  const known = new Map(before.map((item) => [keyOf(item), item]));
  return now.map((item) => {
    const earlier = known.get(keyOf(item));
    return earlier && isSame(earlier, item) ? earlier : item;
  });
}

/** What of an overview is not in the one sent before. */
export function changeOf(now: Overview, before: Overview | null): OverviewChange {
  const [lists, earlier] = [listsOf(now), before && listsOf(before)];
  const changes = NAMES.map((name) => [name, listChange<unknown>(lists[name], earlier?.[name] ?? [])]);
  return { lists: Object.fromEntries(changes), complete: now.complete };
}

function listChange<T>(now: readonly T[], before: readonly T[]): ListChange<T> {
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

/** The overview that a change makes of the one before; a list in which nothing changed is the same one. */
export function withChange(before: Overview | null, { lists, complete }: OverviewChange): Overview {
  const earlier = before && listsOf(before);
  const made = NAMES.map((name) => [name, withList<unknown>(earlier?.[name] ?? [], lists[name])]);
  return overviewFrom(Object.fromEntries(made), complete);
}

function withList<T>(before: readonly T[], change: ListChange<T>): readonly T[] {
  const [first] = change;
  if (change.length === 1 && first && "from" in first && first.from === 0 && first.count === before.length)
    return before;
  if (change.length === 0 && before.length === 0) return before;
  return change.flatMap((each) => ("item" in each ? [each.item] : before.slice(each.from, each.from + each.count)));
}

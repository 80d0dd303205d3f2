import { type Derived, isSame, type Loom, RULES, type Thread } from "@alderman/core";
import { isSameList, type ListChange, listChange, stretchOf, withList } from "./listChange.ts";

/** What all screens share, as it comes from the worker. */
export type Overview = {
  -readonly [K in "loom" | "addresses" | "findings" | "loads" | "boards" | "nodeVolts" | "complete"]: Derived[K];
} & {
  threads: Thread[];
  nets: Derived["schematic"]["nets"];
  /** Not all that is found of the railway is here yet since it was opened, so that what has no finding need not be in order. */
  partial: boolean;
  /** Lists that are not made yet since the railway was opened, or of which not all is here: what is not in them may yet come. */
  coming: readonly ListName[];
};

/** The lists of an overview, of which only what is new is sent. */
type Lists = Pick<Overview, "threads" | "nets" | "addresses" | "findings" | "loads" | "boards" | "nodeVolts"> &
  Pick<Loom, "wires" | "passages" | "strips" | "cables" | "idle">;
export type ListName = keyof Lists;
type Item<K extends ListName> = Lists[K][number];

/** What tells one thing of a list from the others, from one overview to the next; lists in the order in which they are sent. */
const KEYS: { [K in ListName]: (item: Item<K>) => string } = {
  threads: ({ turnout }) => turnout.id,
  findings: ({ key }) => key,
  nets: ({ ends: [first] }) => `${first?.deviceId}:${first?.terminal}`,
  addresses: ({ deviceId, way }) => `${deviceId} ${way}`,
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
/** Those that follow from loom and circuit. */
const CUT = new Set<ListName>(["wires", "passages", "strips", "cables", "idle", "boards", "nodeVolts"]);

/** What has to be sent for the other side to have an overview, when it has the one before. */
export interface OverviewChange {
  /** Lists in which something changed. */
  lists: { [K in ListName]?: ListChange<Item<K>> };
  complete: Overview["complete"];
  partial: boolean;
  coming: Overview["coming"];
  /** How far the checking is, 0 to 1; what is left is asked for. */
  share: number;
  /** All findings are known of the record as it is, which was looked at earlier; what is looked at now is the same. */
  known: boolean;
}

/** What follows from loom and circuit, while neither is made. */
const UNCUT: Pick<Overview, "loom" | "boards" | "nodeVolts"> = {
  loom: { wires: [], passages: [], strips: [], cables: [], idle: [] },
  ...{ boards: [], nodeVolts: [] },
};

/** What takes longest of all that follows from a railway. */
export type Known = Pick<Overview, "findings" | "loads">;

/** What is known of a railway that was checked as it stands earlier, while nothing is worked out of it. */
export function knownOverview({ findings, loads }: Known): Overview {
  const coming = NAMES.filter((name) => name !== "findings" && name !== "loads");
  return {
    ...UNCUT,
    findings,
    loads,
    ...{ addresses: [], complete: [], threads: [], nets: [] },
    partial: false,
    coming,
  };
}

/**
 * What all screens share of what follows from a record, as far as it was checked; things that are as they were are the same
 * objects as before. Of rules that have not looked yet the findings before stand, and so do the loads until all is swept. What
 * follows from loom and circuit is not asked for before these are made.
 */
export function overviewOf(derived: Derived, before: Overview | null = null): Overview {
  const { addresses, complete, schematic, checking } = derived;
  const { loom, boards, nodeVolts } = derived.isCut ? derived : (before ?? UNCUT);
  const { looked, isSwept } = checking;
  const isAll = looked.size === RULES.length;
  const isMade = (name: ListName) => (name === "loads" ? isSwept : derived.isCut || !CUT.has(name));
  const now: Overview = {
    loom,
    addresses,
    findings: isAll ? derived.findings : checking.findingsAmid(before?.findings ?? []),
    loads: isSwept ? derived.loads : (before?.loads ?? []),
    boards,
    nodeVolts,
    complete,
    threads: schematic.threads,
    nets: schematic.nets,
    partial: !isAll && (before?.partial ?? true),
    coming: (before?.coming ?? NAMES).filter((name) => !isMade(name)),
  };
  if (!before) return now;
  const [lists, earlier] = [listsOf(now), listsOf(before)];
  const kept = Object.fromEntries(NAMES.map((name) => [name, keptOf(name, lists[name], earlier[name])]));
  return overviewFrom(kept as unknown as Lists, now);
}

/** The overview of a railway that is checked to the end. */
export function wholeOverviewOf(derived: Derived, before: Overview | null = null): Overview {
  derived.checking.go(() => false);
  return overviewOf(derived, before);
}

/**
 * An overview on the way to another one, by so many new things at most, so that no answer is large: the lists in their order,
 * of that which is too long as many as there is room for.
 */
export function partOf(now: Overview, before: Overview | null, most: number): Overview {
  const [lists, earlier] = [listsOf(now), before && listsOf(before)];
  const otherwise = NAMES.map((name) => stretchOf(lists[name], earlier?.[name] ?? []));
  if (otherwise.reduce((sum, { from, to }) => sum + to - from, 0) <= most) return now;
  let room = most;
  const parts = NAMES.map((name) => {
    const before: readonly unknown[] = earlier?.[name] ?? [];
    if (lists[name] === before) return [name, before];
    const known = new Set(before);
    const part: unknown[] = [];
    for (const item of lists[name]) {
      const isNew = !known.has(item);
      if (isNew && room === 0) break;
      if (isNew) room--;
      part.push(item);
    }
    return [name, part.length === lists[name].length ? lists[name] : part];
  });
  const isAll = parts.every(([name, part]) => part === lists[name as ListName]);
  if (isAll) return now;
  const coming = NAMES.filter((name, at) => now.coming.includes(name) || parts[at]?.[1] !== lists[name]);
  const partial = now.partial || coming.includes("findings");
  return overviewFrom(Object.fromEntries(parts), { ...now, partial, coming });
}

/** The loom; null while not all of it is there. */
export function loomIn(overview: Overview | null): Loom | null {
  return overview && !overview.coming.some((name) => name in overview.loom) ? overview.loom : null;
}

function listsOf({ threads, nets, addresses, findings, loads, boards, nodeVolts, loom }: Overview): Lists {
  return { threads, nets, addresses, findings, loads, boards, nodeVolts, ...loom };
}

function overviewFrom(
  { wires, passages, strips, cables, idle, ...lists }: Lists,
  { complete, partial, coming }: Pick<Overview, "complete" | "partial" | "coming">,
): Overview {
  return { ...lists, complete, partial, coming, loom: { wires, passages, strips, cables, idle } };
}

/** A list in which things that are as they were are the earlier objects; the earlier list where all of them are. */
function keptOf<K extends ListName>(name: K, now: readonly Item<K>[], before: readonly Item<K>[]): readonly Item<K>[] {
  const keyOf = KEYS[name] as (item: Item<K>) => string;
  const { from, to, was } = stretchOf(now, before);
  if (from === to && from === was) return before;
  // most are the same objects, at other places
  const come = new Set(now.slice(from, to));
  const gone = before.slice(from, was).filter((each) => !come.delete(each));
  const known = new Map(gone.map((each) => [keyOf(each), each]));
  const kept = [...now];
  for (let index = from; index < to && come.size > 0; index++) {
    const item = now[index] as Item<K>;
    const earlier = come.delete(item) ? known.get(keyOf(item)) : undefined;
    if (earlier && isSame(earlier, item)) kept[index] = earlier;
  }
  return isSameList(kept, before) ? before : kept;
}

/**
 * What of an overview is not in the one sent before.
 * @param share how far the checking is, 0 to 1
 * @param known whether all findings are known already
 */
export function changeOf(now: Overview, before: Overview | null, share = 1, known = false): OverviewChange {
  const [lists, earlier] = [listsOf(now), before && listsOf(before)];
  const changes = NAMES.flatMap((name) => {
    const [list, old] = [lists[name] as readonly unknown[], earlier?.[name] as readonly unknown[] | undefined];
    return old && isSameList(list, old) ? [] : [[name, listChange(list, old ?? [])] as const];
  });
  const { complete, partial, coming } = now;
  return { lists: Object.fromEntries(changes), complete, partial, coming, share, known };
}

/** The overview that a change makes of the one before; a list in which nothing changed is the same one. */
export function withChange(before: Overview | null, change: OverviewChange): Overview {
  const earlier = before && listsOf(before);
  const made = NAMES.map((name) => {
    const [old, list] = [earlier?.[name] ?? [], change.lists[name]];
    return [name, list ? withList<unknown>(old, list) : old];
  });
  return overviewFrom(Object.fromEntries(made), change);
}

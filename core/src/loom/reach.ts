import { ChangedMap } from "../record/changedMap.ts";
import type { Cable } from "../record/made.ts";
import { otherWires } from "./laidWires.ts";
import { farEnd, type Loom, type Wire, type WireEnd } from "./wire.ts";

/** Wires by a key, as what they are joined to. */
export type WireGroups = Pick<ChangedMap<string, readonly Wire[]>, "get" | "has" | typeof Symbol.iterator>;
type Groups = ChangedMap<string, readonly Wire[]>;

/** Wires in groups, by keys of which each wire has some; carried on from one loom to the next. */
interface Grouping {
  keysOf: (wire: Wire) => readonly string[];
  known: WeakMap<readonly Wire[], Groups>;
}

const groupedByKeys = (keysOf: Grouping["keysOf"]): Grouping => ({ keysOf, known: new WeakMap() });

const BY_NET = groupedByKeys(({ net }) => [net]);
const BY_END = groupedByKeys(({ from, to }) => [from.key, to.key]);
const BY_CABLE = groupedByKeys(({ core }) => (core ? [core.cableId] : []));

function groupsOf({ wires }: Pick<Loom, "wires">, { known, keysOf }: Grouping): Groups {
  const groups = known.get(wires) ?? new ChangedMap(groupedBy(wires, keysOf));
  known.set(wires, groups);
  return groups;
}

/** The wires of a loom by what they are joined to, net by net. */
export function wiresByNet(loom: Pick<Loom, "wires">): WireGroups {
  return groupsOf(loom, BY_NET);
}

/** The wires of a loom by the terminals and screws at which they end, by their names in the circuit. */
export function wiresByEnd(loom: Pick<Loom, "wires">): WireGroups {
  return groupsOf(loom, BY_END);
}

/** The wires of a loom that are cores, cable by cable. */
export function wiresByCable(loom: Pick<Loom, "wires">): WireGroups {
  return groupsOf(loom, BY_CABLE);
}

/** Wires that hold under one screw; with more, one of them works loose sooner or later (common practice). */
export const SCREW_WIRES = 2;

/** Ends at which more wires meet than a screw holds, by a loom's wires; carried on like the groups. */
const crowded = new WeakMap<readonly Wire[], ReadonlySet<string>>();

/** The terminals and screws of a loom at which more wires end than a screw holds, in no order. */
export function crowdedEnds({ wires }: Pick<Loom, "wires">): ReadonlySet<string> {
  const isCrowded = ([, own]: readonly [string, readonly Wire[]]) => own.length > SCREW_WIRES;
  const found = crowded.get(wires) ?? new Set([...wiresByEnd({ wires })].filter(isCrowded).map(([key]) => key));
  crowded.set(wires, found);
  return found;
}

function crowdedAfter(loom: Loom, before: Loom, others: readonly Wire[]): void {
  const known = crowded.get(before.wires);
  if (!known) return;
  const now = new Set(known);
  const groups = wiresByEnd(loom);
  for (const key of others.flatMap(BY_END.keysOf)) {
    if ((groups.get(key)?.length ?? 0) > SCREW_WIRES) now.add(key);
    else now.delete(key);
  }
  crowded.set(loom.wires, now);
}

/** Makes the groups of a loom's wires out of those known before an edit; groups without a wire that is another are the same lists. */
export function groupsAfter(loom: Loom, before: Loom): void {
  const wanted = [BY_NET, BY_END, BY_CABLE].filter(({ known }) => known.has(before.wires) && !known.has(loom.wires));
  if (wanted.length === 0) return;
  const { gone, come } = otherWires(before.wires, loom.wires);
  const left = new Set(gone);
  for (const grouping of wanted) {
    const { keysOf, known } = grouping;
    const groups = new ChangedMap(groupsOf(before, grouping));
    for (const key of new Set(gone.flatMap(keysOf))) {
      const others = (groups.get(key) ?? []).filter((wire) => !left.has(wire));
      if (others.length > 0) groups.set(key, others);
      else groups.delete(key);
    }
    for (const [key, wires] of groupedBy(come, keysOf))
      groups.set(
        key,
        [...(groups.get(key) ?? []), ...wires].sort((a, b) => a.number - b.number),
      );
    known.set(loom.wires, groups);
  }
  crowdedAfter(loom, before, [...gone, ...come]);
}

function groupedBy(wires: readonly Wire[], keysOf: Grouping["keysOf"]): Map<string, Wire[]> {
  const groups = new Map<string, Wire[]>();
  for (const wire of wires) {
    for (const key of keysOf(wire)) {
      const group = groups.get(key);
      if (group) group.push(wire);
      else groups.set(key, [wire]);
    }
  }
  return groups;
}

/** The wires that are cores of a cable, by the numbers of the cores. */
export function coresOf(loom: Loom, cableId: string): ReadonlyMap<number, Wire> {
  const wires = groupsOf(loom, BY_CABLE).get(cableId) ?? [];
  return new Map(wires.flatMap((wire) => (wire.core ? [[wire.core.number, wire] as const] : [])));
}

/** The ends of a core: of a cable that at the panel first, of a tail that at the motor last. */
export function coreEnds({ tail }: Pick<Cable, "tail">, { from, to }: Wire): { near: WireEnd; far: WireEnd } {
  const isTurned = tail ? from.work === "bench" : from.place === "layout";
  return isTurned ? { near: to, far: from } : { near: from, far: to };
}

/**
 * Ohms of wire from a terminal to every other one of its net, by their names in the circuit. What is planned makes a tree
 * of each net, so that there is one way only; where made wires close a loop, by the way of the fewest wires. Without wires
 * the terminal reaches only itself.
 */
export function reachFrom(loom: Loom, from: string): ReadonlyMap<string, number> {
  const walk = walkFrom(loom, from);
  const known = reaches.get(walk) ?? new Map([...walk].map(([node, { ohms }]) => [node, ohms]));
  reaches.set(walk, known);
  return known;
}

const reaches = new WeakMap<Walk, ReadonlyMap<string, number>>();

/** The wires on the way from one end to another, by the fewest; empty when wires alone do not lead there. */
export function wiresBetween(loom: Loom, from: string, to: string): Wire[] {
  const walk = walkFrom(loom, from);
  const way: Wire[] = [];
  for (let key = to, step = walk.get(to); step?.by; step = walk.get(key)) {
    way.unshift(step.by);
    key = farEnd(step.by, key).key;
  }
  return way;
}

/** A step of a walk: by which wire an end is reached, and with how much resistance on the way. */
type Walk = Map<string, { by: Wire | null; ohms: number }>;

/** Walks over the wires of a net, by where they begin. */
const walks = new WeakMap<readonly Wire[], Map<string, Walk>>();

/** Every end that wires lead to from one; known as long as the wires of its net are the same. */
function walkFrom(loom: Loom, from: string): Walk {
  const net = wiresByEnd(loom).get(from)?.[0]?.net;
  const wires = net === undefined ? undefined : wiresByNet(loom).get(net);
  if (!wires) return walkOver(loom, from);
  const known = walks.get(wires) ?? new Map<string, Walk>();
  walks.set(wires, known);
  const walk = known.get(from) ?? walkOver(loom, from);
  // where wires of two nets hang on one screw, it leads out of this one
  if ([...walk.values()].every(({ by }) => by === null || by.net === net)) known.set(from, walk);
  return walk;
}

function walkOver(loom: Loom, from: string): Walk {
  const nextTo = wiresByEnd(loom);
  const walk: Walk = new Map([[from, { by: null, ohms: 0 }]]);
  for (const [node, { ohms }] of walk) {
    for (const wire of nextTo.get(node) ?? []) {
      const other = farEnd(wire, node).key;
      if (!walk.has(other)) walk.set(other, { by: wire, ohms: ohms + wire.ohms });
    }
  }
  return walk;
}

import type { Cable } from "../record/made.ts";
import { otherWires } from "./laidWires.ts";
import { farEnd, type Loom, type Wire, type WireEnd } from "./wire.ts";

const netsOf = new WeakMap<Loom, Map<string, Wire[]>>();
const endsOf = new WeakMap<Loom, Map<string, Wire[]>>();

/** The wires of a loom by what they are joined to, net by net. */
export function wiresByNet(loom: Loom): ReadonlyMap<string, readonly Wire[]> {
  const nets = netsOf.get(loom) ?? groupedBy(loom, ({ net }) => [net]);
  netsOf.set(loom, nets);
  return nets;
}

/** The wires of a loom by the terminals and screws at which they end, by their names in the circuit. */
export function wiresByEnd(loom: Loom): ReadonlyMap<string, readonly Wire[]> {
  const ends = endsOf.get(loom) ?? groupedBy(loom, ({ from, to }) => [from.key, to.key]);
  endsOf.set(loom, ends);
  return ends;
}

/** Makes what is known of the ends of a loom's wires out of what was known before an edit, which keeps its own. */
export function endsAfter(loom: Loom, before: Loom): void {
  const known = endsOf.get(before);
  if (!known || endsOf.has(loom)) return;
  const { gone, come } = otherWires(before.wires, loom.wires);
  const left = new Set(gone);
  const ends = new Map(known);
  for (const key of new Set(gone.flatMap(({ from, to }) => [from.key, to.key]))) {
    const others = (known.get(key) ?? []).filter((wire) => !left.has(wire));
    if (others.length > 0) ends.set(key, others);
    else ends.delete(key);
  }
  for (const wire of come) {
    for (const key of [wire.from.key, wire.to.key]) {
      const group = [...(ends.get(key) ?? []), wire].sort((a, b) => a.number - b.number);
      ends.set(key, group);
    }
  }
  endsOf.set(loom, ends);
}

function groupedBy({ wires }: Loom, keysOf: (wire: Wire) => string[]): Map<string, Wire[]> {
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

const cablesOf = new WeakMap<Loom, Map<string, Wire[]>>();

/** The wires that are cores of a cable, by the numbers of the cores. */
export function coresOf(loom: Loom, cableId: string): ReadonlyMap<number, Wire> {
  const cables = cablesOf.get(loom) ?? groupedBy(loom, ({ core }) => (core ? [core.cableId] : []));
  cablesOf.set(loom, cables);
  return new Map((cables.get(cableId) ?? []).flatMap((wire) => (wire.core ? [[wire.core.number, wire] as const] : [])));
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
export function reachFrom(loom: Loom, from: string): Map<string, number> {
  return new Map([...walkFrom(loom, from)].map(([node, { ohms }]) => [node, ohms]));
}

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

/** Every end that wires lead to from one: by which wire, and with how much resistance on the way. */
function walkFrom(loom: Loom, from: string): Map<string, { by: Wire | null; ohms: number }> {
  const nextTo = wiresByEnd(loom);
  const walk = new Map<string, { by: Wire | null; ohms: number }>([[from, { by: null, ohms: 0 }]]);
  for (const [node, { ohms }] of walk) {
    for (const wire of nextTo.get(node) ?? []) {
      const other = farEnd(wire, node).key;
      if (!walk.has(other)) walk.set(other, { by: wire, ohms: ohms + wire.ohms });
    }
  }
  return walk;
}

import type { Loom, Wire } from "./wire.ts";

const netsOf = new WeakMap<Loom, Map<string, Wire[]>>();

/** The wires of a loom by what they are joined to, net by net. */
export function wiresByNet(loom: Loom): Map<string, Wire[]> {
  const known = netsOf.get(loom);
  if (known) return known;
  const nets = new Map<string, Wire[]>();
  for (const wire of loom.wires) {
    const wires = nets.get(wire.net);
    if (wires) wires.push(wire);
    else nets.set(wire.net, [wire]);
  }
  netsOf.set(loom, nets);
  return nets;
}

/**
 * Ohms of wire from a terminal to every other one of its net, by their names in the circuit. What is planned makes a tree
 * of each net, so that there is one way only; where made wires close a loop, by the way of the fewest wires.
 * @param net identifier of the net; without wires the terminal reaches only itself
 */
export function reachFrom(loom: Loom, net: string, from: string): Map<string, number> {
  const nextTo = new Map<string, Wire[]>();
  for (const wire of wiresByNet(loom).get(net) ?? []) {
    for (const { key: node } of [wire.from, wire.to]) nextTo.set(node, [...(nextTo.get(node) ?? []), wire]);
  }
  const reach = new Map([[from, 0]]);
  for (const [node, ohms] of reach) {
    for (const wire of nextTo.get(node) ?? []) {
      const other = wire.from.key === node ? wire.to.key : wire.from.key;
      if (!reach.has(other)) reach.set(other, ohms + wire.ohms);
    }
  }
  return reach;
}

/** The wires on the way from one end to another, by the fewest; empty when wires alone do not lead there. */
export function wiresBetween(loom: Loom, from: string, to: string): Wire[] {
  const nextTo = new Map<string, Wire[]>();
  for (const wire of loom.wires)
    for (const { key } of [wire.from, wire.to]) {
      const wires = nextTo.get(key);
      if (wires) wires.push(wire);
      else nextTo.set(key, [wire]);
    }
  const cameBy = new Map<string, { wire: Wire; from: string } | null>([[from, null]]);
  for (const [node] of cameBy) {
    if (node === to) break;
    for (const wire of nextTo.get(node) ?? []) {
      const other = wire.from.key === node ? wire.to.key : wire.from.key;
      if (!cameBy.has(other)) cameBy.set(other, { wire, from: node });
    }
  }
  const way: Wire[] = [];
  for (let step = cameBy.get(to); step; step = cameBy.get(step.from)) way.unshift(step.wire);
  return way;
}

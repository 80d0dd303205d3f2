import { continuousAmps } from "../units/gauge.ts";
import type { Loom, Wire } from "./wire.ts";

/** Cores of the cables of looms, by the cables' identifiers. */
const cores = new WeakMap<Loom["cables"], ReadonlyMap<string, number>>();

/** Wires of a bundle that are taken to be loaded alike: all cores of a cable; a single wire is by itself. */
export function loadedTogether({ cables }: Loom, { core }: Wire): number {
  if (!core) return 1;
  const byCable = cores.get(cables) ?? new Map(cables.map((cable) => [cable.id, cable.cores]));
  cores.set(cables, byCable);
  return byCable.get(core.cableId) ?? 1;
}

/** Current that a wire bears for ever as it is laid, amps. */
export function bearsOf(loom: Loom, wire: Wire): number {
  return continuousAmps(wire.gauge, loadedTogether(loom, wire));
}

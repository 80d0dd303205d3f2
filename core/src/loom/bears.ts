import { continuousAmps } from "../units/gauge.ts";
import type { Loom, Wire } from "./wire.ts";

/** Wires of a bundle that are taken to be loaded alike: all cores of a cable; a single wire is by itself. */
export function loadedTogether({ cables }: Loom, { core }: Wire): number {
  return core ? (cables.find(({ id }) => id === core.cableId)?.cores ?? 1) : 1;
}

/** Current that a wire bears for ever as it is laid, amps. */
export function bearsOf(loom: Loom, wire: Wire): number {
  return continuousAmps(wire.gauge, loadedTogether(loom, wire));
}

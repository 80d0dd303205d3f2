import { Circuit } from "./circuit.ts";
import type { Netlist } from "./elements.ts";
import type { OperatingPoint } from "./solution.ts";

/**
 * DC operating point of a netlist. For many states of one circuit make a `Circuit` and keep it.
 * @throws {CircuitError} when a value is impossible, sources contradict each other or nothing settles
 */
export function operatingPoint(netlist: Netlist): OperatingPoint {
  return new Circuit(netlist).operatingPoint();
}

import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Circuitry } from "./circuitry.ts";
import { ALL_MOVING, AT_REST } from "./threadReading.ts";

/** What arrives at a node on a control bus over all wires of its supply, volts. */
export interface NodeVolts {
  deviceId: string;
  /** With everything at rest and normal, and the least of that, of all at reverse, and of all turnouts moving at once. */
  rest: number;
  worst: number;
  /** What it needs; 0 when nothing is known of that. */
  least: number;
}

/** The supply along the bus as a solved circuit: volts at every node, in the order of devices. */
export function nodeVolts(circuitry: Circuitry): NodeVolts[] {
  const { record } = circuitry;
  return record.devices.flatMap((device): NodeVolts[] => {
    const type = typeOf(record, device);
    if (type.hears !== "bus") return [];
    const [plus, minus] = traitsOf(type).power;
    const at = (state: (typeof AT_REST)["N"]) =>
      circuitry.volts(`${device.id}:${plus}`, `${device.id}:${minus}`, state) ?? 0;
    const least = type.figures.leastVolts?.value ?? 0;
    const rest = at(AT_REST.N);
    const worst = Math.min(rest, at(AT_REST.R), at(ALL_MOVING.N), at(ALL_MOVING.R));
    return [{ deviceId: device.id, rest, worst, least }];
  });
}

/** Diode by the Shockley equation with series resistance. */
export interface DiodeModel {
  /** Saturation current, amps. */
  is: number;
  /** Emission coefficient. */
  n: number;
  /** Series resistance, ohms. */
  rs: number;
}

/** A two-ended element between named nodes. Currents flow from the first node to the second through the element. */
export type Element =
  | { kind: "resistor"; id: string; nodes: [string, string]; ohms: number }
  | { kind: "voltage"; id: string; nodes: [string, string]; volts: number }
  | { kind: "current"; id: string; nodes: [string, string]; amps: number }
  | { kind: "diode"; id: string; nodes: [string, string]; model: DiodeModel };

export interface Netlist {
  /** Node that counts as 0 V. Parts without a path to it are given their own 0 V. */
  ground: string;
  elements: Element[];
}

/** Common silicon rectifier (figures from memory). */
export const RECTIFIER: DiodeModel = { is: 14e-9, n: 1.9, rs: 0.04 };

/** Thermal voltage kT/q at 27 C in volts, from the exact SI constants. */
export const THERMAL_VOLTS = (1.380649e-23 * 300.15) / 1.602176634e-19;

/**
 * LED model that drops `forwardVolts` at `amps`.
 *
 * Emission coefficient 2 and no series resistance; the saturation current follows from the one given point.
 * @example ledModel(2.0, 0.010).is // 1.6e-19
 */
export function ledModel(forwardVolts: number, amps: number): DiodeModel {
  const n = 2;
  return { is: amps / Math.expm1(forwardVolts / (n * THERMAL_VOLTS)), n, rs: 0 };
}

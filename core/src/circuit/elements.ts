/** Diode by the Shockley equation with series resistance. */
export interface DiodeModel {
  /** Saturation current, amps. */
  is: number;
  /** Emission coefficient. */
  n: number;
  /** Series resistance, ohms. */
  rs: number;
}

/** How a source changes with time in a transient; at an operating point it stands at its `volts`. */
export type Wave =
  | { kind: "sine"; offset: number; amplitude: number; hertz: number }
  | {
      kind: "pulse";
      low: number;
      high: number;
      delay: number;
      rise: number;
      fall: number;
      width: number;
      period: number;
    };

interface TwoEnded<K extends string> {
  kind: K;
  /** Name within the netlist. */
  id: string;
  /** Current is counted from the first node to the second through the element. */
  nodes: readonly [string, string];
}

export type Resistor = TwoEnded<"resistor"> & { ohms: number };
/**
 * Ideal source: its first node stands `volts` above its second. One that `holds` is the pass transistor of a linear regulator,
 * whose input is its first node: at an operating point it takes as many volts as keep the first of the named nodes `volts` above
 * the second, and `dropOut` at least, or all that comes in where that is less. It begins with its own `volts`.
 */
export type VoltageSource = TwoEnded<"voltage"> & {
  volts: number;
  wave?: Wave;
  holds?: { nodes: readonly [string, string]; volts: number; dropOut: number };
};
export type CurrentSource = TwoEnded<"current"> & { amps: number };
export type Diode = TwoEnded<"diode"> & { model: DiodeModel };
/** Contact of a switch or relay. With `control` it is closed above `onVolts` and open below `offVolts` across the named nodes. */
export type Switch = TwoEnded<"switch"> & {
  closed: boolean;
  onOhms: number;
  offOhms: number;
  control?: { nodes: readonly [string, string]; onVolts: number; offVolts: number };
};
/** A resistor up to `limitAmps` either way, a steady current beyond: an output stage, or a supply that folds. */
export type Limiter = TwoEnded<"limiter"> & { ohms: number; limitAmps: number };
/** Opens when it carries more than `tripAmps` for `seconds`; at an operating point at once. */
export type Breaker = TwoEnded<"breaker"> & { ohms: number; tripAmps: number; seconds: number };
/** `volts` is the charge it starts a transient with, when given. */
export type Capacitor = TwoEnded<"capacitor"> & { farads: number; volts?: number };
/** Coil with its own resistance (0 for an ideal one). `amps` is the current it starts a transient with, when given. */
export type Coil = TwoEnded<"coil"> & { henries: number; ohms: number; amps?: number };

/** A two-ended element between named nodes. */
export type Element = Resistor | VoltageSource | CurrentSource | Diode | Switch | Limiter | Breaker | Capacitor | Coil;

/** Nodes that an element looks at besides those it joins. */
export function nodesWatched(element: Element): readonly string[] {
  if (element.kind === "switch") return element.control?.nodes ?? [];
  return element.kind === "voltage" ? (element.holds?.nodes ?? []) : [];
}

/** The element as it is between nodes of other names. */
export function renamed(element: Element, nameOf: (node: string) => string): Element {
  const both = ([a, b]: readonly [string, string]) => [nameOf(a), nameOf(b)] as const;
  const moved = { ...element, nodes: both(element.nodes) } as Element;
  if (moved.kind === "switch" && moved.control)
    return { ...moved, control: { ...moved.control, nodes: both(moved.control.nodes) } };
  if (moved.kind === "voltage" && moved.holds)
    return { ...moved, holds: { ...moved.holds, nodes: both(moved.holds.nodes) } };
  return moved;
}

export interface Netlist {
  /** Node that counts as 0 V. Parts without a path to it are given their own 0 V. */
  ground: string;
  elements: readonly Element[];
}

/** A circuit that cannot be solved; says why, names the elements to look at and what to do. */
export class CircuitError extends Error {
  override readonly name = "CircuitError";
}

/** Common silicon rectifier (figures from memory). */
export const RECTIFIER: DiodeModel = { is: 14e-9, n: 1.9, rs: 0.04 };

/** Thermal voltage kT/q at 27 C in volts, from the exact SI constants. */
export const THERMAL_VOLTS = (1.380649e-23 * 300.15) / 1.602176634e-19;

/** What a diode drops at a current, volts. @example junctionVolts(RECTIFIER, 0.001) // 0.55 */
export function junctionVolts({ is, n, rs }: DiodeModel, amps: number): number {
  return n * THERMAL_VOLTS * Math.log1p(amps / is) + rs * amps;
}

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

/** What must hold of each number of an element, beyond being one. */
const RULES: { [K in Element["kind"]]: (element: Extract<Element, { kind: K }>) => string | null } = {
  resistor: ({ ohms }) => aboveZero(ohms, "ohm is no resistance"),
  voltage: ({ volts, holds }) =>
    Number.isFinite(volts) && Number.isFinite((holds?.volts ?? 0) + (holds?.dropOut ?? 0))
      ? null
      : "its volts are no number",
  current: ({ amps }) => (Number.isFinite(amps) ? null : "its amps are no number"),
  diode: ({ model: { is, n, rs } }) =>
    is > 0 && n > 0 && rs >= 0 && Number.isFinite(is + n + rs) ? null : "a diode needs IS > 0, N > 0 and RS >= 0",
  switch: ({ onOhms, offOhms }) =>
    onOhms > 0 && offOhms >= onOhms ? null : "a switch needs more than 0 ohm closed, and no less open",
  limiter: ({ ohms, limitAmps }) =>
    aboveZero(ohms, "ohm is no resistance") ?? aboveZero(limitAmps, "A is no limit of current"),
  breaker: ({ ohms, tripAmps, seconds }) =>
    aboveZero(ohms, "ohm is no resistance") ??
    aboveZero(tripAmps, "A is no current to trip at") ??
    (seconds >= 0 ? null : "its time to trip is no length of time"),
  capacitor: ({ farads }) => aboveZero(farads, "F is no capacitance"),
  coil: ({ henries, ohms }) =>
    aboveZero(henries, "H is no inductance") ?? (ohms >= 0 ? null : `${ohms} ohm is no resistance`),
};

function aboveZero(value: number, words: string): string | null {
  return value > 0 && value < Number.POSITIVE_INFINITY ? null : `${value} ${words}; it must be above zero`;
}

/** @throws {CircuitError} naming the element whose figures make no sense */
export function requireSensible(element: Element): void {
  const wrong = (RULES[element.kind] as (element: Element) => string | null)(element);
  if (wrong) throw new CircuitError(`${element.id}: ${wrong}.`);
}

/**
 * Conductor sizes that the product offers, and their resistance.
 *
 * Metric sizes: IEC 60228 class 5 (flexible) and class 1 (solid), maximum resistance at 20 C.
 * AWG sizes: ASTM B258 for the diameter, copper at 100 % IACS (IEC 60028) for the resistivity.
 */

/** Maximum resistance at 20 C in ohm per kilometre, IEC 60228, class 5. */
const FLEXIBLE: Record<string, number> = { "0.5": 39.0, "0.75": 26.0, "1": 19.5, "1.5": 13.3, "2.5": 7.98 };

/** Maximum resistance at 20 C in ohm per kilometre, IEC 60228, class 1. */
const SOLID: Record<string, number> = { "0.5": 36.0, "0.75": 24.5, "1": 18.1, "1.5": 12.1, "2.5": 7.41 };

/** Resistivity of annealed copper at 20 C in ohm metre, IEC 60028. */
const COPPER_RESISTIVITY = 1.7241e-8;

export const GAUGES = [
  "0.5 mm2",
  "0.75 mm2",
  "1 mm2",
  "1.5 mm2",
  "2.5 mm2",
  "AWG 18",
  "AWG 20",
  "AWG 22",
  "AWG 24",
  "AWG 26",
  "AWG 28",
] as const;

export type Gauge = (typeof GAUGES)[number];

/**
 * Diameter of a round wire by its American gauge number.
 *
 * Source: ASTM B258, d = 0.127 mm x 92^((36 - n) / 39).
 * @param awg gauge number, 0 to 40
 * @returns diameter in metres
 * @throws {RangeError} when the number is not between 0 and 40
 * @example awgDiameter(24) // 0.0005106
 */
export function awgDiameter(awg: number): number {
  if (!(awg >= 0 && awg <= 40)) throw new RangeError(`AWG ${awg} is not between 0 and 40.`);
  return 0.127e-3 * 92 ** ((36 - awg) / 39);
}

/**
 * Resistance of one metre of round copper wire by its American gauge number, solid conductor at 20 C.
 *
 * @returns ohms per metre
 * @throws {RangeError} when the number is not between 0 and 40
 * @example awgOhmsPerMetre(24) // 0.0842
 */
export function awgOhmsPerMetre(awg: number): number {
  const radius = awgDiameter(awg) / 2;
  return COPPER_RESISTIVITY / (Math.PI * radius * radius);
}

/**
 * Resistance of one metre of copper by its metric cross-section.
 *
 * @param mm2 nominal cross-section in square millimetres, one of IEC 60228's
 * @param build flexible (class 5) or solid (class 1)
 * @returns ohms per metre at 20 C
 * @throws {RangeError} when the table has no such size
 * @example metricOhmsPerMetre(0.5, "flexible") // 0.039
 */
export function metricOhmsPerMetre(mm2: number, build: "flexible" | "solid"): number {
  const table = build === "flexible" ? FLEXIBLE : SOLID;
  const ohmsPerKilometre = table[String(mm2)];
  if (ohmsPerKilometre === undefined) {
    throw new RangeError(`IEC 60228 has no figure here for ${mm2} mm2; take one of ${Object.keys(table).join(", ")}.`);
  }
  return ohmsPerKilometre / 1000;
}

/**
 * Resistance of one metre of a gauge from the product's list (metric sizes are flexible).
 *
 * @returns ohms per metre at 20 C
 * @example ohmsPerMetre("AWG 24") // 0.0842
 */
export function ohmsPerMetre(gauge: Gauge): number {
  const number = Number.parseFloat(gauge.replace("AWG", ""));
  return gauge.startsWith("AWG") ? awgOhmsPerMetre(number) : metricOhmsPerMetre(number, "flexible");
}

/**
 * Cross-section of a gauge, square millimetres.
 * @example squareMillimetres("AWG 24") // 0.2047
 */
export function squareMillimetres(gauge: Gauge): number {
  const [, awg] = /^AWG (\d+)$/.exec(gauge) ?? [];
  if (awg === undefined) return Number.parseFloat(gauge);
  const radius = (awgDiameter(Number(awg)) * 1000) / 2;
  return Math.PI * radius * radius;
}

/** How much warmer than the air around it a wire may become, kelvin: PVC bears 70 C, and below a layout it is warm (common practice). */
export const MAY_RISE = 30;

/** Air beneath a layout, degrees Celsius (common practice). */
const AIR_CELSIUS = 25;

/** Copper's resistance grows by this share for each kelvin above 20 C (IEC 60028). */
const COPPER_PER_KELVIN = 0.00393;

/** Heat that leaves each square metre of a thin wire's outside by air and radiation, watts per kelvin (from memory: 12 to 20 in still air). */
const WATTS_PER_SQUARE_METRE_KELVIN = 15;

/** Thickness of PVC around a conductor, metres: hook-up wire by AWG, and flexible wire by its area (from memory). */
const WALL_AWG = 0.4e-3;
const WALL_METRIC: readonly [mostSquare: number, wall: number][] = [
  [1, 0.6e-3],
  [1.5, 0.7e-3],
  [2.5, 0.8e-3],
];

/**
 * What is left of a wire's current when so many wires of a bundle are loaded alike (IEC 60364-5-52, table B.52.17, bunched; from
 * memory): the first figure at or above the number counts.
 */
const BUNCHED: readonly [wires: number, share: number][] = [
  [1, 1],
  [2, 0.8],
  [3, 0.7],
  [4, 0.65],
  [5, 0.6],
  [6, 0.57],
  [7, 0.54],
  [8, 0.52],
  [9, 0.5],
  [12, 0.45],
  [16, 0.41],
  [20, 0.38],
];

/** Heat that one metre of an insulated wire gives to still air, watts per kelvin. */
function wattsPerMetreKelvin(gauge: Gauge): number {
  const square = squareMillimetres(gauge);
  const isAwg = gauge.startsWith("AWG");
  // a flexible conductor is a quarter thicker than a solid one of its copper
  const conductor = Math.sqrt((4 * square) / Math.PI) * 1e-3 * (isAwg ? 1 : 1.12);
  const wall = isAwg ? WALL_AWG : (WALL_METRIC.find(([most]) => square <= most)?.[1] ?? 1e-3);
  return Math.PI * (conductor + 2 * wall) * WATTS_PER_SQUARE_METRE_KELVIN;
}

/** What is left of a current in a bundle of so many loaded wires, 0 to 1. */
function bunchedShare(together: number): number {
  return BUNCHED.find(([wires]) => wires >= together)?.[1] ?? 0.38;
}

/**
 * How much warmer than the air a wire becomes that carries a current for ever, kelvin: its heat, which grows with its own
 * resistance as it warms, leaves by its outside. In a bundle it is as warm as one alone that carries more.
 * @param together wires of the bundle that are loaded alike; 1 for a wire by itself
 * @returns infinite where it would warm ever further
 * @example temperatureRise("AWG 24", 3) // 13
 */
export function temperatureRise(gauge: Gauge, amps: number, together = 1): number {
  const alone = amps / bunchedShare(together);
  const cold = alone ** 2 * ohmsPerMetre(gauge);
  const leaves = wattsPerMetreKelvin(gauge) - cold * COPPER_PER_KELVIN;
  return leaves > 0 ? (cold * (1 + COPPER_PER_KELVIN * (AIR_CELSIUS - 20))) / leaves : Number.POSITIVE_INFINITY;
}

/**
 * Current that a wire of a gauge may carry for ever, amps: the one by which it becomes 30 K warmer than the air. Local code may
 * ask for less.
 * @param together wires of a bundle that are loaded alike; 1 for a wire by itself
 * @example continuousAmps("0.5 mm2") // 8.2
 * @example continuousAmps("AWG 24", 8) // 2.3
 */
export function continuousAmps(gauge: Gauge, together = 1): number {
  return (ALONE.get(gauge) ?? alone(gauge)) * bunchedShare(together);
}

/** What a wire by itself may carry for ever, amps. */
function alone(gauge: Gauge): number {
  const warm = ohmsPerMetre(gauge) * (1 + COPPER_PER_KELVIN * (AIR_CELSIUS + MAY_RISE - 20));
  return Math.sqrt((MAY_RISE * wattsPerMetreKelvin(gauge)) / warm);
}

const ALONE: ReadonlyMap<Gauge, number> = new Map(GAUGES.map((gauge) => [gauge, alone(gauge)]));

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

/** Current that a single wire may carry for ever, amps for each square millimetre (common practice; cooler in a bundle). */
const AMPS_PER_SQUARE_MILLIMETRE = 10;

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

/**
 * Current that a single wire of a gauge may carry for ever, amps.
 *
 * Common practice, 10 A for each square millimetre; local code may ask for less.
 * @example continuousAmps("0.5 mm2") // 5
 */
export function continuousAmps(gauge: Gauge): number {
  return squareMillimetres(gauge) * AMPS_PER_SQUARE_MILLIMETRE;
}

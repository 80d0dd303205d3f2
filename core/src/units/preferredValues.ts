/** Preferred numbers of IEC 60063 within one decade. */
export const SERIES = {
  E12: [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82],
  E24: [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91],
} as const;

export type Series = keyof typeof SERIES;

/** A value that misses a preferred one by no more than arithmetic does counts as that one. */
const ROUNDING = 1e-9;

/**
 * The preferred value at or next above a resistance.
 *
 * Source: IEC 60063, series E12 and E24.
 * @param ohms above zero
 * @throws {RangeError} when the resistance is not above zero and finite
 * @example preferredAtLeast(272.7, "E24") // 300
 */
export function preferredAtLeast(ohms: number, series: Series): number {
  if (!(ohms > 0 && ohms < Number.POSITIVE_INFINITY)) throw new RangeError(`${ohms} ohm is no resistance above zero.`);
  const decade = Math.floor(Math.log10(ohms * (1 - ROUNDING)));
  for (const power of [decade - 1, decade]) {
    for (const step of SERIES[series]) {
      const value = Number((step * 10 ** power).toPrecision(2));
      if (value >= ohms * (1 - ROUNDING)) return value;
    }
  }
  return Number((10 ** (decade + 1)).toPrecision(2));
}

/**
 * The preferred value at or next below a resistance.
 *
 * @param ohms above zero
 * @throws {RangeError} when the resistance is not above zero and finite
 * @example preferredAtMost(272.7, "E24") // 270
 */
export function preferredAtMost(ohms: number, series: Series): number {
  const above = preferredAtLeast(ohms, series);
  if (above <= ohms * (1 + ROUNDING)) return above;
  const decade = 10 ** Math.floor(Math.log10(above * (1 + ROUNDING)));
  const steps = SERIES[series];
  const place = steps.findIndex((step) => Math.abs((step / 10) * decade - above) < above * ROUNDING);
  const [below, power] = place > 0 ? [steps[place - 1] as number, decade] : [steps.at(-1) as number, decade / 10];
  return Number(((below / 10) * power).toPrecision(2));
}

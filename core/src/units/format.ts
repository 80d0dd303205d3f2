/** Numbers as the trade writes them: the unit spelt, as many digits as a hand-held meter shows. */

const MINUS = "−";

/** Rounds to `digits` decimals and sets a true minus sign; never "−0". */
function fixed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? text.replace("-", "") : text.replace("-", MINUS);
}

/**
 * Volts with one decimal, two below 1 V.
 * @example volts(11.24) // "11.2 V"
 */
export function volts(value: number): string {
  return `${fixed(value, Math.abs(value) > 0 && Math.abs(value) < 0.995 ? 2 : 1)} V`;
}

/**
 * A current in mA below 1 A, else in A.
 * @example amps(0.0147) // "14.7 mA"
 * @example amps(4.312) // "4.31 A"
 */
export function amps(value: number): string {
  if (Math.abs(value) >= 0.9995) return `${fixed(value, 2)} A`;
  return milliamps(value * 1000);
}

/**
 * A current given in milliamps, always shown as such.
 * @example milliamps(14.7) // "14.7 mA"
 */
export function milliamps(value: number): string {
  return `${fixed(value, Math.abs(value) >= 99.95 ? 0 : 1)} mA`;
}

/**
 * A resistance in ohm or kohm.
 * @example ohms(4.5) // "4.5 ohm"
 * @example ohms(1500) // "1.50 kohm"
 */
export function ohms(value: number): string {
  if (value >= 999.5e3) return `${fixed(value / 1e6, 2)} Mohm`;
  if (value >= 999.5) return `${fixed(value / 1000, 2)} kohm`;
  if (value >= 99.95) return `${fixed(value, 0)} ohm`;
  return `${fixed(value, value < 0.995 ? 2 : 1)} ohm`;
}

/**
 * An energy in joules.
 * @example joules(0.4541) // "0.45 J"
 */
export function joules(value: number): string {
  return `${fixed(value, 2)} J`;
}

/**
 * A short time in milliseconds.
 * @example milliseconds(0.0094) // "9.4 ms"
 */
export function milliseconds(seconds: number): string {
  return `${fixed(seconds * 1000, seconds < 0.00995 ? 1 : 0)} ms`;
}

/**
 * A power.
 * @example watts(0.166) // "166 mW", watts(4.3) // "4.3 W"
 */
export function watts(value: number): string {
  return Math.abs(value) < 0.9995 ? `${fixed(value * 1000, 0)} mW` : `${fixed(value, 1)} W`;
}

/**
 * A time in seconds.
 * @example seconds(1.44) // "1.4 s"
 */
export function seconds(value: number): string {
  return `${fixed(value, value < 9.95 ? 1 : 0)} s`;
}

/**
 * A list in words.
 * @example list(["T1", "T2", "T3"]) // "T1, T2 and T3"
 */
export function list(words: readonly string[], last: "and" | "or" = "and"): string {
  if (words.length < 2) return words.join("");
  return `${words.slice(0, -1).join(", ")} ${last} ${words.at(-1)}`;
}

/**
 * A count with its noun.
 * @example count(1, "motor") // "1 motor"
 * @example count(2, "motor") // "2 motors"
 */
export function count(number: number, noun: string, plural = `${noun}s`): string {
  return `${number} ${number === 1 ? noun : plural}`;
}

/**
 * A size of data.
 * @example bytes(812) // "812 bytes"
 * @example bytes(45_300) // "45 kB"
 * @example bytes(2_340_000) // "2.3 MB"
 */
export function bytes(value: number): string {
  if (value >= 999_500) return `${fixed(value / 1e6, 1)} MB`;
  return value >= 1000 ? `${fixed(value / 1000, 0)} kB` : count(value, "byte");
}

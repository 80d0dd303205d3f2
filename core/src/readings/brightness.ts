/**
 * Exponent by which the brightness of a small light is felt to grow with its luminous intensity, which in an LED goes with its current.
 *
 * Source: Stevens, "The psychophysics of sensory function", 1960, brightness of a point source: 0.5 (from memory).
 */
const FELT = 0.5;

/** Current below which a lamp looks less than half as bright as at another, amps: that is called dim. */
export function dimBelow(ratedAmps: number): number {
  return ratedAmps * 0.5 ** (1 / FELT);
}

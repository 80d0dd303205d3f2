import type { Pulse } from "../readings/pulse.ts";
import { amps, joules, milliseconds } from "../units/format.ts";

/**
 * What a coil gets of a pulse, as part of a sentence.
 * @example "0.35 J in 30 ms", "950 mA at most, where its slug moves from 1.20 A"
 */
export function pulseWords({ joules: gets, peakAmps, secondsAboveHalf, curve }: Pulse): string {
  return peakAmps < curve.moveAmps
    ? `${amps(peakAmps)} at most, where its slug moves from ${amps(curve.moveAmps)}`
    : `${joules(gets)} in ${milliseconds(secondsAboveHalf)}`;
}

import type { Gauge } from "../units/gauge.ts";
import { squareMillimetres } from "../units/gauge.ts";

// What a piece or a metre roughly costs, in any currency: from memory, to tell dear from cheap before anything is asked for
// in a shop. The owner sets his own in the stock.

/** A metre of single wire: a little for the insulation, the rest by its copper. */
export function wirePrice(gauge: Gauge): number {
  return 0.12 + 0.28 * squareMillimetres(gauge);
}

/** A metre of cable: as its cores, and its jacket. */
export function cablePrice(cores: number, gauge: Gauge): number {
  return 0.3 + cores * (0.05 + 0.25 * squareMillimetres(gauge));
}

/** A strip of screw terminals, or a plug and its socket, which cost about twice as much. */
export function stripPrice(ways: number, isPlug: boolean): number {
  return (0.5 + 0.2 * ways) * (isPlug ? 2 : 1);
}

export const FERRULE_PRICE = 0.03;
export const SLEEVE_PRICE = 0.05;
export const SPLICE_PRICE = 0.2;
export const LABEL_PRICE = 0.02;
export const PLASTIC_PRICE = 0.15;

import { figureValue, genericType } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { sourceOf } from "../catalogue/source.ts";

/**
 * How long a discharge unit takes after a press until its capacitor holds a share of its volts again: they rise as 1 - e^(-t / RC).
 * @param share of the volts of a full charge; from 1 on it never does
 * @returns seconds
 */
export function secondsToRecover(type: DeviceType, share: number): number {
  return share >= 1 ? Number.POSITIVE_INFINITY : -timeConstant(type) * Math.log(1 - Math.max(0, share));
}

/**
 * The same through a transistor that holds the resistor's first current until the capacitor is full: volts rise evenly, as t / RC.
 * @returns seconds
 */
export function secondsToRecoverHeld(type: DeviceType, share: number): number {
  return share >= 1 ? Number.POSITIVE_INFINITY : timeConstant(type) * Math.max(0, share);
}

/** Seconds in which a discharge unit has filled by 63 %, through its charging resistor. */
export function timeConstant(type: DeviceType): number {
  return figureValue(type, "chargeOhms") * figureValue(type, "farads");
}

/** What a discharge unit is charged to by its usual supply, volts: the peak with nothing on it, less two junctions (common practice). */
export function usualChargeVolts(): number {
  const supply = genericType("ac-16");
  if (!supply) throw new Error('Catalogue: there is no "ac-16".');
  return sourceOf(supply).openVolts * Math.SQRT2 - 1.4;
}

/** Volts below which a charged capacitor is taken to be safe to touch with a tool (common practice). */
export const SAFE_VOLTS = 5;

/** Seconds until what leaks across a capacitor has brought it down to safe volts, its supply off. */
export function secondsToSafe(farads: number, bleedOhms: number, volts: number): number {
  return volts <= SAFE_VOLTS ? 0 : bleedOhms * farads * Math.log(volts / SAFE_VOLTS);
}

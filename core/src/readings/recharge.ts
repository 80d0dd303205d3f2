import { figureValue } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";

/**
 * How long a discharge unit takes after a press until a coil gets a share of the energy of a full charge: volts rise as
 * 1 - e^(-t / RC), and the energy with their square.
 * @param share of what it gets at a full charge, above 0; from 1 on it never does
 * @returns seconds
 */
export function secondsToRecover(type: DeviceType, share: number): number {
  if (share >= 1) return Number.POSITIVE_INFINITY;
  return -timeConstant(type) * Math.log(1 - Math.sqrt(Math.max(0, share)));
}

/**
 * The same through a transistor that holds the resistor's first current until the capacitor is full: volts rise evenly, as t / RC.
 * @returns seconds
 */
export function secondsToRecoverHeld(type: DeviceType, share: number): number {
  return share >= 1 ? Number.POSITIVE_INFINITY : timeConstant(type) * Math.sqrt(Math.max(0, share));
}

/** Seconds in which a discharge unit has filled by 63 %, through its charging resistor. */
export function timeConstant(type: DeviceType): number {
  return figureValue(type, "chargeOhms") * figureValue(type, "farads");
}

/** Volts below which a charged capacitor is taken to be safe to touch with a tool (common practice). */
export const SAFE_VOLTS = 5;

/** Seconds until what leaks across a capacitor has brought it down to safe volts, its supply off. */
export function secondsToSafe(farads: number, bleedOhms: number, volts: number): number {
  return volts <= SAFE_VOLTS ? 0 : bleedOhms * farads * Math.log(volts / SAFE_VOLTS);
}

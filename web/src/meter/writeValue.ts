import { type MeterReading, milliamps, ohms as ohmsText, volts as voltsText } from "@alderman/core";

/** How a value is written on a range of the meter; SI units. */
export const WRITE: Record<MeterReading["range"], (value: number) => string> = {
  V: voltsText,
  ohm: ohmsText,
  diode: voltsText,
  mA: (value) => milliamps(value * 1000),
};

import { amps, joules, milliseconds, ohms, volts, watts } from "./format.ts";

/** A figure of a type in the unit in which the trade writes it. @param unit in which it is stored */
export function figureWords(value: number, unit: string): string {
  switch (unit) {
    case "A":
      return amps(value);
    case "V":
      return volts(value);
    case "ohm":
      return ohms(value);
    case "F":
      return `${Number((value * 1e6).toPrecision(4))} uF`;
    case "H":
      return `${Number((value * 1e3).toPrecision(4))} mH`;
    case "J":
      return joules(value);
    case "W":
      return watts(value);
    case "s":
      return value < 0.1 ? milliseconds(value) : `${Number(value.toPrecision(3))} s`;
    default:
      return String(Number(value.toPrecision(4)));
  }
}

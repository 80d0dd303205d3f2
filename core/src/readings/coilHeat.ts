import { figureValue } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";

/** By how much the enamel and bobbin of a coil may be warmer than a warm room, kelvin (IEC 60085, class B of 130 C less 30 C, from memory). */
const BURNS_KELVIN = 100;

/** What a current that stays does to a coil. */
export interface CoilHeat {
  watts: number;
  /** By how much it is warmer in the end, kelvin; what burns before never gets there. */
  kelvin: number;
  /** Until it burns, seconds; null when it does not. */
  burnsAfter: number | null;
}

/**
 * How warm a coil becomes: as a body of one temperature, dT = P x R_th (1 - e^(-t / tau)).
 * @param amps effective, for ever
 */
export function coilHeat(type: DeviceType, amps: number): CoilHeat {
  const watts = amps ** 2 * figureValue(type, "coilOhms");
  const kelvin = watts * figureValue(type, "warmsKelvin");
  const burnsAfter =
    kelvin > BURNS_KELVIN ? -figureValue(type, "warmsSeconds") * Math.log(1 - BURNS_KELVIN / kelvin) : null;
  return { watts, kelvin, burnsAfter };
}

import { figureValue, genericType } from "../catalogue/catalogue.ts";
import { RECTIFIER } from "../circuit/elements.ts";
import { usualChargeVolts } from "../readings/recharge.ts";
import type { Firing } from "./proof.ts";

/** Ohms of wire to one coil and back: two metres of 0.5 mm2, flexible, each way (common practice). */
const WIRE_OHMS = 0.16;

/** The usual unit, coils and diodes of the catalogue, for what is worked out without a railway. */
export function usualFiring(): Firing {
  const coil = (figure: string) => usual("twin-coil-under-board", figure);
  return {
    farads: usual("cdu", "farads"),
    volts: usualChargeVolts(),
    seriesOhms: usual("cdu", "seriesOhms") + usual("push-button", "contactOhms"),
    diode: RECTIFIER,
    surgeAmps: usual("diode-board-8", "surgeAmps"),
    coil: {
      ohms: coil("coilOhms"),
      henries: coil("coilHenries"),
      wireOhms: WIRE_OHMS,
      moveAmps: coil("moveAmps"),
      leastJoules: coil("pulseJoules"),
    },
  };
}

/** A figure of a type of the catalogue. */
function usual(typeId: string, figure: string): number {
  const type = genericType(typeId);
  if (!type) throw new Error(`Catalogue: there is no "${typeId}".`);
  return figureValue(type, figure);
}

import { accessoryAddress } from "./accessoryAddress.ts";
import { accessoryPacket } from "./accessoryPacket.ts";
import { axleResistor } from "./axleResistor.ts";
import type { Calculator } from "./calculator.ts";
import { canLoad } from "./canLoad.ts";
import { cduPulse } from "./cduPulse.ts";
import { diodeMatrix } from "./diodeMatrix.ts";
import { ledCurrent } from "./ledCurrent.ts";
import { ledResistor } from "./ledResistor.ts";
import { nodeSwitches } from "./nodeSwitches.ts";
import { operatingPoint } from "./operatingPoint.ts";
import { resistorBands } from "./resistorBands.ts";
import { reversing } from "./reversing.ts";
import { routes } from "./routes.ts";
import { signalAspects } from "./signalAspects.ts";
import { wireDrop } from "./wireDrop.ts";

/** All calculators; the web's page, the HTTP route and the command are made from this list. */
export const CALCULATORS: readonly Calculator[] = [
  ledResistor,
  ledCurrent,
  resistorBands,
  axleResistor,
  wireDrop,
  cduPulse,
  operatingPoint,
  diodeMatrix,
  accessoryAddress,
  accessoryPacket,
  nodeSwitches,
  canLoad,
  routes,
  reversing,
  signalAspects,
];

/** A calculator by its name, or undefined. */
export function calculatorCalled(name: string): Calculator | undefined {
  return CALCULATORS.find((calculator) => calculator.name === name);
}

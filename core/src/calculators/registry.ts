import type { Calculator } from "./calculator.ts";
import { ledCurrent } from "./ledCurrent.ts";
import { ledResistor } from "./ledResistor.ts";

/** All calculators; the web's page, the HTTP route and the command are made from this list. */
export const CALCULATORS: readonly Calculator[] = [ledResistor, ledCurrent];

/** A calculator by its name, or undefined. */
export function calculatorCalled(name: string): Calculator | undefined {
  return CALCULATORS.find((calculator) => calculator.name === name);
}

import * as z from "zod/mini";
import { calculator } from "./calculator.ts";

const Input = z.strictObject({
  supplyVolts: z.number().check(z.positive(), z.lte(1000)),
  forwardVolts: z.number().check(z.positive(), z.lte(100)),
  ohms: z.number().check(z.positive(), z.lte(1e9)),
  ledsInSeries: z._default(z.int().check(z.gte(1), z.lte(100)), 1),
});

const Output = z.strictObject({ milliamps: z.number(), milliampsIgnoringForward: z.number() });

/** Current through LEDs in a row behind a resistor: I = (Vs - n Vf) / R (Ohm), none below n Vf; and what one gets by forgetting Vf. */
export const ledCurrent = calculator({
  name: "led-current",
  title: "Current through an LED",
  about: "What flows through a resistor and an LED, and the usual mistake beside it: supply volts divided by ohms.",
  fields: [
    { name: "supplyVolts", title: "Supply", unit: "V", example: 5 },
    { name: "forwardVolts", title: "Forward voltage of each LED", unit: "V", example: 2 },
    { name: "ohms", title: "Resistor", unit: "ohm", example: 450 },
    { name: "ledsInSeries", title: "LEDs in a row", unit: "", example: 1 },
  ],
  results: [
    { name: "milliamps", title: "Current", unit: "mA", digits: 2 },
    { name: "milliampsIgnoringForward", title: "Not, as if the LED took no volts", unit: "mA", digits: 2 },
  ],
  input: Input,
  output: Output,
  run: ({ supplyVolts, forwardVolts, ohms, ledsInSeries }) => ({
    milliamps: (Math.max(0, supplyVolts - ledsInSeries * forwardVolts) / ohms) * 1000,
    milliampsIgnoringForward: (supplyVolts / ohms) * 1000,
  }),
});

import * as z from "zod/mini";
import { preferredAtMost } from "../units/preferredValues.ts";
import { badInput, calculator } from "./calculator.ts";

const Input = z.strictObject({
  trackVolts: z.number().check(z.positive(), z.lte(30)),
  dropVolts: z._default(z.number().check(z.gte(0), z.lte(5)), 0.5),
  detectMilliamps: z.number().check(z.positive(), z.lte(1000)),
  spare: z._default(z.number().check(z.gte(1), z.lte(10)), 2),
  axles: z._default(z.int().check(z.gte(1), z.lte(50)), 1),
});

const Output = z.strictObject({
  ohms: z.number(),
  milliamps: z.number(),
  axleMilliwatts: z.number(),
  hundredAmps: z.number(),
});

/**
 * Resistor across the insulation of an axle, so that a current detector tells the vehicle: R = n (Vtrack - Vdrop) / (spare x Idetect),
 * next value of E24 (IEC 60063) at or below. Spare: dirt, oxide on wheels and the detector's own tolerance (common practice: 2).
 */
export const axleResistor = calculator({
  name: "axle-resistor",
  title: "Resistor on an axle",
  about: "The largest standard resistor with which a current detector still tells a vehicle without a motor.",
  fields: [
    { name: "trackVolts", title: "Track, amplitude", unit: "V", example: 15 },
    { name: "dropVolts", title: "Lost in the detector", unit: "V", example: 0.5 },
    { name: "detectMilliamps", title: "Detector tells a train from", unit: "mA", example: 1 },
    { name: "spare", title: "Times as much, to be sure", unit: "", example: 2 },
    { name: "axles", title: "Axles with a resistor on a vehicle", unit: "", example: 1 },
  ],
  results: [
    { name: "ohms", title: "Take", unit: "ohm", digits: 0 },
    { name: "milliamps", title: "Current of a vehicle", unit: "mA", digits: 2 },
    { name: "axleMilliwatts", title: "Heat in each resistor", unit: "mW", digits: 0 },
    { name: "hundredAmps", title: "A hundred vehicles take", unit: "A", digits: 2 },
  ],
  input: Input,
  output: Output,
  run: ({ trackVolts, dropVolts, detectMilliamps, spare, axles }) => {
    const left = trackVolts - dropVolts;
    if (left <= 0)
      throw badInput(`The track must have more than the ${dropVolts} V that the detector takes.`, ["trackVolts"]);
    const ohms = preferredAtMost((axles * left) / ((spare * detectMilliamps) / 1000), "E24");
    const each = left / ohms;
    return {
      ohms,
      milliamps: each * axles * 1000,
      axleMilliwatts: each * left * 1000,
      hundredAmps: each * axles * 100,
    };
  },
});

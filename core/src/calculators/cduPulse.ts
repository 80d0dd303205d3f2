import * as z from "zod/mini";
import { calculator } from "./calculator.ts";

const Input = z.strictObject({
  microfarads: z.number().check(z.positive(), z.lte(1e6)),
  chargeVolts: z.number().check(z.positive(), z.lte(100)),
  coilOhms: z.number().check(z.positive(), z.lte(1e6)),
  coils: z.int().check(z.gte(1), z.lte(100)),
  wireOhms: z._default(z.number().check(z.gte(0), z.lte(1e6)), 0),
});

const Output = z.strictObject({
  storedJoules: z.number(),
  peakAmpsPerCoil: z.number(),
  timeConstantMilliseconds: z.number(),
  joulesPerCoil: z.number(),
});

/**
 * What equal coils get of one capacitor fired into all of them: E = C V^2 / 2, shared out, each coil's share of it that is
 * not lost in its own wire; tau = R C with R = (coil + wire) / coils. Source: RC discharge.
 */
export const cduPulse = calculator({
  name: "cdu-pulse",
  title: "Pulse of a discharge unit",
  about: "What each of several coils gets when one capacitor is fired into them.",
  fields: [
    { name: "microfarads", title: "Capacitor", unit: "uF", example: 4700 },
    { name: "chargeVolts", title: "Charged to", unit: "V", example: 22 },
    { name: "coils", title: "Coils fired together", unit: "", example: 2 },
    { name: "coilOhms", title: "One coil", unit: "ohm", example: 4 },
    { name: "wireOhms", title: "Wire of one coil, there and back", unit: "ohm", example: 1.01 },
  ],
  results: [
    { name: "joulesPerCoil", title: "Each coil gets", unit: "J", digits: 3 },
    { name: "peakAmpsPerCoil", title: "At first", unit: "A", digits: 2 },
    { name: "timeConstantMilliseconds", title: "Falls by e in", unit: "ms", digits: 1 },
    { name: "storedJoules", title: "Stored in all", unit: "J", digits: 3 },
  ],
  input: Input,
  output: Output,
  run: ({ microfarads, chargeVolts, coilOhms, coils, wireOhms }) => {
    const farads = microfarads * 1e-6;
    const path = coilOhms + wireOhms;
    const storedJoules = (farads * chargeVolts ** 2) / 2;
    return {
      storedJoules,
      peakAmpsPerCoil: chargeVolts / path,
      timeConstantMilliseconds: (path / coils) * farads * 1000,
      joulesPerCoil: (storedJoules / coils) * (coilOhms / path),
    };
  },
});

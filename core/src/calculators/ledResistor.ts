import * as z from "zod/mini";
import { preferredAtLeast } from "../units/preferredValues.ts";
import { badInput, calculator } from "./calculator.ts";

/** Ratings in which resistors are sold, watts. */
const RATINGS = [0.125, 0.25, 0.5, 1, 2, 5];

const Input = z.strictObject({
  supplyVolts: z.number().check(z.positive(), z.lte(1000)),
  forwardVolts: z.number().check(z.positive(), z.lte(100)),
  targetMilliamps: z.number().check(z.positive(), z.lte(100_000)),
  series: z._default(z.enum(["E12", "E24"]), "E24"),
  ledsInSeries: z._default(z.int().check(z.gte(1), z.lte(100)), 1),
});

const Output = z.strictObject({
  idealOhms: z.number(),
  chosenOhms: z.number(),
  milliamps: z.number(),
  resistorMilliwatts: z.number(),
  ratedWatts: z.number(),
});

/** Series resistor of one or more LEDs in a row: R = (Vs - n Vf) / I (Ohm), next value of IEC 60063 at or above; rating at least twice the dissipation (common practice). */
export const ledResistor = calculator({
  name: "led-resistor",
  title: "Resistor for an LED",
  about: "The next standard resistor that lets no more than the wanted current through.",
  fields: [
    { name: "supplyVolts", title: "Supply", unit: "V", example: 5 },
    { name: "forwardVolts", title: "Forward voltage of each LED", unit: "V", example: 2 },
    { name: "targetMilliamps", title: "Wanted current", unit: "mA", example: 10 },
    { name: "ledsInSeries", title: "LEDs in a row", unit: "", example: 1 },
    { name: "series", title: "Series of values", unit: "", example: "E24", choices: ["E12", "E24"] },
  ],
  results: [
    { name: "chosenOhms", title: "Take", unit: "ohm", digits: 0 },
    { name: "idealOhms", title: "Exactly", unit: "ohm", digits: 1 },
    { name: "milliamps", title: "Current then", unit: "mA", digits: 2 },
    { name: "resistorMilliwatts", title: "Heat in the resistor", unit: "mW", digits: 0 },
    { name: "ratedWatts", title: "Rating to buy", unit: "W", digits: 3 },
  ],
  input: Input,
  output: Output,
  run: ({ supplyVolts, forwardVolts, targetMilliamps, series, ledsInSeries }) => {
    const left = supplyVolts - ledsInSeries * forwardVolts;
    if (left <= 0) {
      throw badInput(`The supply must be above the ${ledsInSeries * forwardVolts} V that the LEDs take.`, [
        "supplyVolts",
      ]);
    }
    const idealOhms = left / (targetMilliamps / 1000);
    const chosenOhms = preferredAtLeast(idealOhms, series);
    const milliamps = (left / chosenOhms) * 1000;
    const resistorMilliwatts = left * milliamps;
    const ratedWatts = RATINGS.find((rating) => rating >= (2 * resistorMilliwatts) / 1000);
    if (ratedWatts === undefined) {
      throw badInput(
        `The resistor would turn ${Math.round(resistorMilliwatts)} mW into heat; no common one bears twice that.`,
        ["targetMilliamps"],
      );
    }
    return { idealOhms, chosenOhms, milliamps, resistorMilliwatts, ratedWatts };
  },
});

import * as z from "zod/mini";
import { awgOhmsPerMetre, metricOhmsPerMetre } from "../units/gauge.ts";
import { badInput, calculator } from "./calculator.ts";

const Input = z.strictObject({
  lengthMetres: z.number().check(z.positive(), z.lte(10_000)),
  gauge: z.union([
    z.strictObject({ mm2: z.number().check(z.positive()), class: z.enum(["solid", "flexible"]) }),
    z.strictObject({ awg: z.number().check(z.gte(0), z.lte(40)) }),
  ]),
  amps: z.number().check(z.gte(0), z.lte(1000)),
  supplyVolts: z.number().check(z.positive(), z.lte(1000)),
});

const Output = z.strictObject({
  ohms: z.number(),
  dropVolts: z.number(),
  dropPercent: z.number(),
  loadVolts: z.number(),
});

const SIZES = ["0.5", "0.75", "1", "1.5", "2.5"].flatMap((mm2) => [`${mm2} mm2 flexible`, `${mm2} mm2 solid`]);
const AMERICAN = ["AWG 18", "AWG 20", "AWG 22", "AWG 24", "AWG 26", "AWG 28"];

/** What a pair of wires takes of a supply: U = I R, R there and back by IEC 60228 or ASTM B258 with IEC 60028. */
export const wireDrop = calculator({
  name: "wire-drop",
  title: "Volts lost in wire",
  about: "What a pair of wires takes of the supply, there and back.",
  fields: [
    { name: "lengthMetres", title: "Length, one way", unit: "m", example: 10 },
    { name: "gauge", title: "Wire", unit: "", example: "0.5 mm2 flexible", choices: [...SIZES, ...AMERICAN] },
    { name: "amps", title: "Current", unit: "A", example: 2 },
    { name: "supplyVolts", title: "Supply", unit: "V", example: 12 },
  ],
  results: [
    { name: "dropVolts", title: "Lost on the way", unit: "V", digits: 2 },
    { name: "dropPercent", title: "Of the supply", unit: "%", digits: 1 },
    { name: "loadVolts", title: "Left at the load", unit: "V", digits: 2 },
    { name: "ohms", title: "Resistance, there and back", unit: "ohm", digits: 3 },
  ],
  fromForm: (form) => ({ ...form, gauge: gaugeCalled(String(form.gauge)) }),
  input: Input,
  output: Output,
  run: ({ lengthMetres, gauge, amps, supplyVolts }) => {
    const ohms = 2 * lengthMetres * perMetre(gauge);
    const dropVolts = ohms * amps;
    if (dropVolts > supplyVolts) {
      const most = Number((supplyVolts / ohms).toPrecision(3));
      throw badInput(`The wire's ${Number(ohms.toPrecision(3))} ohm let no more than ${most} A through.`, ["amps"]);
    }
    return { ohms, dropVolts, dropPercent: (100 * dropVolts) / supplyVolts, loadVolts: supplyVolts - dropVolts };
  },
});

function perMetre(gauge: z.infer<typeof Input>["gauge"]): number {
  if ("awg" in gauge) return awgOhmsPerMetre(gauge.awg);
  try {
    return metricOhmsPerMetre(gauge.mm2, gauge.class);
  } catch (error) {
    throw badInput(error instanceof Error ? error.message : String(error), ["gauge", "mm2"]);
  }
}

function gaugeCalled(text: string): z.infer<typeof Input>["gauge"] {
  const [first = "", second = "", build] = text.split(" ");
  if (first === "AWG") return { awg: Number(second) };
  return { mm2: Number(first), class: build === "solid" ? "solid" : "flexible" };
}

import * as z from "zod/mini";
import { badInput, calculator } from "./calculator.ts";

/** Colours of the digits 0 to 9, and of multipliers from 1 up; IEC 60062. */
const DIGITS = ["black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white"] as const;
/** Colours of the multipliers below 1, by power of ten; IEC 60062. */
const BELOW_ONE: Record<number, string> = { [-1]: "gold", [-2]: "silver", [-3]: "pink" };
/** Colours of tolerances in percent; IEC 60062. */
const TOLERANCES: Record<string, string> = {
  "0.1": "violet",
  "0.25": "blue",
  "0.5": "green",
  "1": "brown",
  "2": "red",
  "5": "gold",
  "10": "silver",
};

const Input = z.strictObject({
  ohms: z.number().check(z.positive(), z.lte(99.9e9)),
  tolerancePercent: z.number().check(z.positive(), z.lte(20)),
  bands: z.union([z.literal(4), z.literal(5)]),
});

const Output = z.strictObject({ bands: z.array(z.string()) });

/** Colour bands of a resistor: two or three digits, multiplier, tolerance. Source: IEC 60062. */
export const resistorBands = calculator({
  name: "resistor-bands",
  title: "Colours of a resistor",
  about: "The bands to look for, before each value is checked with a meter.",
  fields: [
    { name: "ohms", title: "Value", unit: "ohm", example: 470 },
    { name: "tolerancePercent", title: "Tolerance", unit: "%", example: "5", choices: Object.keys(TOLERANCES) },
    { name: "bands", title: "Bands", unit: "", example: "4", choices: ["4", "5"] },
  ],
  results: [{ name: "bands", title: "Bands, from the end they stand closer to", unit: "", digits: 0 }],
  fromForm: (form) => ({ ...form, tolerancePercent: Number(form.tolerancePercent), bands: Number(form.bands) }),
  input: Input,
  output: Output,
  run: ({ ohms, tolerancePercent, bands }) => {
    const figures = bands - 2;
    const power = Math.floor(Math.log10(ohms) + 1e-12) - (figures - 1);
    const whole = ohms / 10 ** power;
    const digits = Math.round(whole);
    if (Math.abs(whole - digits) > 1e-6 * digits) {
      const near = Number((digits * 10 ** power).toPrecision(figures));
      const words = bands === 4 ? "Two digits" : "Three digits";
      throw badInput(`${words} cannot say ${ohms} ohm; the nearest they can say is ${near} ohm.`, ["ohms"]);
    }
    const multiplier = power >= 0 ? DIGITS[power] : BELOW_ONE[power];
    if (multiplier === undefined) throw badInput(`No colour stands for a multiplier of 10 to the ${power}.`, ["ohms"]);
    const tolerance = TOLERANCES[String(tolerancePercent)];
    if (tolerance === undefined) {
      throw badInput(`No colour stands for ${tolerancePercent} %; take one of ${Object.keys(TOLERANCES).join(", ")}.`, [
        "tolerancePercent",
      ]);
    }
    const colours = [...String(digits)].map((digit) => DIGITS[Number(digit)] ?? "black");
    return { bands: [...colours, multiplier, tolerance] };
  },
});

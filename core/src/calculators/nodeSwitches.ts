import * as z from "zod/mini";
import { nodeSwitches as set } from "../units/nodeSwitches.ts";
import { badInput, calculator } from "./calculator.ts";

const Bit = z.union([z.literal(0), z.literal(1)]);
const Input = z.strictObject({
  number: z.int(),
  bits: z.int().check(z.gte(1), z.lte(16)),
  onMeans: z.union([Bit, z.array(Bit)]),
  offset: z._default(z.int().check(z.gte(-65_535), z.lte(65_535)), 0),
});
const Output = z.strictObject({
  switches: z.array(z.strictObject({ bit: z.int(), weight: z.int(), position: z.enum(["on", "off"]) })),
});

/** How the switches of a node must be set for its number. */
export const nodeSwitches = calculator({
  name: "node-switches",
  title: "Switches of a node",
  about: "Which switches and jumpers must be on for a node's number, also where on stands for nothing.",
  fields: [
    { name: "number", title: "Number", unit: "", example: 14 },
    { name: "bits", title: "Switches", unit: "", example: 6 },
    {
      name: "onMeans",
      title: "On means, bit 0 first: 1, 0, or one for each",
      unit: "",
      example: "0 0 0 0 1 1",
      lines: 1,
    },
    { name: "offset", title: "All nothing is number", unit: "", example: 1 },
  ],
  results: [{ name: "switches", title: "Switches", unit: "", digits: 0 }],
  fromForm: (form) => {
    const each = String(form.onMeans ?? "")
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    return { ...form, onMeans: each.length === 1 ? each[0] : each };
  },
  input: Input,
  output: Output,
  run: ({ number, bits, onMeans, offset }) => {
    const meanings = typeof onMeans === "number" ? Array.from({ length: bits }, () => onMeans) : onMeans;
    if (meanings.length !== bits)
      throw badInput(`There are ${bits} switches, and ${meanings.length} of them are told of.`, ["onMeans"]);
    try {
      return { switches: set(number, meanings, offset) };
    } catch (error) {
      if (error instanceof RangeError) throw badInput(error.message, ["number"]);
      throw error;
    }
  },
});

import * as z from "zod/mini";
import { accessoryAddress as placed } from "../numbers/accessoryAddress.ts";
import { badInput, calculator } from "./calculator.ts";

export const Shift = z._default(z.union([z.literal(0), z.literal(4)]), 0);
const Input = z.strictObject({ address: z.int(), shift: Shift });
const Output = z.strictObject({ decoder: z.int(), pair: z.int(), raw: z.int() });

/** Choices of a form are words; the shift is a number. */
export const shiftOf = (form: Record<string, unknown>) => ({ ...form, shift: Number(form.shift) });

/** Says of an address that none can have where it is wrong. */
export function inRange<T>(make: () => T): T {
  try {
    return make();
  } catch (error) {
    if (error instanceof RangeError) throw badInput(error.message, ["address"]);
    throw error;
  }
}

/** Where an accessory address lands in the packets (NMRA S-9.2.1, RCN-213). */
export const accessoryAddress = calculator({
  name: "accessory-address",
  title: "Accessory address",
  about: "Decoder, pair and raw address of a number on the throttle, also for stations that count four off.",
  fields: [
    { name: "address", title: "Address", unit: "", example: 117 },
    { name: "shift", title: "The station stands off by", unit: "", example: "0", choices: ["0", "4"] },
  ],
  results: [
    { name: "decoder", title: "Decoder", unit: "", digits: 0 },
    { name: "pair", title: "Pair", unit: "", digits: 0 },
    { name: "raw", title: "Raw address", unit: "", digits: 0 },
  ],
  fromForm: shiftOf,
  input: Input,
  output: Output,
  run: ({ address, shift }) => inRange(() => placed(address, shift)),
});

import * as z from "zod/mini";
import { hexOf, accessoryPacket as made, packetBits } from "../numbers/packets.ts";
import { inRange } from "./accessoryAddress.ts";
import { calculator } from "./calculator.ts";

const Input = z.strictObject({
  address: z.int(),
  direction: z.enum(["straight", "diverging"]),
  active: z._default(z.boolean(), true),
});
const Output = z.strictObject({ bytes: z.array(z.string()), bits: z.string() });

/** A basic accessory packet, byte by byte (NMRA S-9.2.1, RCN-213). */
export const accessoryPacket = calculator({
  name: "accessory-packet",
  title: "Accessory packet",
  about: "The bytes and bits by which a command station throws a turnout.",
  fields: [
    { name: "address", title: "Address", unit: "", example: 117 },
    { name: "direction", title: "Direction", unit: "", example: "straight", choices: ["straight", "diverging"] },
    { name: "active", title: "Output", unit: "", example: "on", choices: ["on", "off"] },
  ],
  results: [
    { name: "bytes", title: "Bytes, the last one to check the others", unit: "", digits: 0 },
    { name: "bits", title: "Bits between preamble and end", unit: "", digits: 0 },
  ],
  fromForm: (form) => ({ ...form, active: form.active === "on" }),
  input: Input,
  output: Output,
  run: ({ address, direction, active }) => {
    const packet = inRange(() => made(address, 0, direction, active));
    return { bytes: packet.bytes.map(hexOf), bits: packetBits(packet) };
  },
});

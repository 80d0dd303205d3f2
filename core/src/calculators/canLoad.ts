import * as z from "zod/mini";
import { frameBits } from "../numbers/busLoad.ts";
import { calculator } from "./calculator.ts";

const Input = z.strictObject({
  bitRate: z.number().check(z.positive(), z.lte(1_000_000)),
  dataBytes: z.int().check(z.gte(0), z.lte(8)),
  identifierBits: z.union([z.literal(11), z.literal(29)]),
  framesPerSecond: z.number().check(z.gte(0), z.lte(100_000)),
  burstFrames: z.int().check(z.gte(0), z.lte(1_000_000)),
});
const Output = z.strictObject({
  worstCaseBits: z.int(),
  maxFramesPerSecond: z.number(),
  loadPercent: z.number(),
  burstMilliseconds: z.number(),
});

/** How full a control bus is at worst (ISO 11898). */
export const canLoad = calculator({
  name: "can-load",
  title: "Load of a control bus",
  about: "Frames that a bus can carry at worst, the share in use, and how long a start of day takes.",
  fields: [
    { name: "bitRate", title: "Bit rate", unit: "bit/s", example: 125_000 },
    { name: "dataBytes", title: "Data in a frame", unit: "byte", example: 8 },
    { name: "identifierBits", title: "Identifier", unit: "", example: "29", choices: ["11", "29"] },
    { name: "framesPerSecond", title: "Frames in a second", unit: "", example: 20 },
    { name: "burstFrames", title: "Frames of a start of day", unit: "", example: 60 },
  ],
  results: [
    { name: "loadPercent", title: "In use", unit: "%", digits: 2 },
    { name: "worstCaseBits", title: "Longest frame", unit: "bit", digits: 0 },
    { name: "maxFramesPerSecond", title: "Most frames in a second", unit: "", digits: 1 },
    { name: "burstMilliseconds", title: "The start of day takes", unit: "ms", digits: 1 },
  ],
  fromForm: (form) => ({ ...form, identifierBits: Number(form.identifierBits) }),
  input: Input,
  output: Output,
  run: ({ bitRate, dataBytes, identifierBits, framesPerSecond, burstFrames }) => {
    const worstCaseBits = frameBits(identifierBits, dataBytes);
    return {
      worstCaseBits,
      maxFramesPerSecond: bitRate / worstCaseBits,
      loadPercent: ((framesPerSecond * worstCaseBits) / bitRate) * 100,
      burstMilliseconds: ((burstFrames * worstCaseBits) / bitRate) * 1000,
    };
  },
});

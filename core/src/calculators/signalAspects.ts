import * as z from "zod/mini";
import { ASPECTS, signalsAlong } from "../line/aspects.ts";
import { badInput, calculator } from "./calculator.ts";

const Block = z.strictObject({
  id: z.string().check(z.minLength(1), z.maxLength(40)),
  occupied: z.boolean(),
  held: z.boolean(),
});
const Input = z.strictObject({
  blocks: z.array(Block).check(z.maxLength(2_000)),
  loop: z.boolean(),
  beyond: z.enum(["clear", "occupied"]),
});
const Output = z.strictObject({ aspects: z.record(z.string(), z.enum(ASPECTS)) });

/** What three-aspect signals show along a line of blocks. */
export const signalAspects = calculator({
  name: "signal-aspects",
  title: "Aspects of block signals",
  about:
    "What the signal at the end of each block shows: red before an occupied block or when held, yellow before a red one.",
  fields: [
    {
      name: "blocks",
      title: "Blocks in the order of travel, one a line: name, occupied, held",
      unit: "",
      example: "A\nB\nC occupied\nD held",
      lines: 4,
    },
    { name: "loop", title: "After the last comes the first", unit: "", example: "no", choices: ["no", "yes"] },
    { name: "beyond", title: "Beyond the last", unit: "", example: "clear", choices: ["clear", "occupied"] },
  ],
  results: [{ name: "aspects", title: "Aspects", unit: "", digits: 0 }],
  fromForm: (form) => {
    const lines = String(form.blocks ?? "")
      .split("\n")
      .map((line) => line.trim().split(/[\s,]+/));
    const blocks = lines.flatMap(([id = "", ...words]) =>
      id === "" ? [] : [{ id, occupied: words.includes("occupied"), held: words.includes("held") }],
    );
    return { ...form, blocks, loop: form.loop === "yes" };
  },
  input: Input,
  output: Output,
  run: ({ blocks, loop, beyond }) => {
    const names = new Set<string>();
    for (const [index, { id }] of blocks.entries()) {
      if (names.has(id)) throw badInput(`Two blocks are called ${id}.`, ["blocks", index, "id"]);
      names.add(id);
    }
    const shown = signalsAlong(blocks, loop, beyond);
    return { aspects: Object.fromEntries([...shown].map(([id, { aspect }]) => [id, aspect])) };
  },
});

import * as z from "zod/mini";
import { reversing as lookAt } from "../line/reversing.ts";
import { calculator } from "./calculator.ts";
import { LINE_FIELDS, LineInput, lineFromForm, requireLine } from "./lineInput.ts";

const Output = z.strictObject({ conflict: z.boolean(), cut: z.array(z.tuple([z.string(), z.string()])) });

/** Whether a line turns trains, and where it has to be cut. */
export const reversing = calculator({
  name: "reversing",
  title: "Reversing sections of a line",
  about: "Whether some way round joins each rail to the other, and the fewest links to cut so that none does.",
  fields: LINE_FIELDS,
  results: [
    { name: "conflict", title: "Rails meet their opposites", unit: "", digits: 0 },
    { name: "cut", title: "Links to cut", unit: "", digits: 0 },
  ],
  fromForm: lineFromForm,
  input: LineInput,
  output: Output,
  run: (given) => {
    const { conflict, cut } = lookAt(requireLine(given));
    return { conflict, cut };
  },
});

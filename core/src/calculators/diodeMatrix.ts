import * as z from "zod/mini";
import { faultOfWishes, matrixOf } from "../routes/matrix.ts";
import { badInput, calculator } from "./calculator.ts";

const Name = z.string().check(z.minLength(1), z.maxLength(40));
const Link = z.tuple([z.string(), z.string()]);
const MOST = { buttons: 200, coils: 400 };

const Input = z.strictObject({ buttons: z.record(Name, z.array(Name).check(z.maxLength(MOST.coils))) });
const Output = z.strictObject({
  links: z.int(),
  plain: z.array(Link),
  diodes: z.array(Link),
  sneak: z.record(z.string(), z.array(z.string())),
});

/** Which links of route buttons to coils need a diode, and what would happen without. */
export const diodeMatrix = calculator({
  name: "diode-matrix",
  title: "Diodes of route buttons",
  about:
    "Which links from buttons to coils may be plain wires and which need a diode, and which coils would move too if all were wires.",
  fields: [
    {
      name: "buttons",
      title: "Buttons, one a line: its name, a colon, the coils that it energises",
      unit: "",
      example: "Road 1: Y1R\nRoad 2: Y1N Y2R\nRoad 3: Y1N Y2N Y3R\nRoad 4: Y1N Y2N Y3N",
      lines: 5,
    },
  ],
  results: [
    { name: "links", title: "Links", unit: "", digits: 0 },
    { name: "plain", title: "Plain wires", unit: "", digits: 0 },
    { name: "diodes", title: "Diodes", unit: "", digits: 0 },
    { name: "sneak", title: "Energised besides, without diodes", unit: "", digits: 0 },
  ],
  fromForm: (form) => {
    const lines = String(form.buttons ?? "")
      .split("\n")
      .map((line) => line.trim())
      .filter((line) => line !== "");
    const seen = new Set<string>();
    const entries = lines.map((line): [string, string[]] => {
      const colon = line.indexOf(":");
      if (colon < 1) throw badInput(`"${line}" has no colon after the button's name.`, ["buttons"]);
      const button = line.slice(0, colon).trim();
      if (seen.has(button)) throw badInput(`Two buttons are called ${button}.`, ["buttons"]);
      seen.add(button);
      return [
        button,
        line
          .slice(colon + 1)
          .split(/[\s,]+/)
          .filter((word) => word !== ""),
      ];
    });
    return { buttons: Object.fromEntries(entries) };
  },
  input: Input,
  output: Output,
  run: ({ buttons }) => {
    const wishes = Object.entries(buttons).map(([button, coils]) => ({ button, coils }));
    if (wishes.length > MOST.buttons) throw badInput(`There are more than ${MOST.buttons} buttons.`, ["buttons"]);
    const fault = faultOfWishes(wishes);
    if (fault) throw badInput(fault.message, ["buttons", ...fault.path]);
    const { links, plain, diodes, sneak } = matrixOf(wishes);
    const paired = (all: typeof links) => all.map(([button, coil]): [string, string] => [button, coil]);
    return { links: links.length, plain: paired(plain), diodes: paired(diodes), sneak: Object.fromEntries(sneak) };
  },
});

import type { Wire } from "../loom/wire.ts";
import { list } from "../units/format.ts";
import {
  isCodeReadable,
  type LabelSheet,
  type LabelStyle,
  type LabelText,
  placeLabels,
  settingOf,
} from "./labelSheets.ts";
import type { Paper } from "./paper.ts";

/** How labels are printed. */
export interface LabelChoice {
  sheet: LabelSheet;
  style: LabelStyle;
  /** With a QR code that says the same, and at which end it is. */
  code: boolean;
  /** Labels that are gone from the first sheet already. */
  used: number;
}

/**
 * Labels for both ends of wires, the two of a wire beside each other: each says which wire it is and where its other end
 * goes. Those that cannot be read at the size of the label are named in a warning.
 * @throws {RangeError} when the sheet's measures contradict each other
 */
export function wireLabels(wires: readonly Wire[], { sheet, style, code, used }: LabelChoice): Paper {
  const texts = wires.flatMap(({ flags, from, to }) => [
    labelText(flags[0], from.name, code),
    labelText(flags[1], to.name, code),
  ]);
  const placed = placeLabels(sheet, style, texts, used);
  const small = texts.filter((text) => !settingOf(text, sheet, style).isReadable);
  const fine = texts.filter((text) => !isCodeReadable(text, sheet, style));
  const warnings = [
    ...(small.length > 0
      ? [
          `${small.length} of ${texts.length} labels would be too small to be read (${named(small)}). Take a larger size, or another way of fixing them.`,
        ]
      : []),
    ...(fine.length > 0
      ? [
          `${fine.length} of ${texts.length} QR codes would be too fine for a telephone (${named(fine)}). Take a larger size, wind the labels round the wire, or leave the code out.`,
        ]
      : []),
  ];
  return { id: "labels", title: "Wire labels", parts: [placed], warnings };
}

/** Labels that are named one by one. */
const MOST_NAMED = 4;

function named(labels: readonly LabelText[]): string {
  const words = labels.slice(0, MOST_NAMED).map(({ text }) => text);
  return list(labels.length > MOST_NAMED ? [...words, "more"] : words);
}

function labelText(flag: string, here: string, hasCode: boolean): LabelText {
  return { text: flag, code: hasCode ? `${flag}, from ${here}` : null };
}

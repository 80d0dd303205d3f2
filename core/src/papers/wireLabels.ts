import type { Wire } from "../loom/wire.ts";
import { list } from "../units/format.ts";
import { type LabelSheet, type LabelStyle, type LabelText, placeLabels, settingOf } from "./labelSheets.ts";
import type { Paper } from "./paper.ts";

/** How labels are printed. */
export interface LabelChoice {
  sheet: LabelSheet;
  style: LabelStyle;
  /** With a QR code that says the same, and of which railway it is. */
  code: boolean;
  /** Labels that are gone from the first sheet already. */
  used: number;
}

/**
 * Labels for both ends of wires, the two of a wire beside each other: each says which wire it is and where its other end
 * goes. Those that cannot be read at the size of the label are named in a warning.
 * @throws {RangeError} when the sheet's measures contradict each other
 */
export function wireLabels(railway: string, wires: readonly Wire[], choice: LabelChoice): Paper {
  const texts = wires.flatMap(({ flags, from, to }) => [
    labelText(flags[0], from.name, railway, choice.code),
    labelText(flags[1], to.name, railway, choice.code),
  ]);
  const small = texts.filter((text) => !settingOf(text, choice.sheet, choice.style).isReadable);
  const placed = placeLabels(choice.sheet, choice.style, texts, choice.used);
  const named = list([
    ...small.slice(0, MOST_NAMED).map(({ text }) => text),
    ...(small.length > MOST_NAMED ? ["more"] : []),
  ]);
  const warning = `${small.length} of ${texts.length} labels would be too small to be read (${named}). Take a larger size, or another way of fixing them.`;
  return { id: "labels", title: "Wire labels", parts: [placed], warnings: small.length === 0 ? [] : [warning] };
}

/** Labels that are named one by one. */
const MOST_NAMED = 4;

function labelText(flag: string, here: string, railway: string, hasCode: boolean): LabelText {
  return { text: flag, code: hasCode ? `${railway}: ${flag}, from ${here}` : null };
}

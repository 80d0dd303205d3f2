import type { LabelSheet } from "@alderman/core";
import { Field } from "../kit/Field.tsx";
import { NumberField } from "../kit/NumberField.tsx";

/** Measures of a sheet, as one reads them from its packet or off a ruler. */
const MEASURES: { field: Exclude<keyof LabelSheet, "id" | "name" | "paper">; words: string }[] = [
  { field: "columns", words: "Labels across" },
  { field: "rows", words: "Labels down" },
  { field: "width", words: "Width of a label, mm" },
  { field: "height", words: "Height of a label, mm" },
  { field: "left", words: "From the left edge to the first, mm" },
  { field: "top", words: "From the top edge to the first, mm" },
  { field: "across", words: "From one to the next across, mm" },
  { field: "down", words: "From one to the next down, mm" },
];

/** An own sheet of labels by its measures, and what is wrong with them. */
export function OwnSheet({
  sheet,
  faults,
  set,
}: {
  sheet: LabelSheet;
  faults: readonly string[];
  set: (sheet: LabelSheet) => void;
}) {
  const { paper } = sheet;
  const keep = (change: Partial<LabelSheet>) => (value: number | null) => {
    if (value === null || value < 0) return "Type a number, in millimetres.";
    set({ ...sheet, ...change });
    return null;
  };
  return (
    <>
      {(["width", "height"] as const).map((side) => (
        <Field key={side} label={side === "width" ? "Width of the paper, mm" : "Height of the paper, mm"}>
          {(ids) => (
            <NumberField
              ids={ids}
              value={paper[side]}
              save={(value) => keep({ paper: { ...paper, [side]: value ?? 0 } })(value)}
            />
          )}
        </Field>
      ))}
      {MEASURES.map(({ field, words }) => (
        <Field key={field} label={words}>
          {(ids) => (
            <NumberField ids={ids} value={sheet[field]} save={(value) => keep({ [field]: value ?? 0 })(value)} />
          )}
        </Field>
      ))}
      {faults.map((fault) => (
        <p key={fault} role="alert" className="col-span-full bg-red-wash px-3 py-1">
          {fault}
        </p>
      ))}
    </>
  );
}

import fc from "fast-check";
import { expect, it } from "vitest";
import { railway, typed } from "../../testing/build.ts";
import { readControls } from "./controls.ts";
import { singleBlanks } from "./singleBlanks.ts";

it("leaves words as they are, with one blank between them", () => {
  const blank = fc.constantFrom(" ", "\t", "  ", " ".repeat(50));
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.stringMatching(/^[a-z0-9+]{1,6}$/), blank)), (words) => {
      const text = words.map(([word, between]) => word + between).join("");
      expect(singleBlanks(` ${text}`)).toBe(words.map(([word]) => word).join(" "));
    }),
  );
});

// a cell of thousands of blanks is a slip of a spreadsheet, not a day's work
it("takes a cell for what it says, however many blanks stand in it", () => {
  const blanks = " ".repeat(40_000);
  const two = railway(
    ["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off"],
    ["B", "", "stall-motor", "D1-2"],
  );
  const record = typed(two, "b", "control", `push-button${blanks}to${blanks}N`);
  expect(readControls(record, record.turnouts.find(({ id }) => id === "b")!)).toMatch(/^B\d to N$/);
  expect(() => typed(two, "b", "control", `push-button${blanks}to${blanks}Q`)).toThrow(/push-button to Q/);
});

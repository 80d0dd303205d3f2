import fc from "fast-check";
import { expect, it } from "vitest";
import {
  faultsOfSheet,
  isCodeReadable,
  LABEL_SHEETS,
  type LabelSheet,
  LEAST_TYPE,
  labelArea,
  placeLabels,
  settingOf,
} from "./labelSheets.ts";

const [SHEET] = LABEL_SHEETS as [LabelSheet];

it("has sheets whose labels lie on their paper, beside each other, as many as the name says", () => {
  for (const sheet of LABEL_SHEETS) {
    expect(faultsOfSheet(sheet), sheet.name).toEqual([]);
    expect(sheet.name).toContain(` ${sheet.columns * sheet.rows} of `);
  }
});

it.each([
  [{ columns: 0 }, /at least one label across/],
  [{ rows: 1.5 }, /at least one label down/],
  [{ width: 2 }, /at least 4 mm/],
  [{ left: -1 }, /cannot begin outside/],
  [{ across: 30 }, /38.1 mm wide cannot begin every 30 mm/],
  [{ columns: 6 }, /6 labels end 245.9 mm from the left, but the paper is 210 mm wide/],
  [{ rows: 14 }, /14 labels end 307.5 mm from the top, but the paper is 297 mm high/],
  [{ down: Number.NaN }, /cannot begin every NaN mm/],
])("says what is wrong with a sheet that has %o", (change, fault) => {
  expect(faultsOfSheet({ ...SHEET, ...change }).join()).toMatch(fault);
  expect(() => placeLabels({ ...SHEET, ...change }, "flag", [])).toThrow(fault);
});

it("gives each label a place of its own, beginning after those that are gone", () => {
  const texts = Array.from({ length: 70 }, (_, index) => ({ text: `W${index}`, code: null }));
  const { labels } = placeLabels(SHEET, "wrap", texts, 5);
  expect(labels[0]).toMatchObject({ page: 0, x: SHEET.left, y: SHEET.top + SHEET.down });
  expect(labels[60]).toMatchObject({ page: 1, x: SHEET.left, y: SHEET.top });
  expect(new Set(labels.map(({ page, x, y }) => `${page} ${x} ${y}`)).size).toBe(70);
});

it("never sets a line wider or higher than its label, and says which cannot be read", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...LABEL_SHEETS),
      fc.constantFrom("flag" as const, "wrap" as const),
      fc.boolean(),
      fc.stringMatching(/^W\d{1,5} to [A-Z]{1,3}\d{1,2}-[A-Z0-9]{1,20}$/),
      (sheet, style, hasCode, text) => {
        const { lines, isReadable } = settingOf({ text, code: hasCode ? text : null }, sheet, style);
        const area = labelArea(sheet, style, hasCode);
        expect(lines.map((line) => line.text).join(" ")).toBe(text);
        // a character of B612 Mono is 1300 of 2000 units wide
        for (const line of lines) expect(line.text.length * line.size * 0.65).toBeLessThanOrEqual(area.width + 1e-9);
        expect(lines.reduce((sum, { size }) => sum + size, 0)).toBeLessThanOrEqual(area.height + 1e-9);
        expect(isReadable).toBe(lines.every(({ size }) => size >= LEAST_TYPE));
      },
    ),
  );
});

it("knows which QR codes a telephone would not read: the finer, the longer the text and the smaller the label", () => {
  const label = (text: string) => ({ text, code: text });
  const small = LABEL_SHEETS.find(({ id }) => id === "a4-189")!;
  const short = label("W17 to K1-5, from P1-5");
  // 25 dots on half of 12.7 mm are 0.25 mm each; on 7.6 mm, 0.30 mm
  expect(isCodeReadable(short, small, "flag")).toBe(false);
  expect(isCodeReadable(short, small, "wrap")).toBe(true);
  expect(isCodeReadable(label(`W17 to K1-5, from ${"x".repeat(60)}`), small, "wrap")).toBe(false);
  expect(isCodeReadable(label(`W17 to K1-5, from ${"x".repeat(60)}`), SHEET, "wrap")).toBe(true);
  expect(isCodeReadable({ text: "W17", code: null }, small, "flag")).toBe(true);
});

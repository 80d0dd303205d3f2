import fc from "fast-check";
import { expect, it } from "vitest";
import { readNumber } from "./readNumber.ts";

it.each([
  ["4.1", 4.1],
  ["4,1", 4.1],
  [" 12 ", 12],
  ["-8.8", -8.8],
  ["−8,8", -8.8],
  ["+3", 3],
  [".5", 0.5],
  [",5", 0.5],
  ["5.", 5],
  ["1.000", 1],
  ["0,125", 0.125],
  ["1,25", 1.25],
  ["1,2500", 1.25],
  ["1234,567", 1234.567],
  ["1.234,5", 1234.5],
  ["1,234.5", 1234.5],
  ["1,234,567", 1_234_567],
  ["1.234.567", 1_234_567],
  ["1,234,567.25", 1_234_567.25],
  ["1 234,5", 1234.5],
  ["1’234.5", 1234.5],
  ["1\u202f234", 1234],
  ["2e3", 2000],
  ["1e-3", 0.001],
])("reads %s", (text, number) => {
  expect(readNumber(text)).toEqual({ number });
});

it.each(["", "open", "4.1 V", "1.2.3", "1,23,456", "1,2.3,4", "--1", "0x10", "Infinity", "NaN", "1e999", "1 23"])(
  "refuses %j with a sentence",
  (text) => {
    expect(readNumber(text)).toEqual({ problem: expect.stringMatching(/number/) });
  },
);

it("does not guess what one comma before three digits means", () => {
  expect(readNumber("1,000")).toEqual({ problem: "1,000 can mean 1000 or 1.0: type it without the comma." });
  expect(readNumber("12,345")).toEqual({ problem: "12,345 can mean 12345 or 12.345: type it without the comma." });
});

it("reads back every number that is written with a point, a comma, or as a locale writes it", () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.nat(4), (whole, digits) => {
      const number = whole / 10 ** digits;
      const text = number.toFixed(digits);
      expect(readNumber(text)).toEqual({ number });
      // with three decimals a comma can be read in two ways, and with none there is no mark
      if (digits !== 3) expect(readNumber(text.replace(".", ","))).toEqual({ number });
      for (const locale of ["de-DE", "fr-FR", "de-CH", "en-GB"]) {
        const written = number.toLocaleString(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits });
        const read = readNumber(written);
        if ("problem" in read) expect(read.problem).toMatch(/can mean/);
        else if (!(locale === "de-DE" && digits === 0 && Math.abs(number) < 1e6)) expect(read.number).toBe(number);
      }
    }),
  );
});

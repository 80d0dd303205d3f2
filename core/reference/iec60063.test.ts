// IEC 60063:2015, Preferred number series for resistors and capacitors; E12 and E24 as printed in its table (from memory).
import { expect, it } from "vitest";
import { preferredAtLeast, SERIES } from "../src/units/preferredValues.ts";

const E12 = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2];
const E24 = [
  1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
];

it.each([
  ["E12", E12],
  ["E24", E24],
] as const)("has the values of %s, in every decade", (series, printed) => {
  expect(SERIES[series].map((step) => step / 10)).toEqual(printed);
  for (const decade of [0.1, 1, 10, 1000, 1e6]) {
    for (const value of printed) expect(preferredAtLeast(value * decade, series) / (value * decade)).toBeCloseTo(1, 9);
  }
});

it("rounds up, never down, and by less than the step of the series", () => {
  for (let ohms = 1.03; ohms < 1e6; ohms *= 1.037) {
    const chosen = preferredAtLeast(ohms, "E24");
    expect(chosen).toBeGreaterThanOrEqual(ohms * (1 - 1e-9));
    expect(chosen / ohms).toBeLessThan(1.16);
  }
});

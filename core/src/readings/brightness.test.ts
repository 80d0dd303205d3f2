import { expect, it } from "vitest";
import { dimBelow } from "./brightness.ts";

// derived: with the root of the intensity, half as bright takes a quarter of the current
it("halves at a quarter of the current", () => {
  expect(dimBelow(0.01)).toBeCloseTo(0.0025, 12);
});

import fc from "fast-check";
import { expect, it } from "vitest";
import { amps, count, joules, list, milliamps, milliseconds, ohms, volts } from "./format.ts";
import { GAUGES, metricOhmsPerMetre, ohmsPerMetre } from "./gauge.ts";
import { preferredAtLeast, preferredAtMost, SERIES } from "./preferredValues.ts";

it("writes figures as a hand-held meter shows them", () => {
  expect([volts(11.24), volts(-11.2), volts(0.948), volts(-0.001), volts(0)]).toEqual([
    "11.2 V",
    "−11.2 V",
    "0.95 V",
    "0.00 V",
    "0.0 V",
  ]);
  expect([amps(0.0147), amps(0.2), amps(4.312)]).toEqual(["14.7 mA", "200 mA", "4.31 A"]);
  expect([ohms(0.3), ohms(4.5), ohms(680), ohms(1500), ohms(2.2e6)]).toEqual([
    "0.30 ohm",
    "4.5 ohm",
    "680 ohm",
    "1.50 kohm",
    "2.20 Mohm",
  ]);
});

it("puts things into sentences", () => {
  expect(list(["T1"])).toBe("T1");
  expect(list(["T1", "T2", "T3"])).toBe("T1, T2 and T3");
  expect([count(1, "motor"), count(3, "motor")]).toEqual(["1 motor", "3 motors"]);
});

it("knows the resistance of every gauge that it offers", () => {
  const resistances = GAUGES.map(ohmsPerMetre);
  expect(resistances.every((each) => each > 0.005 && each < 0.3)).toBe(true);
});

it("says which sizes there are when one is not in the table", () => {
  expect(() => metricOhmsPerMetre(0.6, "solid")).toThrow(/no figure here for 0.6 mm2; take one of .*0.75/);
});

it("takes a value that only rounding lifts above a preferred one for that one", () => {
  expect(preferredAtLeast((5 - 2) / 0.01, "E24")).toBe(300);
  expect(preferredAtLeast(92, "E24")).toBe(100);
  expect(preferredAtLeast(0.91, "E12")).toBe(1);
  expect(() => preferredAtLeast(0, "E12")).toThrow(RangeError);
});

// as a hand-held meter would: three digits or so, a true minus sign, and never a sign before nothing
it("writes any figure with its unit, few digits and no sign before nothing", () => {
  const figure = fc.double({ min: -500, max: 500, noNaN: true });
  for (const write of [volts, amps, ohms, joules, milliamps]) {
    fc.assert(
      fc.property(figure, (value) => {
        const text = write(Math.abs(value) < 1e-9 ? 0 : value);
        expect(text).toMatch(/^−?\d{1,6}(\.\d{1,2})? (V|A|mA|ohm|kohm|Mohm|J)$/);
        expect(text).not.toMatch(/^−0(\.0+)? /);
        expect(text).not.toContain("-");
      }),
    );
  }
});

it("goes over from one unit to the next without a gap", () => {
  expect([amps(0.9994), amps(0.9996)]).toEqual(["999 mA", "1.00 A"]);
  expect([ohms(999.4), ohms(999.6)]).toEqual(["999 ohm", "1.00 kohm"]);
  expect([milliseconds(0.00994), milliseconds(0.00996)]).toEqual(["9.9 ms", "10 ms"]);
  expect([milliamps(99.94), milliamps(99.96)]).toEqual(["99.9 mA", "100 mA"]);
});

it("finds the preferred value below, which is above when looked for from it", () => {
  expect(preferredAtMost(272.7, "E24")).toBe(270);
  expect(preferredAtMost(99, "E12")).toBe(82);
  expect(preferredAtMost(10_000, "E12")).toBe(10_000);
  for (const series of ["E12", "E24"] as const)
    for (const step of SERIES[series])
      for (const decade of [0.1, 10, 1000]) {
        const value = Number((step * decade).toPrecision(2));
        expect(preferredAtMost(value, series)).toBe(value);
        expect(preferredAtMost(value * 1.001, series)).toBe(value);
        expect(preferredAtLeast(value * 0.999, series)).toBe(value);
      }
});

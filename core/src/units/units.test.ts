import { expect, it } from "vitest";
import { amps, count, list, ohms, volts } from "./format.ts";
import { GAUGES, metricOhmsPerMetre, ohmsPerMetre } from "./gauge.ts";
import { preferredAtLeast } from "./preferredValues.ts";

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

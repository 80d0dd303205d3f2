// Copper wire. IEC 60228 tables for classes 1 and 5; ASTM B258 for AWG diameters with IEC 60028 resistivity.
import { describe, expect, it } from "vitest";
import {
  awgDiameter,
  awgOhmsPerMetre,
  continuousAmps,
  GAUGES,
  metricOhmsPerMetre,
  temperatureRise,
} from "../src/units/gauge.ts";

// IEC 60228, tables 1 and 3, maximum resistance at 20 C in ohm per kilometre
it.each([
  [0.5, 36.0, 39.0],
  [0.75, 24.5, 26.0],
  [1, 18.1, 19.5],
  [1.5, 12.1, 13.3],
  [2.5, 7.41, 7.98],
])("has IEC 60228's resistance of %f mm2", (mm2, solid, flexible) => {
  expect(metricOhmsPerMetre(mm2, "solid") * 1000).toBeCloseTo(solid, 9);
  expect(metricOhmsPerMetre(mm2, "flexible") * 1000).toBeCloseTo(flexible, 9);
});

// derived: 5 m of 0.5 mm2 flexible, there and back
it("gives 0.39 ohm for 5 m of 0.5 mm2 there and back", () => {
  expect(metricOhmsPerMetre(0.5, "flexible") * 10).toBeCloseTo(0.39, 9);
});

// ASTM B258: nominal diameters in mm (from memory of its table)
it.each([
  [18, 1.024],
  [20, 0.8118],
  [22, 0.6438],
  [24, 0.5106],
  [26, 0.4049],
  [28, 0.3211],
])("has ASTM B258's diameter of AWG %i", (awg, millimetres) => {
  expect(awgDiameter(awg) * 1000).toBeCloseTo(millimetres, 3);
});

it("gives AWG 24 its 0.0842 ohm per metre", () => {
  expect(awgOhmsPerMetre(24)).toBeCloseTo(0.0842, 4);
});

describe("how warm a wire becomes", () => {
  // from memory: AWG 24 with 3 A alone in still air becomes some 10 to 15 K warmer
  it("is some 10 to 15 K for 3 A in AWG 24 by itself, and more in a bundle", () => {
    expect(temperatureRise("AWG 24", 3)).toBeGreaterThan(10);
    expect(temperatureRise("AWG 24", 3)).toBeLessThan(15);
    expect(temperatureRise("AWG 24", 3, 8)).toBeGreaterThan(40);
    expect(temperatureRise("AWG 28", 30)).toBe(Number.POSITIVE_INFINITY);
  });

  // IEC 60204-1, table 6 (from memory): three loaded conductors in free air at 40 C, PVC, up to 70 C
  it.each([
    ["0.75 mm2", 10.4],
    ["1 mm2", 12.4],
    ["1.5 mm2", 16.1],
    ["2.5 mm2", 22],
  ] as const)("keeps on the safe side of a cable's table: %s", (gauge, table) => {
    const ours = continuousAmps(gauge, 3);
    expect(ours / table).toBeLessThan(1);
    expect(ours / table).toBeGreaterThan(0.6);
  });

  it("is 30 K at what a wire may carry, alone or among others", () => {
    for (const gauge of GAUGES)
      for (const together of [1, 2, 3, 8, 20, 60])
        expect(temperatureRise(gauge, continuousAmps(gauge, together), together)).toBeCloseTo(30, 6);
  });
});

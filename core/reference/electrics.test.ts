// Worked values of the trade's electrics, each held against the solved circuit. Formulas are Ohm's and Kirchhoff's laws;
// figures marked (cp) are common practice without a published source.

import { describe, expect, it } from "vitest";
import { type Element, ledModel } from "../src/circuit/elements.ts";
import { operatingPoint } from "../src/circuit/operatingPoint.ts";
import { Derived } from "../src/derive.ts";
import { awgOhmsPerMetre, metricOhmsPerMetre } from "../src/units/gauge.ts";
import { railway, threadOf, typed } from "../testing/build.ts";
import { diode, load, resistor, source } from "../testing/elements.ts";

// derived: 10 m one way at 2 A: 0.5 mm2 solid 1.44 V by IEC 60228 class 1; 2.5 mm2 0.296 V
it.each([
  [0.5, "solid", 1.44],
  [2.5, "solid", 0.2964],
  [0.5, "flexible", 1.56],
] as const)("loses what the table says on 10 m of %f mm2 %s at 2 A, there and back", (mm2, build, drop) => {
  const metre = metricOhmsPerMetre(mm2, build);
  const point = operatingPoint({
    ground: "0",
    elements: [
      source("v", "a", "0", 12),
      resistor("out", "a", "b", 10 * metre),
      load("i", "b", "c", 2),
      resistor("back", "c", "0", 10 * metre),
    ],
  });
  expect(12 - ((point.volts("b") ?? 0) - (point.volts("c") ?? 0))).toBeCloseTo(drop, 9);
});

// derived: two motors on one switch; 20 V, 4 ohm coils, 5 m of 24 AWG each way to and from: a shared core costs more
// than double what cores of their own do
it("shows why two coils need cores of their own", () => {
  const core = 5 * awgOhmsPerMetre(24);
  const thick = 5 * metricOhmsPerMetre(0.5, "flexible");
  const coils = (from: string) => [resistor("l1", from, "r", 4), resistor("l2", from, "r", 4)];
  const shared = operatingPoint({
    ground: "0",
    elements: [
      source("v", "a", "0", 20),
      resistor("w", "a", "b", core),
      ...coils("b"),
      resistor("back", "r", "0", thick),
    ],
  });
  const alone = operatingPoint({
    ground: "0",
    elements: [
      source("v", "a", "0", 20),
      resistor("w", "a", "b", core),
      resistor("l1", "b", "r", 4),
      resistor("back", "r", "0", thick),
    ],
  });
  // derived: 20 / (2 + 0.421 + 0.195) and 20 / (4 + 0.421 + 0.195)
  expect(-(shared.amps("v") ?? 0)).toBeCloseTo(7.65, 2);
  expect(-(alone.amps("v") ?? 0)).toBeCloseTo(4.33, 2);
});

// derived: rectified peak V = sqrt(2) Vrms - 2 Vf; 16 V AC: 21.2 V with 0.7 V a diode
it("rectifies 16 V AC to about 21.2 V", () => {
  const point = operatingPoint({
    ground: "0",
    elements: [
      source("v", "a", "b", 16 * Math.SQRT2),
      diode("d1", "a", "p"),
      diode("d2", "b", "p"),
      diode("d3", "0", "a"),
      diode("d4", "0", "b"),
      resistor("load", "p", "0", 1000),
    ],
  });
  expect(point.volts("p")).toBeGreaterThan(20.9);
  expect(point.volts("p")).toBeLessThan(21.6);
});

// derived: frog lamps with a dead frog: both lamps in series, (16 - 2 - 2) / 2000 = 6 mA, against 14 mA one alone
it("dims both of two lamps in series across a dead frog", () => {
  const led = (id: string, a: string, b: string): Element => ({
    kind: "diode",
    id,
    nodes: [a, b],
    model: ledModel(2, 0.01),
  });
  const dead = operatingPoint({
    ground: "0",
    elements: [
      source("v", "a", "0", 16),
      resistor("r1", "a", "b", 1000),
      led("l1", "b", "f"),
      resistor("r2", "f", "c", 1000),
      led("l2", "c", "0"),
    ],
  });
  const live = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 16), resistor("r1", "a", "b", 1000), led("l1", "b", "0")],
  });
  expect((dead.amps("l1") ?? 0) * 1000).toBeCloseTo(6, 1);
  expect((live.amps("l1") ?? 0) * 1000).toBeCloseTo(14, 1);
});

describe("stall motors (cp): 15 mA each, an output of 12 V behind 120 ohm", () => {
  const rows = Array.from({ length: 20 }, (_, i) => [
    `S${i + 1}`,
    "",
    "stall-motor",
    i % 8 === 0 ? "stall-decoder-8" : `D${Math.floor(i / 8) + 1}`,
    "",
    "",
  ]);
  const derived = new Derived(railway(...rows));

  // cp: 20 motors at 15 mA hold 300 mA, on three boards of eight
  it("hold 300 mA on twenty outputs, besides what three boards take themselves", () => {
    expect(derived.record.devices.filter(({ typeId }) => typeId === "stall-decoder-8")).toHaveLength(3);
    const supply = derived.loads.find(({ deviceId }) => deviceId === "ps1")!;
    // 20 mA for each board is the catalogue's figure
    expect(supply.rest - 3 * 0.02).toBeGreaterThan(0.29);
    expect(supply.rest - 3 * 0.02).toBeLessThan(0.302);
  });

  // derived: three motors on one output 34.6 mA at 7.85 V, near the 7 V floor; they still move
  it("sag to 7.85 V when three hang on one output", () => {
    let record = railway(
      ["A", "", "stall-motor", "stall-decoder-8", "", ""],
      ["B", "A", "stall-motor", "", "", ""],
      ["C", "A", "stall-motor", "", "", ""],
    );
    record = typed(record, "a", "driver", "D1-1");
    const three = new Derived(record);
    const reading = three.reading(threadOf(three, "A/B/C"), "N", "rest");
    expect(reading.driverAmps).toBeCloseTo(0.0346, 4);
    expect(reading.driverVolts).toBeCloseTo(7.85, 1);
    expect(reading.motors.map(({ goesTo }) => goesTo)).toEqual(["N", "N", "N"]);
  });

  // derived: 136 ohm behind 120 ohm: 6.4 V, below the 7 V from which such a motor runs (cp)
  it("stay where they are when five hang on one output", () => {
    const five = new Derived(
      railway(
        ["A", "", "stall-motor", "stall-decoder-8", "", ""],
        ...["B", "C", "D", "E"].map((label) => [label, "A", "stall-motor", "", "", ""]),
      ),
    );
    const reading = five.reading(threadOf(five, "A/B/C/D/E"), "R", "rest");
    expect(Math.abs(reading.driverVolts ?? 0)).toBeLessThan(6.5);
    expect(reading.motors.every(({ goesTo }) => goesTo === null)).toBe(true);
    expect(five.findings.map(({ ruleId }) => ruleId)).toEqual(["output-over-limit", "goes-astray"]);
  });
});

// derived: coil of 4 ohm behind 2.4 m of 24 AWG and 0.5 mm2 tails; the nearer motor gets more than the farther
it("gives the farther coil less of the pulse", () => {
  const record = railway(
    ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", ""],
    ["B", "", "twin-coil-surface", "CD1", "toggle-centre-off", ""],
  );
  const far = new Derived(typed(typed(record, "a", "run", "0.5"), "b", "run", "8"));
  const amps = (label: string) => far.reading(threadOf(far, label), "N", "throwing").motors[0]!.amps.N;
  // the first instant would give 5 A; its inductance of 3 mH keeps the peak below
  expect(amps("A")).toBeGreaterThan(4.2);
  expect(amps("B")).toBeLessThan(amps("A") * 0.95);
});

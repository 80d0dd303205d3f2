// Transformers and what they charge, against ngspice through time and against figures of the trade.
import { describe, expect, it } from "vitest";
import { findType } from "../src/catalogue/catalogue.ts";
import { junctionVolts, RECTIFIER } from "../src/circuit/elements.ts";
import { Derived } from "../src/derive.ts";
import { measure } from "../src/readings/meter.ts";
import { AT_REST } from "../src/readings/threadReading.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { railway, withFigures } from "../testing/build.ts";
import { runNgspice } from "../testing/ngspice.ts";

const unit = (figures: Record<string, number> = {}): RailwayRecord =>
  withFigures(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]), "CD1", figures);

const figureOf = (record: RailwayRecord, label: string, name: string) =>
  findType(record, record.devices.find((each) => each.label === label)!.typeId)!.figures[name]!.value;

/** Volts of a unit's capacitor at rest, as the meter should show them. */
const charged = (record: RailwayRecord) => measure(new Derived(record).circuitry, "cd1:+", "cd1:−", "V", AT_REST.N);

/** The same through time: the secondary as a sine behind its windings, a bridge, resistor, capacitor and what leaks. */
function chargedBySpice(record: RailwayRecord): { least: number; most: number } {
  const [volts, amps, regulation] = ["volts", "ratedAmps", "regulation"].map((name) => figureOf(record, "PS1", name));
  const open = volts! * (1 + regulation!);
  const netlist = [
    "a unit on a transformer",
    `V1 s 0 SIN(0 ${open * Math.SQRT2} 50)`,
    `R1 s a ${(volts! * regulation!) / amps! + figureOf(record, "PS1", "insideOhms")}`,
    ...["D1 a p DR", "D2 0 p DR", "D3 m a DR", "D4 m 0 DR"],
    `R2 p c ${figureOf(record, "CD1", "chargeOhms")}`,
    `C1 c m ${figureOf(record, "CD1", "farads")} ic=20`,
    `R3 c m ${figureOf(record, "CD1", "bleedOhms")}`,
    `.model DR D(IS=${RECTIFIER.is} N=${RECTIFIER.n} RS=${RECTIFIER.rs} CJO=20p)`,
    "R4 p 0 1g",
    "R5 m 0 1g",
    ".end",
  ].join("\n");
  const control = [
    "source unit.cir",
    "tran 100u 8 7.9 100u uic",
    "let across = v(c) - v(m)",
    "meas tran most max across from=7.9 to=8",
    "meas tran least min across from=7.9 to=8",
    "echo $&least $&most > out.txt",
  ];
  const [least = Number.NaN, most = Number.NaN] = runNgspice({ "unit.cir": netlist }, control.join("\n"))
    .trim()
    .split(/\s+/)
    .map(Number);
  return { least, most };
}

describe("a discharge unit on 16 V AC", () => {
  // the trade reads 23.5 to 26 V there (from memory); 16 V at 1 A are 18.4 V with nothing on it, 26 V at the peak
  it("is charged to what the trade reads", () => {
    const { value } = charged(unit());
    expect(value!).toBeGreaterThan(23.5);
    expect(value!).toBeLessThan(26);
  });

  // it is solved at the peak of the sine, while pulses of it make up for what leaks: a little too high, never too low
  it.each([
    ["as usual", {}],
    ["with a larger capacitor through less", { farads: 10_000e-6, chargeOhms: 47 }],
    ["with less that leaks", { bleedOhms: 50_000 }],
  ])("is solved up to 7 %% above what ngspice finds through time, and within the band: %s", (_, figures) => {
    const record = unit(figures);
    const { value, tolerance } = charged(record);
    const { least, most } = chargedBySpice(record);
    expect(most).toBeGreaterThan(20);
    expect(value! / most).toBeGreaterThan(1);
    expect(value! / most).toBeLessThan(1.07);
    expect(Math.abs(value! - (least + most) / 2)).toBeLessThan(tolerance);
  });

  it("loses two junctions of its bridge, at what leaks through the charging resistor", () => {
    const { value } = charged(unit());
    const amps = value! / figureOf(unit(), "CD1", "bleedOhms");
    const by = 18.4 * Math.SQRT2 - 2 * junctionVolts(RECTIFIER, amps) - amps * (100 + 2.5);
    expect(value!).toBeCloseTo(by, 2);
  });
});

describe("a transformer under load", () => {
  // derived: 16 V at 1 A and 15 % regulation: each ampere takes 2.4 V, and the lead 0.1 V
  it.each([0.1, 0.25, 0.5, 1])("gives at %d A what its regulation leaves", (amps) => {
    const record = unit();
    const { circuitry } = new Derived(record);
    const open = circuitry.volts("ps1:~1", "ps1:~2", AT_REST.N)! / Math.SQRT2;
    const load = {
      kind: "resistor",
      id: "load",
      nodes: ["ps1:~1", "ps1:~2"],
      ohms: (18.4 - 2.5 * amps) / amps,
    } as const;
    const loaded = circuitry.solveWith("ps1:~1", AT_REST.N, { elements: [load] })!.circuit.point();
    const volts = loaded.between("ps1:~1", "ps1:~2")! / Math.SQRT2;
    expect(open).toBeCloseTo(18.4, 1);
    expect(volts).toBeCloseTo(18.4 - 2.5 * amps, 1);
  });
});

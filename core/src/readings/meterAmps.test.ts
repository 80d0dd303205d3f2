import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { FROGS, LAMPS } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type MeterKind, measure } from "./meter.ts";
import type { RailwayState } from "./states.ts";
import { AT_REST, stateFor } from "./threadReading.ts";

/** The reading on milliamps in the first wire that ends at a terminal. */
function inWireAt(record: RailwayRecord, terminal: string, state?: (derived: Derived) => RailwayState) {
  const derived = new Derived(record);
  const wire = derived.loom.wires.find(({ from, to }) => from.name === terminal || to.name === terminal)!;
  const at = state?.(derived) ?? AT_REST.N;
  return measure(derived.circuitry, wire.from.key, wire.to.key, "mA", at);
}

describe("milliamps on the track's square wave", () => {
  const lamps = Object.values(LAMPS)
    .map((make) => make())
    .find(({ devices }) => devices.some(({ typeId }) => typeId === "lamps-frog-diodes"))!;

  // derived: 15 V less what LED and diode drop, through 1000 ohm: some 13 mA in either half cycle, next to nothing in the mean
  it("are half of the swing on AC, and the mean of both half cycles on DC is told", () => {
    const lamp = lamps.devices.find(({ typeId }) => typeId === "lamps-frog-diodes")!;
    const reads = ["G", "Y"].map((lead) => inWireAt(lamps, `${lamp.label}-${lead}`));
    const lit = reads.sort((a, b) => (b.value ?? 0) - (a.value ?? 0))[0]!;
    expect(lit.ac).toBe(true);
    expect(lit.value!).toBeGreaterThan(0.012);
    expect(lit.value!).toBeLessThan(0.015);
    const mean = /on DC the mean of the two half cycles, (−?[\d.]+) mA\.$/.exec(lit.reckoned)![1]!.replace("−", "-");
    expect(Math.abs(Number(mean))).toBeLessThan(2);
    expect(lit.caution).toBeUndefined();
  });
});

describe("the fuse of the milliamp range", () => {
  const coil = railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]);

  it("is warned of in the wire to a coil while it is thrown, and not at rest", () => {
    const throwing = ({ schematic }: Derived) => stateFor(schematic.threads[0]!, "N", "throwing");
    const thrown = inWireAt(coil, "A-N", throwing);
    expect(Math.abs(thrown.value!)).toBeGreaterThan(1);
    expect(thrown.caution).toMatch(/^More than 200 mA: the fuse of a meter's milliamp range opens\./);
    expect(inWireAt(coil, "A-N").caution).toBeUndefined();
  });

  it("bears a stall motor and a frog at rest", () => {
    expect(inWireAt(railway(["A", "", "stall-motor", "stall-decoder-8"]), "A+").caution).toBeUndefined();
    const frog = FROGS["an automatic unit"]!();
    expect(inWireAt(frog, "AF-F").caution).toBeUndefined();
  });
});

// ISO 11898-2 (from memory): the recessive level is 2.0 to 3.0 V, so that 2.3 V is healthy
it("takes a control bus of 2.3 V at rest for healthy, and one of 1.5 V not", () => {
  const node = drafted(railway(["A", "", "stall-motor", "output-node-8", "push-pair"]), () => undefined);
  const { circuitry } = new Derived(node);
  const { value, tolerance } = measure(circuitry, "cb1:H", "cb1:0", "V", AT_REST.N);
  expect(Math.abs(value! - 2.3)).toBeLessThan(tolerance);
  expect(Math.abs(value! - 1.5)).toBeGreaterThan(tolerance);
});

// derived: an averaging meter takes the mean of a rectified square wave, which is its height, times pi / (2 sqrt 2): 15 V read 16.7 V
it("lets both kinds of meter pass on the track's square wave, and says what an averaging one shows", () => {
  const { circuitry } = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8"]));
  const { value, tolerance, ac, reckoned } = measure(circuitry, "d1:J", "d1:K", "V", AT_REST.N);
  expect(ac).toBe(true);
  expect(value!).toBeCloseTo(15, 1);
  expect(reckoned).toContain("one that averages 16.7 V");
  expect(Math.abs(16.66 - value!)).toBeLessThan(tolerance);
  expect(Math.abs(10 - value!)).toBeGreaterThan(tolerance);
});

it("knows what one kind of meter shows when it is said, within a narrower band", () => {
  const { circuitry } = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8"]));
  const by = (kind: MeterKind) => measure(circuitry, "d1:J", "d1:K", "V", AT_REST.N, undefined, kind);
  expect(by("averaging").value! / by("effective").value!).toBeCloseTo(Math.PI / (2 * Math.SQRT2), 9);
  expect(by("effective").value!).toBeCloseTo(15, 1);
  for (const kind of ["averaging", "effective"] as const)
    expect(by(kind).tolerance).toBeLessThan(by("unknown").tolerance);
  // DC is DC to any of them
  const plus = (kind: MeterKind) => measure(circuitry, "d1:+", "d1:−", "V", AT_REST.N, undefined, kind);
  expect(plus("averaging")).toEqual(plus("unknown"));
  expect(plus("unknown").byKind).toBeUndefined();
});

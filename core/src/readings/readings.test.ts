import { describe, expect, it } from "vitest";
import { drafted, mounted, railway, retyped, smallRailway, threadOf, typed } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { measure } from "./meter.ts";
import { stateFor } from "./threadReading.ts";

const REST = { asked: {}, moment: "rest", acting: null, off: false } as const;

describe("stall motors on a decoder output", () => {
  // derived: output 12 V behind 120 ohm, motor 680 ohm: one 15 mA at 10.2 V, two 26.1 mA at 8.87 V, moving 4 mA at 11.52 V
  it("reads as worked out for one motor and for two", () => {
    const derived = new Derived(
      railway(
        ["S", "", "stall-motor", "stall-decoder-8", "", ""],
        ["A", "", "stall-motor", "D1", "", ""],
        ["B", "A", "stall-motor", "", "", ""],
      ),
    );
    const one = derived.reading(threadOf(derived, "S"), "N", "rest");
    expect(one.driverAmps).toBeCloseTo(0.015, 4);
    expect(one.motors[0]!.volts).toBeCloseTo(10.2, 1);
    const two = derived.reading(threadOf(derived, "A/B"), "N", "rest");
    expect(two.driverAmps).toBeCloseTo(0.0261, 4);
    expect(two.driverVolts).toBeCloseTo(8.87, 1);
    const moving = derived.reading(threadOf(derived, "S"), "N", "throwing");
    expect(moving.motors[0]!.amps.N).toBeCloseTo(0.004, 4);
    expect(moving.motors[0]!.volts).toBeCloseTo(11.52, 1);
  });

  it("turns about with the position, and goes the other way when leads or mounting are", () => {
    const derived = new Derived(smallRailway());
    const thread = threadOf(derived, "M1/M2");
    expect(derived.reading(thread, "R", "rest").driverVolts).toBeLessThan(-8);
    const goes = (record: typeof derived.record) => {
      const other = new Derived(record);
      return other.reading(threadOf(other, "M1/M2"), "N", "rest").motors.map(({ goesTo }) => goesTo);
    };
    expect(goes(derived.record)).toEqual(["N", "N"]);
    expect(goes(mounted(derived.record, "m2", { crossed: true }))).toEqual(["N", "R"]);
    expect(goes(mounted(derived.record, "m2", { opposite: true }))).toEqual(["N", "R"]);
    expect(goes(mounted(derived.record, "m2", { opposite: true, crossed: true }))).toEqual(["N", "N"]);
  });
});

describe("an output that nothing hangs on", () => {
  const at = (record: ReturnType<typeof railway>, red: string, black: string) => {
    const { circuitry } = new Derived(record);
    return circuitry.volts(red, black, stateFor(circuitry.schematic.threads[0]!, "N", "rest"));
  };

  it("has the supply's volts across it when it is a reversed pair, whatever the turnouts are asked", () => {
    const record = railway(["A", "", "stall-motor", "stall-decoder-8"]);
    const { circuitry } = new Derived(record);
    for (const position of ["N", "R"] as const) {
      const volts = circuitry.volts("d1:5A", "d1:5B", stateFor(circuitry.schematic.threads[0]!, position, "rest"));
      // nothing flows, so that nothing is lost inside: 12 V less what the board's own 20 mA lose in its wires
      expect(volts).toBeCloseTo(12, 1);
    }
    expect(at(record, "d1:5A", "d1:6A")).toBeCloseTo(0, 6);
  });

  it("has a servo's 5 V, its store's volts on a coil output, and nothing without a supply", () => {
    const servos = railway(["A", "", "servo", "servo-board-4"]);
    expect(at(servos, "sb1:4+", "sb1:4−")).toBeCloseTo(5, 1);
    const coils = railway(["A", "", "twin-coil-surface", "coil-decoder-4"]);
    expect(at(coils, "d1:3C", "d1:−")).toBeGreaterThan(13);
    const unfed = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) =>
      draft.unassign((a) => a.role === "supply"),
    );
    expect(Math.abs(at(unfed, "d1:5A", "d1:5B") ?? 0)).toBeLessThan(0.01);
  });
});

describe("twin coils behind a discharge unit", () => {
  const derived = new Derived(smallRailway());
  const thread = threadOf(derived, "Y1");

  // derived: 16 V AC, 18.4 V with nothing on it, bridged: 24.5 V; a coil of 4 ohm and its wires take about 5.5 A, and its 3 mH a tenth less at the peak
  it("takes amps in the wanted coil at first and nothing at rest", () => {
    const pulse = derived.reading(thread, "R", "throwing").motors[0]!;
    expect(pulse.amps.R).toBeGreaterThan(4);
    expect(pulse.amps.R).toBeCloseTo(pulse.pulse!.peakAmps, 9);
    expect(pulse.amps.R).toBeLessThan(5.4);
    expect(Math.abs(pulse.amps.N)).toBeLessThan(1e-6);
    expect(pulse.goesTo).toBe("R");
    expect(derived.reading(thread, "R", "rest").driverVolts).toBeCloseTo(24.3, 0);
    expect(Math.abs(derived.reading(thread, "R", "rest").motors[0]!.amps.R)).toBeLessThan(1e-6);
  });

  it("keeps the contact on the old side while the motor is on its way", () => {
    const lamp = (moment: "rest" | "throwing") => derived.reading(thread, "R", moment).lamps[0]!;
    expect(lamp("rest").reverse).toBeGreaterThan(0.005);
    expect(lamp("rest").normal).toBeLessThan(1e-6);
    expect(lamp("throwing").normal).toBeGreaterThan(0.005);
  });

  it("finds the unit drained when a latching toggle is left on, for all that hang on it", () => {
    const left = new Derived(retyped(smallRailway(), "T1", "toggle-latching"));
    const reading = left.reading(threadOf(left, "Y2"), "N", "throwing");
    expect(reading.driverVolts).toBeLessThan(1.2);
    expect(reading.motors[0]!.goesTo).toBeNull();
  });
});

// derived: 18.4 V effective behind 2.5 ohm of a transformer of 1 A, a coil of 4 ohm and its wires: about 2.6 A effective
it("gives effective values for a coil on a bare alternating supply", () => {
  const bare = typed(smallRailway(), "y1", "driver", "PS1");
  const derived = new Derived(bare);
  const reading = derived.reading(threadOf(derived, "Y1"), "N", "throwing");
  expect(reading.alternating).toBe(true);
  expect(reading.motors[0]!.amps.N).toBeGreaterThan(2.4);
  expect(reading.motors[0]!.amps.N).toBeLessThan(2.8);
  expect(derived.reading(threadOf(derived, "Y2"), "N", "rest").alternating).toBe(false);
  expect(measure(derived.circuitry, "cd1:+", "cd1:−", "V", REST)).toMatchObject({ ac: false });
});

describe("the meter", () => {
  const derived = new Derived(smallRailway());
  const read = (red: string, black: string, range: "V" | "ohm", state: Parameters<typeof measure>[4] = REST) =>
    measure(derived.circuitry, red, black, range, state);

  it("reads a coil, a winding with its twin beside it, and a wire", () => {
    expect(read("y1:N", "y1:C", "ohm").value).toBeCloseTo(4, 2);
    expect(read("m1:+", "m1:−", "ohm").value).toBeCloseTo(340, 0);
    expect(read("t1:C", "t2:C", "ohm").value).toBeCloseTo(0.15 * 0.039, 3);
  });

  it("turns about when the probes are exchanged, and reads nothing across one terminal", () => {
    const state = stateFor(threadOf(derived, "M1/M2"), "R", "rest");
    const volts = read("m1:+", "m1:−", "V", state).value!;
    expect(volts).toBeLessThan(-8);
    expect(read("m1:−", "m1:+", "V", state).value).toBeCloseTo(-volts, 9);
    expect(read("m1:+", "m1:+", "V", state).value).toBe(0);
  });

  it("shows open between pieces that nothing joins", () => {
    expect(read("y1:N", "m1:+", "V")).toMatchObject({ value: null });
    expect(read("y1:N", "m1:+", "ohm")).toMatchObject({ value: null });
  });

  it("finds its way round an open toggle: through the coil and what bleeds the unit", () => {
    expect(read("t1:C", "t1:N", "ohm").value).toBeCloseTo(10_000 + 4, -2);
  });

  it("reads the alternating supply by its effective value", () => {
    const reading = read("ps1:~1", "ps1:~2", "V");
    expect(reading.ac).toBe(true);
    // rated 16 V at 1 A, 15 % more with next to nothing on it
    expect(reading.value).toBeCloseTo(18.4, 1);
  });

  it("does not light a lamp with its own test voltage", () => {
    expect(read("lp1:G", "lp1:0", "ohm")).toMatchObject({ value: null });
  });

  it("takes its tolerance from the parts'", () => {
    // derived: coil 10 %, copper 6 % for 15 K, the meter's 1 %, three digits and its leads' 0.2 ohm: 0.88 ohm at worst, 0.7 by squares
    const coil = read("y1:N", "y1:C", "ohm");
    expect(coil.corner).toBeCloseTo(4 * 0.1 + 4 * 0.059 + 0.04 + 0.3 + 0.2, 1);
    expect(coil.tolerance).toBeLessThan(coil.corner);
    expect(coil.tolerance).toBeGreaterThan(1.7 * Math.hypot(0.4, 0.24, 0.54) * Math.sqrt(1 / 3));
    const volts = read("m1:+", "m1:−", "V", stateFor(threadOf(derived, "M1/M2"), "N", "rest"));
    expect(volts.tolerance).toBeGreaterThan(0.3);
    expect(volts.tolerance).toBeLessThan(1.5);
  });
});

it("solves supplies shared by lamps and decoder, whose contacts follow motors on the same supply", () => {
  let record = smallRailway();
  const supply = record.assignments.find((a) => a.role === "supply" && a.toDeviceId === "lp2")!;
  record = {
    ...record,
    assignments: record.assignments.map((a) => (a === supply && a.role === "supply" ? { ...a, deviceId: "ps3" } : a)),
  };
  const derived = new Derived(typed(record, "m1", "name", "x"));
  const reading = derived.reading(threadOf(derived, "M1/M2"), "R", "rest");
  expect(reading.motors[0]!.goesTo).toBe("R");
  expect(reading.lamps[0]!.reverse).toBeGreaterThan(0.005);
});

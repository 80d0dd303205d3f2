// Worked values of the trade, derived from stated figures or common practice without a published source, as each is marked.
import { describe, expect, it } from "vitest";
import { Derived } from "../src/derive.ts";
import { measure } from "../src/readings/meter.ts";
import type { RailwayState } from "../src/readings/states.ts";
import { AT_REST } from "../src/readings/threadReading.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { wantedRail } from "../src/schematic/recipes/frogFeed.ts";
import { coilStation, drafted, findingsOf, railway, retyped, threadOf, typed } from "../testing/build.ts";
import { MISTAKES } from "../testing/mistakes.ts";

const OFF: RailwayState = { asked: {}, moment: "rest", acting: null, off: true };

/** Stall motors that all stand on one output. */
function onOneOutput(motors: number): RailwayRecord {
  const rows = ["A", "B", "C"]
    .slice(0, motors)
    .map((label, index) => [label, index > 0 ? "A" : "", "stall-motor", index > 0 ? "" : "stall-decoder-8"]);
  return railway(...rows);
}

// derived: 12 V open and 10.2 V at 15 mA are 120 ohm; a motor of 680 ohm
describe("a stall-motor output", () => {
  it.each([
    [1, 10.2, 15],
    [2, 8.87, 26.1],
    [3, 7.85, 34.6],
  ])("with %i motors stands at %f V and gives %f mA", (motors, volts, milliamps) => {
    const derived = new Derived(onOneOutput(motors));
    const reading = derived.reading(derived.schematic.threads[0]!, "N", "rest");
    expect(reading.driverVolts).toBeCloseTo(volts, 1);
    expect((reading.driverAmps ?? 0) * 1000).toBeCloseTo(milliamps, 0);
  });

  // derived: 12 V behind 120 ohm
  it("gives 100 mA into a short, and 11.5 V at 4 mA to a motor on its way", () => {
    const derived = new Derived(onOneOutput(1));
    const short = derived.circuitry.short("d1:1A", "d1:1B", ["d1:1A", "d1:1B"]);
    expect(short?.amps).toBeCloseTo(0.1, 3);
    const moving = derived.reading(derived.schematic.threads[0]!, "N", "throwing");
    expect(moving.driverVolts).toBeCloseTo(11.52, 1);
    expect((moving.driverAmps ?? 0) * 1000).toBeCloseTo(4, 0);
  });

  // common practice: 40 mA a output; one and two motors of 15 mA pass, three do not
  it("bears two motors of 15 mA and not three", () => {
    expect(findingsOf(onOneOutput(1), "output-over-limit")).toEqual([]);
    expect(findingsOf(onOneOutput(2), "output-over-limit")).toEqual([]);
    expect(findingsOf(onOneOutput(3), "output-over-limit")).toHaveLength(1);
  });
});

// derived: 72 mA a relay and 50 mA for the board itself
describe("relays on a controller's own 5 V", () => {
  const relays = (count: number): RailwayRecord => {
    const all = MISTAKES["relays-beyond-controller"]!();
    return ["b", "c", "d", "e"].slice(count - 1).reduce((record, id) => typed(record, id, "frog", ""), all);
  };

  it.each([1, 2, 3, 4, 5])("take what %i of them and the board take, through the regulator", (count) => {
    const { circuitry } = new Derived(relays(count));
    const milliamps = circuitry.amps("mc1", "regulator", AT_REST.R) * 1000;
    // besides, each input that is on takes some 4 mA
    expect(milliamps).toBeGreaterThan(50 + 72 * count * 0.97);
    expect(milliamps).toBeLessThan(50 + 77 * count);
    expect(findingsOf(relays(count), "relays-beyond-controller")).toHaveLength(count > 3 ? 1 : 0);
  });
});

// common practice: servo board 9 to 25 V, eight-output decoder 9 to 15 V; 12 V fits both, 18 V the servo board only
describe("supply windows", () => {
  const board = (motor: string, driver: string, control = "") => railway(["A", "", motor, driver, control]);

  it.each([
    ["dc-12", 0, 0],
    ["dc-18", 0, 1],
    ["dc-5", 1, 1],
  ])("%s", (supply, servoBoard, decoder) => {
    const servo = retyped(board("servo", "servo-board-4", "toggle-latching"), "PS1", supply);
    expect(findingsOf(servo, "supply-out-of-range")).toHaveLength(servoBoard);
    const stall = retyped(board("stall-motor", "stall-decoder-8"), "PS1", supply);
    expect(findingsOf(stall, "supply-out-of-range")).toHaveLength(decoder);
  });
});

// common practice: four servos of 0.65 A stalled and 0.2 A moving on a supply of 2 A
it("lets four servos move on a board of 2 A, and warns of what they take against their stops", () => {
  const [finding] = findingsOf(MISTAKES["board-over-total"]!(), "board-over-total");
  expect(finding?.severity).toBe("look");
  expect(finding?.why).toContain("2.60 A");
  const loads = new Derived(MISTAKES["board-over-total"]!()).loads.find(({ deviceId }) => deviceId === "ps1");
  // four of 0.2 A and the board's own 20 mA
  expect(loads?.moving).toBeGreaterThan(0.75);
  expect(loads?.moving).toBeLessThan(0.9);
});

// ISO 11898-2: 120 ohm at each end of the bus, both wires at 2.5 V while nothing is sent
it("reads 60 ohm across a control bus with the power off, and 2.5 V on either wire with it on", () => {
  const { circuitry } = new Derived(railway(["A", "", "stall-motor", "output-node-8"]));
  expect(measure(circuitry, "cb1:H", "cb1:L", "ohm", OFF).value).toBeCloseTo(60, 0);
  for (const wire of ["H", "L"]) {
    expect(measure(circuitry, `cb1:${wire}`, "cb1:0", "V", AT_REST.N).value).toBeCloseTo(2.5, 1);
  }
});

// geometry: the inner rails of both routes cross at the frog
it("wants the right rail on the left-hand route, the left rail on the right-hand one", () => {
  // straight on is the right-hand route of a left-hand turnout and the left-hand route of a right-hand one
  expect([wantedRail("left", "N"), wantedRail("left", "R")]).toEqual(["L", "R"]);
  expect([wantedRail("right", "N"), wantedRail("right", "R")]).toEqual(["R", "L"]);
});

describe("lamps between a frog and the rails, at 15 V of square wave", () => {
  const lamps = (frog: string) => railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamps-frog-diodes", frog]);
  const milliamps = (record: RailwayRecord) => {
    const derived = new Derived(record);
    const lamp = derived.reading(threadOf(derived, "A"), "N", "rest").lamps[0];
    return [(lamp?.normal ?? 0) * 1000, (lamp?.reverse ?? 0) * 1000];
  };

  // derived: (15 - 2.2) V over 1000 ohm; the other sees nothing
  it("light one with 12.8 mA when the frog is fed", () => {
    const [normal = 0, reverse = 0] = milliamps(lamps("S2"));
    expect(normal).toBeCloseTo(12.8, 0);
    expect(reverse).toBeLessThan(0.1);
  });

  // derived: one LED forwards and the other's diode, (15 - 2.1 - 0.7) V over 2000 ohm: both dim, less than half
  it("are both dim when the frog is dead: a diagnosis, not a fault of the lamp", () => {
    const both = milliamps(lamps("dead"));
    for (const each of both) {
      expect(each).toBeGreaterThan(5.5);
      expect(each).toBeLessThan(6.5);
    }
  });
});

// common practice: two boards with factory settings both answer to 1 to 8
it("finds eight collisions between two boards with factory settings", () => {
  const two = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
    const board = draft.addDevice("stall-decoder-8", "D", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: board.id });
    draft.assign("commands", { deviceId: "tb1", toDeviceId: board.id });
  });
  const shared = new Derived(two).addresses.filter(({ sharedWith }) => sharedWith.length > 0);
  expect(new Set(shared.map(({ address }) => address)).size).toBe(8);
});

// derived: a box of centre-off toggles for n coil motors is left by two wires for each and two common ones
it.each([
  [4, 10],
  [19, 40],
])("takes 2n + 2 conductors for %i coil motors: two each, the pulse and the return", (motors, conductors) => {
  const { loom, schematic } = new Derived(coilStation(motors));
  const ofPulses = schematic.nets.filter(({ purpose }) =>
    ["to-normal", "to-reverse", "pulse-plus", "pulse-return"].includes(purpose),
  );
  expect(ofPulses).toHaveLength(conductors);
  expect(conductors).toBe(2 * motors + 2);
  // where the unit is under the layout the return stays there, and only the others go through the cable
  expect(loom.passages).toHaveLength(conductors - 1);
  expect(loom.passages.map(({ purpose }) => purpose)).not.toContain("pulse-return");
});

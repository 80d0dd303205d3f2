import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { LAMPS } from "../../testing/recipes.ts";
import { genericType } from "../catalogue/catalogue.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { regulatorLimit } from "./boardLoads.ts";

const loads = (record: RailwayRecord) =>
  Object.fromEntries(
    new Derived(record).boards.map(({ deviceId, ...load }) => [
      record.devices.find(({ id }) => id === deviceId)?.label,
      load,
    ]),
  );

// derived: 12 V behind 120 ohm on a motor of 680 ohm stalled, of 2880 ohm on its way; eight outputs of 40 mA
it("adds up what the outputs of a board give, at rest and while all move", () => {
  const two = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-2"]);
  const { D1 } = loads(two);
  expect(D1?.rest).toBeCloseTo((2 * 12) / (120 + 680), 3);
  expect(D1?.moving).toBeCloseTo((2 * 12) / (120 + 2880), 3);
  expect(D1?.limit).toBeCloseTo(8 * 0.04, 12);
});

it("counts an output once, however many motors hang on it", () => {
  const pair = railway(["M1", "", "stall-motor", "stall-decoder-8"], ["M2", "M1", "stall-motor"]);
  // derived: two of 680 ohm side by side draw 26.1 mA
  expect(loads(pair).D1?.rest).toBeCloseTo(12 / (120 + 340), 3);
});

it("shows that servos take more while they move, and stall motors less", () => {
  const { SB1 } = loads(railway(["S", "", "servo", "servo-board-4", "toggle-latching"]));
  expect(SB1!.moving).toBeGreaterThan(10 * SB1!.rest);
});

it("leaves out boards with nothing on them, units that give a pulse, and contacts that lend another's current", () => {
  expect(loads(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]))).toEqual({});
  expect(loads(railway(["A", "", "twin-coil-surface", "coil-decoder-4"]))).toEqual({});
  expect(loads(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", "", "relay-board-2"]))).toEqual({});
});

// derived: 12 V less the LED's 2.2 V and the 0.6 V that stay at the output, through 1200 ohm, are 7.7 mA, one of two outputs at a time
it("counts lamps that hang on outputs", () => {
  const { ON1 } = loads(LAMPS["outputs of a node that pull down"]!());
  expect(ON1!.rest).toBeCloseTo(0.0077, 3);
});

it("says what a linear regulator bears at the volts that are left over", () => {
  const type = genericType("servo-board-4")!;
  // derived: 12 W at 12 - 5 V
  expect(regulatorLimit(type, 12)!.amps).toBeCloseTo(12 / 7, 9);
  // at 9 V it bears 3 A, more than its outputs may give in all
  expect(regulatorLimit(type, 9)).toBeNull();
  expect(regulatorLimit(type, 5)).toBeNull();
  expect(regulatorLimit(genericType("stall-decoder-8")!, 12)).toBeNull();
});

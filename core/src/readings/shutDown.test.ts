// A supply that is asked for more than it bears shuts down: what hangs on it is dead, and what would have flowed is told.
import { describe, expect, it } from "vitest";
import { findingsOf, railway, withFigures } from "../../testing/build.ts";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { twoReversingToggles } from "../../testing/mistakes.ts";
import { seeded } from "../../testing/networks.ts";
import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Derived } from "../derive.ts";
import { pinLimits, sweptPiece } from "../hands/hands.ts";
import { leversOf } from "../hands/levers.ts";
import { measure } from "./meter.ts";
import { AT_REST } from "./threadReading.ts";

/** Two reversing toggles thrown opposite ways: the piece, and how its devices stand. */
function shorted() {
  const { circuitry } = new Derived(twoReversingToggles());
  const number = circuitry.piece("ps1:+")!;
  const states = circuitry.statesOf(circuitry.pieces[number]!, AT_REST.N).map((state, place) => {
    const { device } = circuitry.pieces[number]!.members[place]!;
    return device.id === "t1"
      ? { ...state, made: "N" as const }
      : device.id === "t2"
        ? { ...state, made: "R" as const }
        : state;
  });
  return circuitry.solveAs(number, states);
}

// derived: 12 V through the inside resistance of 0.05 ohm and four wires of toggles, where it shuts down from 3 A
it("leaves nothing of a supply that two toggles short, and tells what would flow", () => {
  const point = shorted();
  expect(point.shut).toEqual(new Set(["ps1.inside"]));
  expect(Math.abs(point.amps("ps1.inside")!)).toBeLessThan(1e-6);
  expect(Math.abs(point.between("ps1:+", "ps1:−")!)).toBeLessThan(1e-3);
  expect(Math.abs(point.prospective.amps("ps1.inside")!)).toBeGreaterThan(3);
  expect(point.prospective.between("ps1:+", "ps1:−")).toBeLessThan(12);
});

it("is the point that it would be where nothing shuts down", () => {
  const { circuitry } = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8", "toggle-latching"]));
  const point = circuitry.solve("ps1:+", AT_REST.N)!;
  expect(point.prospective).toBe(point);
  expect(point.shut.size).toBe(0);
});

describe("a meter on a supply", () => {
  const record = railway(["A", "", "stall-motor", "stall-decoder-8", "toggle-latching"]);
  const { circuitry } = new Derived(record);
  const across = (ohms: number) => ({
    elements: [{ kind: "resistor" as const, id: "coin", nodes: ["ps1:+", "ps1:−"] as const, ohms }],
  });

  it("reads nothing when a coin lies across it, and says why", () => {
    const reading = measure(circuitry, "ps1:+", "ps1:−", "V", AT_REST.N, across(0.01));
    expect(Math.abs(reading.value!)).toBeLessThan(0.001);
    expect(reading.reckoned).toMatch(/PS1 has shut down: \d+(\.\d+)? A would flow\.$/);
  });

  // derived: 12 V over 5 ohm are 2.4 A, over 3.9 ohm more than the 3 A from which it shuts down
  it.each([
    [5, 11.8],
    [3.9, 0],
  ])("with %d ohm across it reads %d V", (ohms, volts) => {
    const { value } = measure(circuitry, "ps1:+", "ps1:−", "V", AT_REST.N, across(ohms));
    expect(Math.abs(value! - volts)).toBeLessThan(0.15);
  });
});

it("says that a supply which cannot bear what hangs on it is dead, and what that would take", () => {
  const three = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "toggle-latching"],
    ["B", "", "stall-motor", "D1-2", "toggle-latching"],
    ["C", "", "stall-motor", "D1-3", "toggle-latching"],
  );
  const record = withFigures(three, "PS1", { ratedAmps: 0.04, tripAmps: 0.04 });
  const [finding] = findingsOf(record, "supply-over-rating");
  expect(finding?.why).toMatch(
    /^PS1 would have to give [\d.]+ mA .*, and shuts down from 40\.0 mA: all that hangs on it is dead\.$/,
  );
  const { circuitry } = new Derived(record);
  expect(circuitry.solve("ps1:+", AT_REST.N)!.shut).toEqual(new Set(["ps1.inside"]));
});

// property: whatever is set, no regulated supply and no command station gives more than it shuts down from
it.each(Object.keys(EXHIBITS))("never gives more than it bears in %s", (name) => {
  const { circuitry, loom } = new Derived(EXHIBITS[name]!());
  const random = seeded(17);
  const pins = pinLimits(loom);
  for (const number of circuitry.pieces.keys()) {
    const { members, states, solve } = sweptPiece(circuitry, number, pins);
    for (let sample = 0; sample < 12; sample++) {
      const set = members.map((member, place) =>
        leversOf(member, states[place]!.outputs.keys(), () => true).reduce((state, { settings }) => {
          return settings[Math.floor(random() * settings.length)]!.set(state);
        }, states[place]!),
      );
      const point = solve(set);
      for (const { device, type } of members) {
        if (type.family !== "supply" || !["dc", "track"].includes(traitsOf(type).gives ?? "")) continue;
        expect(Math.abs(point.amps(`${device.id}.inside`) ?? 0)).toBeLessThanOrEqual(opensFrom(protectionOf(type)));
      }
    }
  }
});

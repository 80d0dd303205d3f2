// What can be set goes wrong as it does on the bench; values worked out by hand from the parts.
import { expect, it } from "vitest";
import { drafted, railway, retyped, smallRailway, typed } from "../../testing/build.ts";
import { onReversingToggle } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { atOnce } from "../record/steps.ts";
import { supplyLoads } from "./supplyLoads.ts";
import { standing } from "./words.ts";

/** What goes wrong, each with how things have to stand for it. */
function wrong(record: RailwayRecord) {
  return new Derived(record).hands.map(({ kind, id, amps, when, all }) => ({
    kind,
    label: find(record, "device", id)?.label ?? id,
    amps,
    when: all ? "all" : standing(record, when),
  }));
}

it("finds two reversing toggles on one motor, thrown opposite ways, and only then", () => {
  const one = onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]);
  expect(wrong(one)).toEqual([]);
  const two = drafted(one, (draft) => {
    const toggle = draft.addDevice("toggle-reversing", "T", "panel");
    draft.assign("control", {
      deviceId: toggle.id,
      turnoutId: "a",
      way: null,
      to: null,
      inverse: false,
      follows: false,
    });
  });
  const short = wrong(two).filter(({ kind }) => kind === "short");
  expect(short.map(({ label, when }) => `${label} ${when}`)).toEqual(["PS1 with T1 at N and T2 at R"]);
  // derived: 12 V behind contacts and some metres of 0.5 mm2: tens of amps, were it not for what shuts the supply down
  expect(short[0]!.amps).toBeGreaterThan(3);
});

it("finds a coil that a toggle leaves on, and what it does to the unit", () => {
  expect(wrong(smallRailway())).toEqual([]);
  const latched = wrong(retyped(smallRailway(), "T1", "toggle-latching")).filter(({ kind }) => kind === "coil");
  expect(latched.map(({ label, when }) => `${label} ${when}`)).toEqual(["Y1 with T1 at N", "Y1 with T1 at R"]);
  // derived: 24.6 V from 16 V AC, through the unit's 100 ohm and a coil of 4 ohm: 0.23 A, to which the other half adds nothing
  expect(latched[0]!.amps).toBeGreaterThan(0.21);
  expect(latched[0]!.amps).toBeLessThan(0.25);
});

it("burns a coil on a bare supply while a finger stays on its control", () => {
  const held = wrong(typed(smallRailway(), "y1", "driver", "PS1")).filter(({ kind }) => kind === "coil");
  expect(held.map(({ label, when }) => `${label} ${when}`)).toEqual(["Y1 with T1 held at N", "Y1 with T1 held at R"]);
  // derived: 16 V (rms) across 4 ohm, wires and contacts: below 4 A
  expect(held[0]!.amps).toBeGreaterThan(2.5);
  expect(held[0]!.amps).toBeLessThan(4);
});

it("finds the wires on either side of a toggle that its coils overload, though both draw alike", () => {
  const record = completed(smallRailway());
  const onPlug = { ...record, strips: record.strips.map((strip) => ({ ...strip, pinAmps: 0.1 })) };
  const wires = new Derived(onPlug).hands.filter(({ kind }) => kind === "wire").map(({ id }) => id);
  const sides = ["N", "R"].map((side) => wires.some((id) => id.endsWith(`>y2:${side}`)));
  expect(sides).toEqual([true, true]);
});

it("says nothing of a decoder with its motors, whatever it is told", () => {
  expect(wrong(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]))).toEqual([]);
});

it("reckons a servo held against its stop into what its supply gives at most", () => {
  const { circuitry } = new Derived(railway(["A", "", "servo", "servo-board-4", "toggle-latching"]));
  const load = atOnce(supplyLoads(circuitry)).find(({ deviceId }) => deviceId.startsWith("ps"))!;
  expect(load.blocked).toBe(true);
  expect(load.worst).toBeGreaterThan(load.moving);
  expect(load.worst).toBeGreaterThan(load.rest);
  expect(load.when).toContain("held against a stop");
});

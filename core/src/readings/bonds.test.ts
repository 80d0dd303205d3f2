// Turnouts that share a control or an output do together what it does, whichever of them is asked.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway, smallRailway, threadOf } from "../../testing/build.ts";
import { routeButton, SHARED, zonesAtInputs } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { ByWay } from "../record/byWay.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { sideMade } from "../schematic/recipes/controlSides.ts";
import { controlsOf, threadsOf } from "../schematic/thread.ts";
import { Bonds } from "./bonds.ts";
import { askedOf, type RailwayState, RESTING } from "./states.ts";
import { stateFor } from "./threadReading.ts";

/** Where the motors of A and B go in a state. */
function goes(record: RailwayRecord, state: (derived: Derived) => RailwayState): string {
  const derived = new Derived(record);
  return ["a", "b"].map((motor) => derived.circuitry.motorGoesTo(motor, state(derived)) ?? "-").join("");
}

const POSITIONS = ["N", "R"] as const;

describe.each(Object.entries(SHARED))("%s", (_what, { make, follows, stays }) => {
  const record = make();
  const inverse = (position: Position) => POSITIONS.find((each) => follows[each] === position);

  it.each(POSITIONS)("throws both when A is thrown to %s", (position) => {
    const both = `${position}${follows[position]}`;
    expect(goes(record, (derived) => stateFor(threadOf(derived, "A"), position, "throwing"))).toBe(both);
    // what springs back leaves each to be thrown by others
    expect(goes(record, () => ({ ...RESTING, asked: { a: position } }))).toBe(stays ? both : `${position}N`);
  });

  it.each(POSITIONS)("throws both when B is thrown to %s", (position) => {
    const both = `${inverse(position)}${position}`;
    expect(goes(record, (derived) => stateFor(threadOf(derived, "B"), position, "throwing"))).toBe(both);
  });

  it("reads both turnouts as they are asked, at rest too", () => {
    const derived = new Derived(record);
    for (const label of ["A", "B"]) {
      const thread = threadOf(derived, label);
      for (const position of POSITIONS)
        expect([label, derived.reading(thread, position, "rest").motors[0]?.goesTo]).toEqual([label, position]);
    }
    expect(derived.findings.filter(({ ruleId }) => ruleId === "goes-astray")).toEqual([]);
  });

  it("is worked out anew when the sharing ends, as if it had never been", () => {
    const before = new Derived(record);
    for (const thread of before.schematic.threads) before.reading(thread, "R", "rest");
    const parted = drafted(record, (draft) => draft.unassign((a) => a.role === "control" && a.turnoutId === "b"));
    const [after, anew] = [new Derived(parted, before), new Derived(parted)];
    const all = (derived: Derived) =>
      derived.schematic.threads.flatMap((thread) => POSITIONS.map((at) => derived.reading(thread, at, "throwing")));
    expect(all(after)).toEqual(all(anew));
  });
});

it("throws the turnouts of a route with its one button, each to its own side", () => {
  const record = routeButton();
  expect(goes(record, (derived) => stateFor(threadOf(derived, "A"), "N", "throwing"))).toBe("NR");
  expect(goes(record, (derived) => stateFor(threadOf(derived, "B"), "R", "throwing"))).toBe("NR");
  const derived = new Derived(record);
  const [a, b] = derived.schematic.threads;
  expect(derived.findings.filter(({ ruleId }) => ruleId === "control-not-heard")).toEqual([]);
  // both boards' inputs see the one press
  const pressed = stateFor(a!, "N", "throwing");
  expect(derived.circuitry.volts("d1:I1N", "d1:−", pressed)).toBeLessThan(1);
  expect(derived.circuitry.volts("d2:I1R", "d2:−", pressed)).toBeLessThan(1);
  expect(b?.control?.device.label).toBe("T1");
});

it("hears two zones of one detector at two inputs", () => {
  const derived = new Derived(zonesAtInputs());
  const [a, b] = derived.schematic.threads;
  expect([a?.control?.reader?.way, b?.control?.reader?.way]).toEqual([5, 6]);
  const occupied = stateFor(a!, "R", "throwing");
  const volts = (input: string) => derived.circuitry.volts(`in1:${input}`, "in1:−", occupied) ?? Number.NaN;
  expect(volts("I5")).toBeLessThan(1);
  expect(volts("I6")).toBeGreaterThan(3);
  expect(derived.findings.filter(({ ruleId }) => ruleId === "control-not-heard")).toEqual([]);
});

it("tells what goes along with a throw, by the control that does it", () => {
  const shared = SHARED["a pole of one lever each"]!.make();
  const record = drafted(shared, (draft) => {
    const { id: deviceId } = draft.addDevice("toggle-centre-off", "T", "panel");
    draft.assign("control", { deviceId, turnoutId: "a", way: null, to: null, inverse: false, follows: false });
  });
  const { circuitry, schematic } = new Derived(record);
  const [lever, own] = controlsOf(schematic.threads[0]!).map(({ assignment }) => assignment.id);
  expect(circuitry.along("a", "R")).toEqual({ a: "R", b: "N" });
  expect(circuitry.along("a", "N", lever)).toEqual({ a: "N", b: "R" });
  expect(circuitry.along("a", "R", own)).toEqual({ a: "R" });
});

it("leaves a state as it is where nothing is shared", () => {
  const { threads } = new Derived(smallRailway()).schematic;
  const state: RailwayState = { ...RESTING, asked: { y1: "R" } };
  expect(new Bonds(threads).settle(state)).toBe(state);
});

it("lets the turnout that is thrown decide, then those that are named, then the order of the list", () => {
  const bonds = new Bonds(
    new Derived(SHARED["one reversing toggle, for B labelled the other way"]!.make()).schematic.threads,
  );
  const stands = (state: RailwayState) => ["a", "b"].map((leader) => askedOf(bonds.settle(state), leader)).join("");
  expect(stands({ ...RESTING, asked: { a: "R", b: "R" }, moment: "held", acting: "b" })).toBe("NR");
  expect(stands({ ...RESTING, asked: { b: "N" } })).toBe("RN");
  expect(stands({ ...RESTING, otherwise: "R" })).toBe("RN");
});

/** Turnouts of which each but the first shares a latching toggle with an earlier one, on either side of it. */
const tree = fc
  .array(fc.record({ parent: fc.nat(), inverseThere: fc.boolean(), inverseHere: fc.boolean() }), {
    minLength: 1,
    maxLength: 6,
  })
  .map((links) =>
    drafted(railway(...["first", ...links.map((_, index) => `V${index}`)].map((label) => [label])), (draft) => {
      for (const [index, { parent, inverseThere, inverseHere }] of links.entries()) {
        const { turnouts } = draft.record;
        const byOrder = [...turnouts].sort((a, b) => a.order - b.order);
        const { id: deviceId } = draft.addDevice("toggle-latching", "T", "panel");
        const asks = { deviceId, way: null, to: null };
        draft.assign("control", {
          ...asks,
          turnoutId: byOrder[parent % (index + 1)]!.id,
          inverse: inverseThere,
          follows: false,
        });
        draft.assign("control", { ...asks, turnoutId: byOrder[index + 1]!.id, inverse: inverseHere, follows: false });
      }
    }),
  );

it("leaves no toggle on two sides at once, whatever a state names", () => {
  const position = fc.constantFrom<Position>("N", "R");
  const looks = fc.record({
    named: fc.array(fc.tuple(fc.nat(6), position), { maxLength: 3 }),
    otherwise: position,
    acting: fc.option(fc.nat(6)),
  });
  fc.assert(
    fc.property(tree, looks, (record, { named, otherwise, acting }) => {
      const threads = threadsOf(record);
      const leader = (index: number) => threads[index % threads.length]!.turnout.id;
      const asked = Object.fromEntries(named.map(([index, to]) => [leader(index), to]));
      const state: RailwayState =
        acting === null
          ? { ...RESTING, asked, otherwise }
          : { ...RESTING, asked, otherwise, moment: "throwing", acting: leader(acting) };
      const bonds = new Bonds(threads);
      const settled = bonds.settle(state);
      expect(bonds.settle(settled)).toBe(settled);
      if (state.acting) expect(askedOf(settled, state.acting)).toBe(askedOf(state, state.acting));
      const sides = new ByWay<Set<Position>>();
      for (const thread of threads) {
        for (const control of controlsOf(thread)) {
          const side = sideMade(control, askedOf(settled, thread.turnout.id));
          sides.at(control.device.id, null, () => new Set()).add(side);
        }
      }
      for (const made of sides.values()) expect(made.size).toBe(1);
    }),
    { numRuns: 200 },
  );
});

it("feeds two frogs from one polarity unit with the same rail, where two units give each its own", () => {
  const two = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", "", "polarity unit"],
    ["B", "", "stall-motor", "stall-decoder-8", "", "", "polarity unit"],
  );
  const record = drafted(two, (draft) => {
    const [first, second] = draft.record.assignments.filter((a) => a.role === "frog");
    if (first?.role === "frog" && second?.role === "frog") draft.put("assignment", { ...second, fromId: first.fromId });
  });
  const derived = new Derived(record);
  const frogs = ["A", "B"].map((label) => {
    const state = { ...RESTING, asked: { a: "R" } } as const;
    const { device } = threadOf(derived, label).frogs[0]!;
    return derived.circuitry.volts(`${device.id}:F`, `${device.id}:L`, state);
  });
  // A lies at reverse, B at normal, and the one unit follows A
  expect(frogs[0]).toBeCloseTo(frogs[1]!, 1);
  const lone = new Derived(two);
  const own = ["A", "B"].map((label) => {
    const { device } = threadOf(lone, label).frogs[0]!;
    return lone.circuitry.volts(`${device.id}:F`, `${device.id}:L`, { ...RESTING, asked: { a: "R" } });
  });
  expect(Math.abs(own[0]! - own[1]!)).toBeGreaterThan(10);
});

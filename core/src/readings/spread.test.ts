import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied, retyped, withFigures } from "../../testing/build.ts";
import { DRIVING, FROGS } from "../../testing/recipes.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import type { Figure } from "../catalogue/deviceType.ts";
import type { Element } from "../circuit/elements.ts";
import { Derived } from "../derive.ts";
import { combined, NO_SPREAD, normalBelow, shareBelow, variationsOf } from "./spread.ts";
import type { RailwayState } from "./states.ts";
import { ALL_MOVING, AT_REST, stateFor } from "./threadReading.ts";

/** Numbers between 0 and 1, the same for the same seed. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return state / 2 ** 32;
  };
}

describe("the normal distribution", () => {
  // Abramowitz, Stegun, table 26.1 (from memory): 0.5, 0.841345, 0.977250, 0.998650
  it("is that of the tables", () => {
    const shares = [0, 1, 2, 3].map(normalBelow);
    for (const [index, table] of [0.5, 0.841345, 0.97725, 0.99865].entries())
      expect(shares[index]).toBeCloseTo(table, 5);
    fc.assert(
      fc.property(fc.double({ min: -6, max: 6, noNaN: true }), (z) => {
        expect(normalBelow(z) + normalBelow(-z)).toBeCloseTo(1, 6);
      }),
    );
  });
});

describe("parts that differ", () => {
  it("add up at their worst, and by their squares when they are independent", () => {
    const { corner, sigma } = combined([0.3, -0.4]);
    expect(corner).toBeCloseTo(0.7, 12);
    expect(sigma).toBeCloseTo(0.5 / Math.sqrt(3), 12);
  });

  it("never fail beyond their corner, and always fail below it", () => {
    const spread = combined([0.5, 0.5]);
    expect(shareBelow(10, spread, 8.9, 0)).toBe(0);
    expect(shareBelow(10, spread, 11.1, 0)).toBe(1);
    expect(shareBelow(10, spread, 10, 0)).toBeCloseTo(0.5, 6);
    expect(shareBelow(10, NO_SPREAD, 9, 0)).toBe(0);
    expect(shareBelow(10, NO_SPREAD, 9, 0.2)).toBeGreaterThan(0);
  });
});

describe("a relay across a stall motor's leads", () => {
  const record = withFigures(retyped(FROGS["a relay beside a stall motor"]!(), "RY1", "relay-dpdt"), "RY1", {
    pullInVolts: 8.2,
  });

  /** Share of builds in which it does not pick up, parts drawn anywhere within their tolerances. */
  function drawn(builds: number): number {
    const random = seeded(7);
    const within = (value: number, tolerance: number) => value * (1 + tolerance * (2 * random() - 1));
    let failed = 0;
    for (let build = 0; build < builds; build++) {
      const [volts, inside] = [within(12, 0.03), within(120, 0.1)];
      const [motor, coil, least] = [within(680, 0.1), within(889, 0.1), within(8.2, 0.035)];
      // by hand: the output behind its resistance, the motor beside the coil and its diode of 0.67 V
      const drop = 0.67;
      const both = (volts / inside + drop / coil) / (1 / inside + 1 / motor + 1 / coil);
      if (both - drop < least) failed++;
    }
    return failed / builds;
  }

  it("fails in as many builds as drawing their parts at random gives", () => {
    const [finding] = findingsOf(record, "barely-switches");
    const share = 1 / Number(/one such build in (\d+) fails/.exec(finding!.why)![1]);
    expect(Math.abs(share / drawn(20_000) - 1)).toBeLessThan(0.35);
  });

  it("is safe as one of 9 V, and one that gets too little even as printed is not told twice", () => {
    const [finding] = findingsOf(record, "barely-switches");
    const safe = remedied(record, finding!, "Take a relay of 9 V for RY1");
    expect(findingsOf(safe, "barely-switches")).toEqual([]);
    const never = withFigures(retyped(FROGS["a relay beside a stall motor"]!(), "RY1", "relay-dpdt"), "RY1", {
      pullInVolts: 11,
    });
    const said = new Derived(never).findings.filter(({ severity }) => severity === "stop");
    expect(said.map(({ ruleId }) => ruleId)).toEqual(["barely-switches"]);
    expect(said[0]!.why).toMatch(/every such build fails\.$/);
  });
});

describe("a latching relay", () => {
  const latched = FROGS["a latching relay beside coils"]!();

  // derived: 4700 uF and 4.6 ohm fall from 17 V to 9 V in 14 ms; 1000 uF in 3 ms, which is less than 5 ms
  it("needs its volts for some milliseconds", () => {
    expect(findingsOf(latched, "barely-switches")).toEqual([]);
    const short = withFigures(latched, "CD1", { farads: 1000e-6 });
    const [finding] = findingsOf(short, "barely-switches");
    expect(finding!.why).toMatch(/^RY1 has its volts for [34]\.\d ms, and goes over from 5\.0 ms on: .* fail\.$/);
    const { circuitry, schematic } = new Derived(short);
    const [thread] = schematic.threads;
    const [frog] = thread!.frogs;
    const carries = (position: "N" | "R") =>
      Math.abs(
        circuitry.volts(`${frog!.device.id}:F`, `${frog!.device.id}:L`, stateFor(thread!, position, "rest")) ?? 0,
      ) < 1;
    // its contacts stay where they are
    expect(carries("N")).toBe(carries("R"));
  });
});

describe("a linear regulator", () => {
  const servo = (volts: number) => {
    const record = railway(["A", "", "servo", "servo-board-4", "toggle-latching"]);
    const supply = record.devices.find(({ typeId }) => typeId.startsWith("dc-"))!;
    return new Derived(withFigures(record, supply.label, { volts })).circuitry;
  };
  const across = (volts: number) => servo(volts).volts("sb1:servos", "sb1:−", AT_REST.N);

  // derived: it takes 2 V at least, so it holds 5 V from 7 V on and follows its input below
  it("holds its volts down to its drop-out, then follows", () => {
    for (const volts of [15, 12, 11.28, 7.5]) expect(across(volts)).toBeCloseTo(5, 6);
    const low = servo(6);
    const input = low.volts("sb1:+", "sb1:−", AT_REST.N)!;
    expect(low.volts("sb1:servos", "sb1:−", AT_REST.N)).toBeCloseTo(input - 2, 6);
  });

  it("keeps its supply's tolerance from what it feeds, and passes its own on", () => {
    const at = (volts: number) => servo(volts).spreadOf("sb1:servos", "sb1:−", AT_REST.N)!.spread.corner;
    // 4 % of 5 V, however much the supply differs
    expect(at(12)).toBeCloseTo(0.2, 3);
    expect(at(15)).toBeCloseTo(at(12), 3);
    // down at its drop-out the supply's 3 % of 6 V come through
    expect(at(6)).toBeCloseTo(0.18, 2);
  });

  it("gives nothing without a supply", () => {
    const record = railway(["A", "", "servo", "servo-board-4", "toggle-latching"]);
    const unfed = drafted(record, (draft) => draft.unassign((a) => a.role === "supply"));
    const { circuitry } = new Derived(unfed);
    expect(Math.abs(circuitry.volts("sb1:servos", "sb1:−", AT_REST.N) ?? 0)).toBeLessThan(0.01);
  });
});

describe("what a control pulls down, and a relay behind a key", () => {
  const heard = (thresholdVolts: number, inputDiodes: number) =>
    withFigures(railway(["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off"]), "D1", {
      thresholdVolts,
      inputDiodes,
    });
  const told = (record: ReturnType<typeof heard>) => findingsOf(record, "barely-switches").map(({ why }) => why);

  // derived: a diode drops some 0.5 V at half a milliamp; 1.5 V less a fifth are far above it, 0.55 V are not
  it("has a margin of a volt through a diode, and none where the board wants half a volt", () => {
    expect(told(heard(1.5, 0))).toEqual([]);
    expect(told(heard(1.5, 1))).toEqual([]);
    const [why] = told(heard(0.55, 1));
    expect(why).toMatch(
      /^An input of D1 is pulled down to 0\.[45]\d? V, and counts as closed below 0\.\d+ V: by the tolerances of its parts .* fails?\.$/,
    );
    expect(told(heard(0.55, 0))).toEqual([]);
  });

  it("picks up on 12 V, and barely on 9 V", () => {
    const locked = DRIVING["reversing toggle, locked out by a relay"]!();
    expect(told(locked)).toEqual([]);
    const supply = locked.assignments.find(
      (a) => a.role === "supply" && locked.devices.find(({ id }) => id === a.toDeviceId)?.label === "RY1",
    );
    const { label } = locked.devices.find(({ id }) => supply?.role === "supply" && id === supply.deviceId)!;
    const [why] = told(withFigures(locked, label, { volts: 9.4 }));
    expect(why).toMatch(/^RY1 gets 9\.\d V, and picks up from 9\.\d V on: /);
  });
});

describe("builds drawn at random and solved", () => {
  const DRAWS = 3000;

  /** Share of builds in which less than a least arrives, all figures drawn within their tolerances. */
  function failing(
    circuitry: Derived["circuitry"],
    ends: [string, string],
    state: RailwayState,
    least: Figure,
  ): number {
    const random = seeded(3);
    const between = () => 2 * random() - 1;
    const solved = circuitry.solveWith(ends[0], state, { elements: [] })!;
    const variations = variationsOf(circuitry.record, solved);
    let failed = 0;
    for (let draw = 0; draw < DRAWS; draw++) {
      const by = new Map<string, number>();
      for (const { key } of variations) if (!by.has(key)) by.set(key, between());
      const changes = new Map(variations.map(({ key, element, share }) => [element.id, (by.get(key) ?? 0) * share]));
      const build = (element: Element): Element => {
        const times = 1 + (changes.get(element.id) ?? 0);
        if (element.kind === "resistor") return { ...element, ohms: element.ohms * times };
        if (element.kind === "switch") return { ...element, onOhms: element.onOhms * times };
        if (element.kind !== "voltage") return element;
        const { holds, volts } = element;
        return holds
          ? { ...element, holds: { ...holds, volts: holds.volts * times } }
          : { ...element, volts: volts * times };
      };
      const point = circuitry.solveWith(ends[0], state, { elements: [], build })!.circuit.point();
      if (Math.abs(point.between(...ends) ?? 0) < least.value * (1 + least.tolerance * between())) failed++;
    }
    return failed / DRAWS;
  }

  it.each([
    [
      "a stall motor on an output",
      ["stall-motor", "stall-decoder-8", ""],
      "A",
      { leastVolts: 10 },
      ["a:+", "a:−"],
      AT_REST.N,
    ],
    [
      "a servo while it moves",
      ["servo", "servo-board-4", "toggle-latching"],
      "A",
      { leastVolts: 4.9 },
      ["a:+", "a:−"],
      ALL_MOVING.N,
    ],
  ] as const)("fail as often as the adjoint network says: %s", (_, row, label, figures, [plus, minus], state) => {
    const record = withFigures(railway(["A", "", ...row]), label, figures);
    const { circuitry } = new Derived(record);
    const least = typeOf(record, record.devices.find((each) => each.label === label)!).figures.leastVolts!;
    const at = circuitry.spreadOf(plus, minus, state)!;
    const share = shareBelow(Math.abs(at.volts), at.spread, least.value, least.tolerance);
    const drawn = failing(circuitry, [plus, minus], state, least);
    expect(drawn).toBeGreaterThan(0.01);
    expect(drawn).toBeLessThan(0.99);
    expect(Math.abs(share - drawn)).toBeLessThan(0.04);
  });
});

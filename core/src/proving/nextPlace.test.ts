import { describe, expect, it } from "vitest";
import { mounted, railway, smallRailway, threadOf } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import { Derived } from "../derive.ts";
import { SHORT_OHMS } from "../readings/circuitry.ts";
import { measure } from "../readings/meter.ts";
import type { Extra } from "../readings/solving.ts";
import type { RailwayState } from "../readings/states.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { Reading } from "../record/schemas.ts";
import { faultWords, type MeasuringPoint, measuringPoints, nextPlace, standingAt } from "./nextPlace.ts";
import { type Sign, signOf } from "./signs.ts";

const names = (points: readonly MeasuringPoint[]) => points.map(({ redName, blackName }) => `${redName} ${blackName}`);

describe("places to measure", () => {
  it("run from the supply to the motor, to the lamp and to the frog", () => {
    const derived = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S2"]));
    const lists = measuringPoints(derived.record, threadOf(derived, "A"));
    expect(lists.map(names)).toEqual([
      ["PS1+ PS1−", "D1+ D1−", "D1-1A D1-1B", "A+ A−"],
      ["PS2+ PS2−", "A-S1c PS2−", "A-S1n PS2−", "LP1-G LP1-0"],
      ["PS2+ PS2−", "A-S1c PS2−", "A-S1r PS2−", "LP1-Y LP1-0"],
      ["TB1-J TB1-K", "AF-L AF-R", "A-S2n A-S2r", "AF-F AF-L"],
    ]);
  });

  it("can all be measured, whatever the turnout is made of", () => {
    for (const [name, make] of Object.entries({ ...DRIVING, ...FROGS, ...LAMPS })) {
      const { circuitry, record, schematic } = new Derived(make());
      for (const points of schematic.threads.flatMap((thread) => measuringPoints(record, thread))) {
        for (const { red, black } of points) {
          expect(measure(circuitry, red, black, "V", AT_REST.N).value, `${name}: ${red} ${black}`).not.toBeNull();
        }
      }
    }
  });
});

describe("the next place", () => {
  const points = ["a", "b", "c", "d", "e"].map((red) => ({ red, black: "0", redName: red, blackName: "0" }));
  const next = (signs: Record<string, Sign>) => nextPlace(points, ({ red }) => signs[red] ?? null);

  it("halves what lies between the last up to which the way is whole and the first where it is not", () => {
    expect(next({ e: "zero" })).toEqual({ measure: points[2] });
    expect(next({ e: "zero", c: "agrees" })).toEqual({ measure: points[3] });
    expect(next({ e: "zero", c: "zero" })).toEqual({ measure: points[1] });
    // too many volts: the way is whole so far, and what should load it is missing further on
    expect(next({ c: "over" })).toEqual({ measure: points[4] });
  });

  it("names the fault when nothing is left between, by the signs of the two", () => {
    const fault = (signs: Record<string, Sign>) => {
      const found = next(signs);
      return found && "fault" in found ? [found.fault.kind, ...found.fault.between.map((each) => each?.red)] : found;
    };
    expect(fault({ e: "zero", c: "agrees", d: "agrees" })).toEqual(["open-or-short", "d", "e"]);
    expect(fault({ e: "zero", c: "over", d: "over" })).toEqual(["open", "d", "e"]);
    expect(fault({ e: "over", d: "over" })).toEqual(["no-load", "d", "e"]);
    expect(fault({ a: "zero" })).toEqual(["open-or-short", undefined, "a"]);
    expect(fault({ c: "agrees", d: "reversed", e: "reversed" })).toEqual(["exchanged", "c", "d"]);
    expect(fault({ c: "agrees", d: "under" })).toEqual(["loss-or-overload", "c", "d"]);
  });

  it("is nowhere when nothing disagrees", () => {
    expect(next({})).toBeNull();
    expect(next({ a: "agrees", e: "agrees" })).toBeNull();
  });

  it("finds any single break in at most three readings more", () => {
    for (let broken = 0; broken < points.length; broken++) {
      const read: Record<string, Sign> = { e: "zero" };
      let steps = 0;
      for (let found = next(read); found && "measure" in found; found = next(read)) {
        const at = points.indexOf(found.measure);
        read[found.measure.red] = at < broken ? "over" : "zero";
        steps++;
      }
      const end = next(read);
      expect(end && "fault" in end && end.fault.between[1]).toBe(points[broken]);
      expect(steps).toBeLessThanOrEqual(3);
    }
  });
});

describe("what is said of a fault is true of the circuit that has it", () => {
  const ALL = { ...DRIVING, ...FROGS, ...LAMPS };

  /** Follows the advice in a faulty circuit, from a reading at the end of a list, to what it says; null when all agrees. */
  function followed(derived: Derived, points: readonly MeasuringPoint[], state: RailwayState, fault: Extra) {
    const sound = points.map(({ red, black }) => measure(derived.circuitry, red, black, "V", state));
    // a list whose end should read nothing tells nothing of a load
    if (!(Math.abs(sound.at(-1)?.value ?? 0) > 1)) return null;
    const signs = new Map<MeasuringPoint, Sign>();
    const read = (point: MeasuringPoint) => {
      const { value, tolerance } = sound[points.indexOf(point)]!;
      const said = measure(derived.circuitry, point.red, point.black, "V", state, fault).value;
      const [low, high] = value === null ? [null, null] : [value - tolerance, value + tolerance];
      signs.set(point, signOf({ expected: value, low, high, read: said ?? 0 }));
    };
    read(points.at(-1)!);
    for (let step = 0; step < points.length; step++) {
      const found = nextPlace(points, (point) => signs.get(point) ?? null);
      if (!found || "fault" in found) return found && "fault" in found ? found.fault : null;
      read(found.measure);
    }
    throw new Error("The advice never comes to an end.");
  }

  /** Nets that the terminals of a place lie on. */
  const netsOf = ({ schematic }: Derived, point: MeasuringPoint | null) =>
    [point?.red, point?.black].map(
      (key) =>
        schematic.nets.find(({ ends }) => ends.some(({ deviceId, terminal }) => `${deviceId}:${terminal}` === key))?.id,
    );

  const cases = Object.entries(ALL).flatMap(([name, make]) => {
    const derived = new Derived(make());
    return derived.schematic.threads.flatMap((thread) =>
      measuringPoints(derived.record, thread).map((points, list) => ({ name, derived, thread, points, list })),
    );
  });

  it.each(cases.map((each) => [`${each.name}, list ${each.list + 1}`, each] as const))(
    "with any wire open: %s",
    (_, at) => {
      const { derived, points } = at;
      for (const position of ["N", "R"] as const) {
        for (const wire of derived.loom.wires) {
          const fault = followed(derived, points, AT_REST[position], {
            elements: [],
            added: { wire: wire.id, ohms: 1e9 },
          });
          if (!fault) continue;
          const [good, bad] = fault.between;
          const said = `${wire.from.name} to ${wire.to.name} open: ${faultWords(fault)}`;
          expect(said.slice(said.indexOf(" open: ") + 7), said).toMatch(/open/);
          // the wire lies on the way between the two places, or behind the one that has no load
          const nets = [...netsOf(derived, good), ...netsOf(derived, bad)];
          const behind = fault.kind === "no-load" || isBehind(derived, points, bad, wire.net);
          expect(nets.includes(wire.net) || behind, said).toBe(true);
        }
      }
    },
  );

  /** Whether a net lies at a place of a list that comes after another. */
  function isBehind(derived: Derived, points: readonly MeasuringPoint[], bad: MeasuringPoint, net: string): boolean {
    return points.slice(points.indexOf(bad) + 1).some((point) => netsOf(derived, point).includes(net));
  }

  it.each(cases.map((each) => [`${each.name}, list ${each.list + 1}`, each] as const))(
    "with a short at any place: %s",
    (_, at) => {
      const { derived, points } = at;
      for (const point of points) {
        const element: Element = { kind: "resistor", id: "fault", nodes: [point.red, point.black], ohms: SHORT_OHMS };
        const fault = followed(derived, points, AT_REST.N, { elements: [element] });
        if (!fault) continue;
        const said = `${point.redName} and ${point.blackName} touch: ${faultWords(fault)}`;
        expect(["open-or-short", "loss-or-overload"], said).toContain(fault.kind);
        // the short is at the place named, or behind it
        expect(points.indexOf(fault.between[1]), said).toBeLessThanOrEqual(points.indexOf(point));
      }
    },
  );

  it.each(Object.keys(DRIVING))("with the leads of a motor exchanged: %s", (name) => {
    const sound = new Derived(DRIVING[name]!());
    const [thread] = sound.schematic.threads;
    const motor = thread!.motors[0]!;
    if (traitsOf(motor.type).movedBy !== "reversal") return;
    const swapped = new Derived(mounted(sound.record, motor.turnout.id, { crossed: true }));
    const points = measuringPoints(sound.record, thread!)[0]!;
    const signs = points.map(({ red, black }) => {
      const { value, tolerance } = measure(sound.circuitry, red, black, "V", AT_REST.N);
      const read = measure(swapped.circuitry, red, black, "V", AT_REST.N).value ?? 0;
      return signOf({ expected: value, low: value! - tolerance, high: value! + tolerance, read });
    });
    const found = nextPlace(points, (point) => signs[points.indexOf(point)]!);
    // one that is let go stands without power, and shows nothing
    if (signs.at(-1) === "agrees") return;
    expect(found).toMatchObject({ fault: { kind: "exchanged", between: [points.at(-2), points.at(-1)] } });
  });
});

it("goes by the latest reading between two terminals in the same state, whichever probe is where", () => {
  const derived = new Derived(smallRailway());
  const [list] = measuringPoints(derived.record, threadOf(derived, "M1/M2"));
  const at = list?.[2];
  if (!at) throw new Error("The thread has no third place.");
  const state = { turnoutId: "m1", position: "N", moment: "rest" } as const;
  const reading = (id: string, time: string, agrees: boolean, more: Partial<Reading> = {}): Reading => ({
    ...{ id, red: at.black, black: at.red, redName: "x", blackName: "y", range: "V", ...state },
    ...{ expected: 8.9, low: 8, high: 10, read: agrees ? 9 : 7, agrees, at: `2026-01-01T10:0${time}:00.000Z` },
    ...more,
  });
  const first = reading("a", "1", true);
  const later = reading("b", "2", false);
  expect(standingAt([later, first], at, state)).toBe("under");
  expect(standingAt([first], at, state)).toBe("agrees");
  expect(standingAt([reading("c", "3", true, { position: "R" })], at, state)).toBeNull();
});

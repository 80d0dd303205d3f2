import { describe, expect, it } from "vitest";
import { railway, smallRailway, threadOf } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { measure } from "../readings/meter.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { Reading } from "../record/schemas.ts";
import { type MeasuringPoint, measuringPoints, nextPlace, standingAt } from "./nextPlace.ts";

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
  const next = (agrees: Record<string, boolean>) => nextPlace(points, ({ red }) => agrees[red] ?? null);

  it("halves what lies between the last that agreed and the first that did not", () => {
    expect(next({ e: false })).toEqual({ measure: points[2] });
    expect(next({ e: false, c: true })).toEqual({ measure: points[3] });
    expect(next({ e: false, c: false })).toEqual({ measure: points[1] });
  });

  it("names the two between which the fault lies when nothing is left between", () => {
    expect(next({ e: false, c: true, d: true })).toEqual({ between: [points[3], points[4]] });
    expect(next({ a: false })).toEqual({ between: [null, points[0]] });
  });

  it("is nowhere when nothing disagrees", () => {
    expect(next({})).toBeNull();
    expect(next({ a: true, e: true })).toBeNull();
  });

  it("finds any single break in at most three readings more", () => {
    for (let broken = 0; broken < points.length; broken++) {
      const read: Record<string, boolean> = { e: false };
      let steps = 0;
      for (let found = next(read); found && "measure" in found; found = next(read)) {
        const at = points.indexOf(found.measure);
        read[found.measure.red] = at < broken;
        steps++;
      }
      const end = next(read);
      expect(end && "between" in end && end.between[1]).toBe(points[broken]);
      expect(steps).toBeLessThanOrEqual(3);
    }
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
    ...{ expected: 8.9, low: 8, high: 10, read: 9, agrees, at: `2026-01-01T10:0${time}:00.000Z` },
    ...more,
  });
  const first = reading("a", "1", true);
  const later = reading("b", "2", false);
  expect(standingAt([later, first], at, state)).toBe(false);
  expect(standingAt([first], at, state)).toBe(true);
  expect(standingAt([reading("c", "3", true, { position: "R" })], at, state)).toBeNull();
});

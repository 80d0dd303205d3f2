// The bands that pass, against builds drawn at random and solved: parts within their tolerances, LEDs and copper as they differ,
// mains and regulation, and the meter itself. Between 95 and 99.9 of 100 sound builds must lie inside.
import { group } from "d3-array";
import { describe, expect, it } from "vitest";
import type { Element } from "../src/circuit/elements.ts";
import { THERMAL_VOLTS } from "../src/circuit/elements.ts";
import { Derived } from "../src/derive.ts";
import { laidWires } from "../src/loom/laidWires.ts";
import { looseOf, testSteps } from "../src/proving/testSteps.ts";
import { measure, type Range, uncertainty } from "../src/readings/meter.ts";
import type { Extra } from "../src/readings/solving.ts";
import { type Variation, variationsOf } from "../src/readings/spread.ts";
import type { RailwayState } from "../src/readings/states.ts";
import { AT_REST, stateFor } from "../src/readings/threadReading.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { railway, smallRailway, typed } from "../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../testing/recipes.ts";

const DRAWS = 1000;

/** Numbers between -1 and 1, the same for the same seed. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return state / 2 ** 31 - 1;
  };
}

/** One build: each key of the variations drawn once. */
function drawn(variations: readonly Variation[], random: () => number): (element: Element) => Element {
  const drawnOf = new Map<string, number>();
  for (const { key } of variations) if (!drawnOf.has(key)) drawnOf.set(key, random());
  const byElement = group(variations, ({ element }) => element.id);
  return (element) =>
    (byElement.get(element.id) ?? []).reduce(
      (now, { key, share, volts }) => changed(now, (drawnOf.get(key) ?? 0) * share, (drawnOf.get(key) ?? 0) * volts),
      element,
    );
}

/** An element that is another by a share of its value, or a diode that drops some volts more at any current. */
function changed(element: Element, share: number, volts: number): Element {
  const by = 1 + share;
  switch (element.kind) {
    case "resistor":
    case "coil":
      return { ...element, ohms: element.ohms * by };
    case "switch":
      return { ...element, onOhms: element.onOhms * by };
    case "voltage":
      return element.holds
        ? { ...element, holds: { ...element.holds, volts: element.holds.volts * by } }
        : { ...element, volts: element.volts * by };
    case "diode": {
      const { is, n, rs } = element.model;
      return { ...element, model: { is: is * Math.exp(-volts / (n * THERMAL_VOLTS)), n, rs } };
    }
    default:
      return element;
  }
}

interface Place {
  record: RailwayRecord;
  what: string;
  red: string;
  black: string;
  range: Range;
  state: RailwayState;
  loose?: Extra;
}

/** Share of builds whose reading is inside the band of the one that is as its figures say. */
function shareInside({ record, red, black, range, state, loose }: Place): number {
  const { circuitry } = new Derived(record);
  const random = seeded(11);
  const sound = measure(circuitry, red, black, range, state, loose);
  const variations = variationsOf(record, circuitry.solveWith(red, state, { elements: [] })!);
  const kind = sound.ac && range === "V" ? "AC" : range;
  const isSquare = sound.ac && range === "V" && circuitry.isOnTrack(red);
  let [inside, beyond] = [0, 0];
  for (let draw = 0; draw < DRAWS; draw++) {
    const build = drawn(variations, random);
    const { value } = measure(circuitry, red, black, range, state, { elements: [], ...loose, build });
    // half of all meters average, and take the track's square wave for a sine
    const kindOf = isSquare && random() > 0 ? Math.PI / (2 * Math.SQRT2) : 1;
    const shown = (value ?? Number.NaN) * kindOf + random() * uncertainty(kind, value ?? 0);
    if (Math.abs(shown - sound.value!) <= sound.tolerance) inside++;
    if (Math.abs(shown - sound.value!) > 1.2 * sound.corner) beyond++;
  }
  // the worst corner is one, as far as the circuit is straight
  expect(beyond).toBe(0);
  return inside / DRAWS;
}

/** What the test sheets of railways ask a meter for, each kind of reading once. */
function ofSheets(): Place[] {
  const kinds = new Map<string, Place>();
  for (const [name, make] of Object.entries({ small: smallRailway, ...DRIVING, ...FROGS, ...LAMPS })) {
    const record = make();
    const { circuitry, schematic } = new Derived(record);
    for (const thread of schematic.threads)
      for (const step of testSteps(circuitry, thread)) {
        const { unit, like = step.probes, position, expected } = step;
        if (!like || unit === "seen" || unit === "mA" || expected === null) continue;
        const kind = `${unit} ${step.key.replace(/[^a-z]+.*/, "")} ${expected.toPrecision(2)}`;
        if (kinds.has(kind)) continue;
        const state = stateFor(thread, position ?? "N", "rest");
        const at = { record, red: like.red, black: like.black, range: unit, state, loose: looseOf(step) };
        kinds.set(kind, { ...at, what: `${step.key} of ${name}, ${expected.toPrecision(3)} ${unit}` });
      }
  }
  return [...kinds.values()];
}

/** What an owner measures besides: on AC, in a wire, across a part. */
function besides(): Place[] {
  const small = smallRailway();
  const bare = typed(small, "y1", "driver", "PS1");
  const lamp = railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamps-frog", "S1"]);
  const at = (record: RailwayRecord, range: Range, red: string, black: string, state: RailwayState = AT_REST.N) => {
    return { record, range, red, black, state, what: `${range} ${red} to ${black}` };
  };
  /** In every wire that carries enough for the meter's last digits. */
  const inWires = (record: RailwayRecord, state: RailwayState) => {
    const { circuitry, loom } = new Derived(record);
    return laidWires(loom)
      .map(({ from, to }) => at(record, "mA", from.key, to.key, state))
      .filter(({ red, black }) => Math.abs(measure(circuitry, red, black, "mA", state).value ?? 0) > 0.001);
  };
  return [
    ...inWires(small, AT_REST.R).slice(0, 8),
    ...inWires(lamp, AT_REST.N).slice(0, 6),
    at(bare, "V", "ps1:~1", "ps1:~2"),
    at(small, "V", "cd1:+", "cd1:−"),
    at(small, "ohm", "y1:N", "y1:C"),
    at(small, "ohm", "m1:+", "m1:−"),
    at(small, "V", "m1:+", "m1:−"),
    at(lamp, "V", "sf1:F", "tb1:J"),
    at(lamp, "V", "af:F", "tb1:K"),
  ].filter(({ record, red }) => new Derived(record).circuitry.piece(red) !== undefined);
}

describe("the band of a reading", () => {
  const places = [...besides(), ...ofSheets()];

  it("is looked at for thirty readings of all kinds", () => {
    expect(places.length).toBeGreaterThanOrEqual(30);
  });

  it.each(places.map((place) => [place.what, place] as const))("holds 95 to 99.9 of 100 builds: %s", (_, place) => {
    const share = shareInside(place);
    expect(share).toBeGreaterThanOrEqual(0.95);
    expect(share).toBeLessThanOrEqual(0.999);
  });
});

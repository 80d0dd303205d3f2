// What must hold of every type's circuit, whatever state it is in.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CATALOGUE } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { operatingPoint } from "../circuit/operatingPoint.ts";
import { type DeviceState, IDLE } from "./kit.ts";
import { partsOf, stateThatMatters, storeNode, storesPulse } from "./models.ts";
import { stateKey } from "./piece.ts";

const WIRED = CATALOGUE.filter(({ terminals }) => terminals.length > 0);
const side = fc.constantFrom("N" as const, "R" as const);

/** Any state that a device of a board with so many outputs can be in, all of its outputs in use. */
function anyState(outputs: number): fc.Arbitrary<DeviceState> {
  return fc.record({
    off: fc.boolean(),
    half: fc.constantFrom(1 as const, -1 as const),
    made: fc.option(side),
    contacts: side,
    moving: fc.boolean(),
    blocked: fc.boolean(),
    outputs: fc
      .array(side, { minLength: outputs, maxLength: outputs })
      .map((each) => new Map(each.map((to, index) => [index + 1, to]))),
    on: fc.subarray(numbered(16)).map((ways) => new Set(ways)),
    standing: fc.subarray(numbered(4)).map((zones) => new Set(zones)),
    rails: fc.constant(new Map([[2, "tb1:K"]])),
    fedBy: fc.constant("own" as const),
    fedVolts: fc.constant(12),
    charged: fc.option(fc.double({ min: 0, max: 25, noNaN: true })),
  });
}

describe.each(WIRED.map((type) => [type.id, type] as const))("%s", (_id, type) => {
  it("has the same elements at the same places in all its states, so that they share one order of elimination", () => {
    const shape = (state: DeviceState) =>
      partsOf("x", type, state).map(({ element }) => `${element.kind} ${element.id} ${element.nodes.join(" ")}`);
    fc.assert(
      fc.property(anyState(type.outputs), anyState(type.outputs), (one, other) => {
        expect(shape(one)).toEqual(shape(other));
      }),
      { numRuns: 15 },
    );
  });

  it("is the same circuit in states that have the same name", () => {
    fc.assert(
      fc.property(anyState(type.outputs), (state) => {
        const matters = stateThatMatters(type, state);
        expect(stateKey(stateThatMatters(type, matters))).toBe(stateKey(matters));
        expect(partsOf("x", type, matters)).toEqual(partsOf("x", type, state));
      }),
      { numRuns: 15 },
    );
  });

  it("settles by itself, joined to nothing, to plain numbers", () => {
    fc.assert(
      fc.property(anyState(type.outputs), (state) => {
        const elements = partsOf("x", type, state).map(({ element }) => element);
        const point = operatingPoint({ ground: elements[0]?.nodes[1] ?? "0", elements });
        for (const { id } of elements) expect(Number.isFinite(point.amps(id) ?? 0), id).toBe(true);
      }),
      { numRuns: 8 },
    );
  });

  it("names each element once, and takes tolerances from figures that it has", () => {
    const parts = partsOf("x", type, { ...IDLE, outputs: new Map(numbered(type.outputs).map((way) => [way, "N"])) });
    expect(new Set(parts.map(({ element }) => element.id)).size).toBe(parts.length);
    for (const { figure } of parts) if (figure !== null) expect(type.figures[figure], figure).toBeDefined();
  });
});

it("gives pulses from a capacitor that is one of its own nodes", () => {
  for (const type of WIRED.filter(storesPulse)) {
    const nodes = partsOf("x", type, { ...IDLE, charged: 20 }).flatMap(({ element }) => element.nodes);
    expect(nodes, type.id).toContain(`x:${storeNode(type)}`);
  }
});

it("passes on nothing when the supplies are off", () => {
  const off = { ...IDLE, off: true };
  for (const type of WIRED) {
    for (const { element } of partsOf("x", type, { ...off, outputs: new Map([[1, "N"]]) })) {
      if (element.kind === "voltage") expect(element.volts, `${type.id} ${element.id}`).toBe(0);
    }
  }
});

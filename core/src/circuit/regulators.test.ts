import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Circuit } from "./circuit.ts";
import { type Element, RECTIFIER } from "./elements.ts";
import { operatingPoint } from "./operatingPoint.ts";

/** A supply behind its resistance, and so many regulators of 5 V on it, each with a load; one of them on its way through a diode. */
function supplied(volts: number, loads: readonly number[], { off = false, inside = 0.1 } = {}): Element[] {
  return [
    { kind: "voltage", id: "emf", nodes: ["emf", "0"], volts: off ? 0 : volts },
    { kind: "resistor", id: "inside", nodes: ["emf", "in"], ohms: inside },
    ...loads.flatMap((ohms, index): Element[] => {
      const holds = { nodes: [`out${index}`, "0"] as const, volts: 5, dropOut: 1.2 };
      const source: Element = { kind: "voltage", id: `r${index}`, nodes: ["in", `out${index}`], volts: off ? 0 : 3 };
      return [
        off ? source : { ...source, holds },
        { kind: "resistor", id: `load${index}`, nodes: [`out${index}`, "0"], ohms },
        { kind: "diode", id: `d${index}`, nodes: [`out${index}`, `led${index}`], model: RECTIFIER },
        { kind: "resistor", id: `r${index}led`, nodes: [`led${index}`, "0"], ohms: 470 },
      ];
    }),
  ];
}

const Loads = fc.array(fc.double({ min: 20, max: 10_000, noNaN: true }), { minLength: 1, maxLength: 12 });

describe("regulators on one supply", () => {
  // derived: with 1.2 V and more to spare each output stands at 5 V; with less it follows the input 1.2 V below
  it("hold their outputs as long as there is enough, whatever hangs on them", () => {
    fc.assert(
      fc.property(fc.double({ min: 9, max: 24, noNaN: true }), Loads, (volts, loads) => {
        const point = operatingPoint({ ground: "0", elements: supplied(volts, loads) });
        const input = point.volts("in") ?? 0;
        for (const index of loads.keys()) expect(point.volts(`out${index}`)).toBeCloseTo(Math.min(5, input - 1.2), 7);
      }),
    );
  });

  it("let the current through that their loads take, and no other", () => {
    const loads = [100, 50, 25];
    const point = operatingPoint({ ground: "0", elements: supplied(12, loads) });
    const taken = loads.reduce((sum, _, index) => {
      return sum + (point.amps(`load${index}`) ?? 0) + (point.amps(`d${index}`) ?? 0);
    }, 0);
    expect(point.amps("inside")).toBeCloseTo(taken, 9);
  });

  it("are the same circuit with the supply off and on again, in any order", () => {
    fc.assert(
      fc.property(Loads, fc.array(fc.boolean(), { minLength: 1, maxLength: 5 }), (loads, offs) => {
        const circuit = new Circuit({ ground: "0", elements: supplied(12, loads, { off: offs[0] ?? false }) });
        for (const off of offs) {
          const elements = supplied(12, loads, { off });
          const anew = operatingPoint({ ground: "0", elements });
          const point = circuit.operatingPoint(elements);
          // to the last digit: what was solved before leaves no trace
          for (const index of loads.keys()) expect(point.volts(`out${index}`)).toBe(anew.volts(`out${index}`));
          if (off) expect(Math.abs(point.volts("out0") ?? 0)).toBeLessThan(1e-6);
          else expect(point.volts("out0")).toBeCloseTo(5, 6);
        }
      }),
    );
  });

  it("follow a supply that sags under them, and turn nothing round", () => {
    const at = (volts: number, inside: number) =>
      operatingPoint({ ground: "0", elements: supplied(volts, [10, 10], { inside }) });
    const sagged = at(9, 6);
    expect(sagged.volts("in")!).toBeLessThan(6.2);
    expect(sagged.volts("out0")).toBeCloseTo(sagged.volts("in")! - 1.2, 7);
    expect(Math.abs(at(0.5, 1).volts("out0") ?? 0)).toBeLessThan(1e-6);
    expect(Math.abs(at(-9, 1).volts("out0") ?? 0)).toBeLessThan(1e-6);
  });
});

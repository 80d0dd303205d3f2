import fc from "fast-check";
import { expect, it } from "vitest";
import { diode, resistor, source } from "../../testing/elements.ts";
import { type Element, ledModel } from "./elements.ts";
import { operatingPoint } from "./operatingPoint.ts";
import { type SparseRows, solveSparse } from "./sparse.ts";

it("solves a divider and counts a source's current into its first terminal", () => {
  const { volts, amps } = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 12), resistor("r1", "a", "b", 120), resistor("r2", "b", "0", 680)],
  });
  expect(volts.get("b")).toBeCloseTo(10.2, 9);
  expect(amps.get("r1")).toBeCloseTo(0.015, 12);
  expect(amps.get("v")).toBeCloseTo(-0.015, 12);
});

// derived: 5 V, 450 ohm, red LED of 2.0 V at 10 mA: about 6.67 mA, not 11.1
it("lets an LED take its own forward voltage", () => {
  const led: Element = { kind: "diode", id: "led", nodes: ["b", "0"], model: ledModel(2.0, 0.01) };
  const { amps } = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "b", 450), led],
  });
  expect(amps.get("led")).toBeGreaterThan(0.0065);
  expect(amps.get("led")).toBeLessThan(0.0068);
});

it("blocks a diode that is the wrong way round", () => {
  const led: Element = { kind: "diode", id: "led", nodes: ["0", "b"], model: ledModel(2.0, 0.01) };
  const { amps } = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "b", 450), led],
  });
  expect(Math.abs(amps.get("led") ?? 1)).toBeLessThan(1e-9);
});

it("settles where only blocked diodes hold a part of the circuit", () => {
  // a sagging alternating supply before a bridge whose capacitor is still charged
  const bridge = [diode("d1", "a", "p"), diode("d2", "0", "p"), diode("d3", "m", "a"), diode("d4", "m", "0")];
  const { volts, amps } = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 9), ...bridge, source("c", "p", "m", 21), resistor("bleed", "p", "m", 10_000)],
  });
  expect((volts.get("p") ?? 0) - (volts.get("m") ?? 0)).toBeCloseTo(21, 9);
  for (const { id } of bridge) expect(Math.abs(amps.get(id) ?? 1)).toBeLessThan(1e-7);
  expect(volts.get("p")).toBeGreaterThan(9);
  expect(volts.get("m")).toBeLessThan(0);
});

it("gives parts that nothing joins a part number of their own, and never NaN", () => {
  const { volts, part } = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "0", 10), resistor("loose", "x", "y", 1)],
  });
  expect(part.get("x")).not.toBe(part.get("a"));
  expect(part.get("x")).toBe(part.get("y"));
  expect([...volts.values()].every(Number.isFinite)).toBe(true);
});

it.each([
  [
    "two sources joined",
    [source("v1", "a", "0", 5), source("v2", "a", "0", 6)],
    /Sources contradict each other; look at v1, v2/,
  ],
  ["a shorted source", [source("v1", "a", "a", 5)], /v1 is shorted/],
  ["negative ohms", [resistor("r9", "a", "0", -1)], /r9: -1 ohm is no resistance/],
  ["volts that are no number", [source("v3", "a", "0", Number.NaN)], /v3: its volts are no number/],
])("names the parts of %s", (_what, elements, message) => {
  expect(() => operatingPoint({ ground: "0", elements: elements as Element[] })).toThrow(message);
});

it("solves random systems with zero diagonals as dense elimination would", () => {
  const entry = fc.double({ min: -5, max: 5, noNaN: true });
  fc.assert(
    fc.property(
      fc
        .integer({ min: 1, max: 12 })
        .chain((n) =>
          fc.tuple(
            fc.array(entry, { minLength: n, maxLength: n }),
            fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1), entry), { maxLength: 3 * n }),
          ),
        ),
      ([x, extras]) => {
        const n = x.length;
        const rows: SparseRows = Array.from({ length: n }, () => new Map());
        // a permuted strong diagonal keeps the system regular while the true diagonal may be zero
        for (let row = 0; row < n; row++) rows[row]!.set((row + 1) % n, 40 + row);
        for (const [row, column, value] of extras) rows[row]!.set(column, (rows[row]!.get(column) ?? 0) + value / 3);
        const b = Float64Array.from(rows, (entries) =>
          [...entries].reduce((sum, [column, value]) => sum + value * x[column]!, 0),
        );
        const solved = solveSparse(rows, b);
        for (const [index, value] of x.entries()) expect(solved[index]).toBeCloseTo(value, 6);
      },
    ),
  );
});

it("says that a singular matrix is one", () => {
  expect(() => solveSparse([new Map([[0, 1]]), new Map([[0, 2]])], new Float64Array(2))).toThrow(RangeError);
});

// What must hold of every solution, whatever the network: Kirchhoff's laws, independence of what came before, few steps.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { contact, diode, resistor, source } from "../../testing/elements.ts";
import { diodeYard, ladder, twoHundred } from "../../testing/networks.ts";
import { Circuit } from "./circuit.ts";
import { CircuitError, type Element, ledModel, type Netlist } from "./elements.ts";

/** Sum of the currents that leave each node, and the greatest of them, amps. */
function leaving({ elements }: Netlist, amps: (id: string) => number): Map<string, { sum: number; most: number }> {
  const nodes = new Map<string, { sum: number; most: number }>();
  for (const { id, nodes: ends } of elements) {
    for (const [index, node] of ends.entries()) {
      const known = nodes.get(node) ?? { sum: 0, most: 0 };
      known.sum += index === 0 ? amps(id) : -amps(id);
      known.most = Math.max(known.most, Math.abs(amps(id)));
      nodes.set(node, known);
    }
  }
  return nodes;
}

// Kirchhoff's current law, at every node of two hundred networks, ideal sources included
it("lets as much flow into each node as out of it", () => {
  for (const [name, netlist] of twoHundred()) {
    const point = new Circuit(netlist).operatingPoint();
    for (const [node, { sum, most }] of leaving(netlist, (id) => point.amps(id) ?? 0))
      expect(Math.abs(sum), `${name}, node ${node}`).toBeLessThan(1e-9 + 1e-9 * most);
  }
});

it("finds a lamp's current in three steps, since what feeds it is known", () => {
  for (const ohms of [120, 390, 1000, 3900]) {
    const circuit = new Circuit({
      ground: "0",
      elements: [source("v", "a", "0", 12), resistor("r", "a", "b", ohms), diode("d", "b", "0", ledModel(2, 0.01))],
    });
    circuit.operatingPoint();
    expect(circuit.iterations).toBeLessThanOrEqual(3);
  }
});

it("settles in few steps", () => {
  const steps = twoHundred().map(([, netlist]) => {
    const circuit = new Circuit(netlist);
    circuit.operatingPoint();
    return circuit.iterations;
  });
  expect(Math.max(...steps)).toBeLessThan(40);
  expect(steps.reduce((sum, each) => sum + each, 0) / steps.length).toBeLessThan(12);
});

/** The yard with some of its buttons pressed. */
function pressed(netlist: Netlist, buttons: ReadonlySet<number>): Element[] {
  return netlist.elements.map((each) =>
    each.kind === "switch" ? { ...each, closed: buttons.has(Number(each.id.slice(1))) } : each,
  );
}

describe("a yard of six roads", () => {
  const netlist = diodeYard(6, null);
  const names = [...new Set(netlist.elements.flatMap(({ nodes }) => nodes))];

  // the 20 times of the bench rest on it
  it("takes at most four steps for a button, and one when it is let go", () => {
    const circuit = new Circuit(netlist);
    for (let road = 0; road < 6; road++) {
      circuit.operatingPoint(pressed(netlist, new Set([road])));
      expect(circuit.iterations).toBeLessThanOrEqual(4);
      circuit.operatingPoint(pressed(netlist, new Set()));
      expect(circuit.iterations).toBeLessThanOrEqual(1);
    }
  });

  it("never depends on what was solved before, to the last digit", () => {
    fc.assert(
      fc.property(fc.array(fc.uniqueArray(fc.nat(5), { maxLength: 4 }), { minLength: 1, maxLength: 6 }), (series) => {
        const circuit = new Circuit(netlist);
        for (const buttons of series) circuit.operatingPoint(pressed(netlist, new Set(buttons)));
        const last = pressed(netlist, new Set(series.at(-1)));
        const after = circuit.operatingPoint(last);
        const fresh = new Circuit({ ...netlist, elements: last }).operatingPoint();
        for (const name of names) {
          const [a, b] = [after.volts(name) ?? 0, fresh.volts(name) ?? 0];
          expect(Math.abs(a - b)).toBeLessThan(1e-9 + 1e-9 * Math.abs(b));
        }
      }),
      { numRuns: 60 },
    );
  });

  it("keeps its values when one is refused", () => {
    const circuit = new Circuit(netlist);
    const before = circuit.operatingPoint(pressed(netlist, new Set([2]))).volts("row2");
    const bad = pressed(netlist, new Set([3])).map((each) =>
      each.kind === "resistor" && each.id === "w1" ? { ...each, ohms: -1 } : each,
    );
    expect(() => circuit.operatingPoint(bad)).toThrow(CircuitError);
    expect(circuit.operatingPoint(pressed(netlist, new Set([2]))).volts("row2")).toBeCloseTo(before!, 12);
  });
});

it("settles LEDs in rows of up to eight on any supply, with the same current in each", () => {
  for (let count = 1; count <= 8; count++) {
    for (const volts of [5, 12, 24]) {
      const elements: Element[] = [source("v", "s", "0", volts), resistor("r", "s", "n0", 470)];
      for (let place = 0; place < count; place++)
        elements.push(diode(`d${place}`, `n${place}`, place === count - 1 ? "0" : `n${place + 1}`, ledModel(2, 0.01)));
      const point = new Circuit({ ground: "0", elements }).operatingPoint();
      const flows = point.amps("r")!;
      for (let place = 0; place < count; place++) expect(point.amps(`d${place}`)).toBeCloseTo(flows, 9);
      expect(flows).toBeGreaterThanOrEqual(0);
      expect(flows).toBeLessThan(volts / 470);
    }
  }
});

it("blocks one way and lets the other through, however it is turned", () => {
  fc.assert(
    fc.property(fc.double({ min: 1, max: 40, noNaN: true }), fc.boolean(), (volts, turned) => {
      const [anode, cathode] = turned ? ["0", "a"] : ["a", "0"];
      const elements = [source("v", "s", "0", volts), resistor("r", "s", "a", 100), diode("d", anode, cathode)];
      const point = new Circuit({ ground: "0", elements }).operatingPoint();
      if (turned) expect(Math.abs(point.amps("r")!)).toBeLessThan(1e-6);
      else expect(point.amps("r")!).toBeGreaterThan((volts - 1.2) / 100);
    }),
  );
});

it("gives sources in a row their common current, and those side by side what each branch takes", () => {
  const elements = [
    source("one", "a", "0", 5),
    source("two", "b", "a", 7),
    resistor("both", "b", "0", 120),
    resistor("lower", "a", "0", 50),
    contact("open", "b", "0", false),
  ];
  const point = new Circuit({ ground: "0", elements }).operatingPoint();
  // 12 V over 120 ohm through both, and 5 V over 50 ohm through the lower one besides
  expect(point.amps("two")).toBeCloseTo(-0.1, 6);
  expect(point.amps("one")).toBeCloseTo(-0.2, 6);
  expect(point.between("b", "0")).toBeCloseTo(12, 12);
});

it("grows by columns on the way to the root only: one value changed costs little of a large ladder", () => {
  const netlist = ladder(3, 400);
  const circuit = new Circuit(netlist);
  const before = circuit.operatingPoint();
  const changed = netlist.elements.map((each, index) =>
    index === netlist.elements.length - 1 && each.kind === "resistor" ? { ...each, ohms: each.ohms * 2 } : each,
  );
  const after = circuit.operatingPoint(changed);
  const fresh = new Circuit({ ...netlist, elements: changed }).operatingPoint();
  const [id = ""] = netlist.elements.slice(-1).map((each) => each.id);
  expect(after.amps(id)).toBeCloseTo(fresh.amps(id)!, 9);
  expect(after.amps(id)).not.toBeCloseTo(before.amps(id)!, 6);
});

import { expect, it } from "vitest";
import { capacitor, contact, diode, resistor, source } from "../../testing/elements.ts";
import { ladder, strings, twoHundred } from "../../testing/networks.ts";
import { Circuit } from "./circuit.ts";
import type { Element, Netlist } from "./elements.ts";

/** The same circuit with each element in two and contacts between, as wires go on at terminals. */
function inPieces({ ground, elements }: Netlist): Netlist {
  return {
    ground,
    elements: elements.flatMap((each, index): Element[] => {
      if (each.kind !== "resistor") return [each];
      const [a, b] = each.nodes;
      const [one, other] = [`${each.id} 1`, `${each.id} 2`];
      const turned = index % 2 === 0;
      return [
        { ...each, nodes: [a, one], ohms: each.ohms * 0.3 },
        {
          ...contact(`${each.id} contact`, turned ? other : one, turned ? one : other, index % 7 !== 0),
          id: `c${index}`,
        },
        resistor(`${each.id} more`, other, b, each.ohms * 0.7),
      ];
    }),
  };
}

/** The same circuit with a capacitor at each node: in a steady state it carries nothing, and no row goes on there. */
function withoutRows({ ground, elements }: Netlist): Netlist {
  const nodes = new Set(elements.flatMap((each) => each.nodes));
  nodes.delete(ground);
  return { ground, elements: [...elements, ...[...nodes].map((node) => capacitor(`at ${node}`, node, ground, 1e-6))] };
}

const CIRCUITS = [
  ...twoHundred().filter((_, index) => index % 3 === 0),
  ["strings", strings(77)] as const,
  ["ladder", ladder(78, 30)] as const,
];

it.each(CIRCUITS)("changes no volts and no amps: %s", (_name, netlist) => {
  const pieces = inPieces(netlist);
  const alone = withoutRows(pieces);
  const [inRows, byNodes] = [new Circuit(pieces), new Circuit(alone)];
  expect(inRows.size.unknowns).toBeLessThan(byNodes.size.unknowns);
  const [point, expected] = [inRows.operatingPoint(), byNodes.operatingPoint()];
  for (const { id, nodes } of pieces.elements) {
    const amps = expected.amps(id)!;
    expect(Math.abs(point.amps(id)! - amps)).toBeLessThan(1e-11 + 1e-6 * Math.abs(amps));
    for (const node of nodes)
      if (expected.isGrounded(node)) expect(point.volts(node)).toBeCloseTo(expected.volts(node)!, 6);
  }
});

it("changes nothing of how volts answer to small changes", () => {
  // a line that agrees with its curve within 1e-7 may be steeper or flatter by some ten-thousandths, and several add up
  let compared = 0;
  for (const [name, netlist] of CIRCUITS.filter((_, index) => index % 2 === 0)) {
    const pieces = inPieces(netlist);
    const [inRows, byNodes] = [new Circuit(pieces), new Circuit(withoutRows(pieces))];
    const point = inRows.operatingPoint();
    byNodes.operatingPoint();
    const nodes = [...inRows.topology.nodes.keys()];
    for (const [index, plus] of nodes.entries()) {
      const minus = nodes[(index * 7 + 2) % nodes.length] ?? "";
      if (plus === minus || point.between(plus, minus) === undefined) continue;
      const [found, expected] = [inRows.adjoint(plus, minus), byNodes.adjoint(plus, minus)];
      // beyond that an amp was fed into what only leakage holds, and its volts have no digits left for milliohms
      const most = Math.max(...expected.volts.map(Math.abs));
      if (most > 1e4) continue;
      compared++;
      for (const what of ["volts", "amps"] as const) {
        const wrong = pieces.elements.findIndex((_, at) => {
          const wanted = expected[what][at]!;
          return Math.abs(found[what][at]! - wanted) > 1e-6 * Math.max(1, most) + 5e-3 * Math.abs(wanted);
        });
        expect(pieces.elements[wrong]?.id, `${what}: ${name}, ${plus} to ${minus}`).toBeUndefined();
      }
    }
  }
  expect(compared).toBeGreaterThan(500);
});

it("makes one unknown less of each node where a wire goes on as another, whatever contacts are between", () => {
  const wire = (from: number) => resistor(`w${from}`, `n${from}`, `n${from + 1}`, 0.1);
  const circuit = new Circuit({
    ground: "0",
    elements: [
      source("v", "n0", "0", 12),
      wire(0),
      contact("c", "n2", "n1", true),
      wire(2),
      diode("d", "n3", "n4"),
      wire(4),
    ].concat(resistor("load", "n5", "0", 100)),
  });
  expect(circuit.size.unknowns).toBe(0);
  const point = circuit.operatingPoint();
  expect(point.amps("c")).toBeCloseTo(-point.amps("load")!, 15);
  expect(point.volts("n3")! - point.volts("n4")!).toBeGreaterThan(0.5);
  expect(point.volts("n5")).toBeCloseTo(100 * point.amps("load")!, 12);
});

it("parts a row at a second diode, and where something else hangs", () => {
  const row = [resistor("a", "0", "1", 1), diode("b", "1", "2"), diode("c", "2", "3"), resistor("d", "3", "4", 1)];
  const unknowns = (...more: Element[]) => new Circuit({ ground: "0", elements: [...row, ...more] }).size.unknowns;
  // the node between the diodes, and the open end
  expect(unknowns()).toBe(2);
  expect(unknowns(resistor("e", "3", "0", 1))).toBe(3);
});

it("bears a ring that nothing holds, and a row that a source shorts", () => {
  const ring = [resistor("a", "x", "y", 1), resistor("b", "y", "z", 2), resistor("c", "z", "x", 3)];
  const shorted = [source("v", "p", "0", 9), resistor("d", "p", "q", 1), resistor("e", "q", "0", 2)];
  const point = new Circuit({ ground: "0", elements: [...ring, ...shorted] }).operatingPoint();
  for (const { id } of ring) expect(point.amps(id)).toBe(0);
  expect(point.amps("e")).toBeCloseTo(3, 12);
  expect(point.volts("q")).toBeCloseTo(6, 12);
  expect(point.amps("v")).toBeCloseTo(-3, 12);
});

import fc from "fast-check";
import { expect, it } from "vitest";
import { contact, diode, resistor, source } from "../../testing/elements.ts";
import { ladder } from "../../testing/networks.ts";
import { Circuit } from "./circuit.ts";
import type { Element } from "./elements.ts";
import { withoutRows } from "./series.ts";

const joined = (elements: readonly Element[], ...kept: string[]) => {
  const { others, rows } = withoutRows(elements, new Set(kept));
  return { rows, elements: [...others, ...rows.map(({ element }) => element)] };
};

it("makes one of resistors in a row, and tells each member's share of it", () => {
  const chain = [
    source("v", "a", "0", 12),
    resistor("one", "a", "b", 10),
    resistor("two", "c", "b", 20),
    resistor("three", "c", "d", 30),
    diode("lamp", "d", "0"),
  ];
  const { rows, elements } = joined(chain, "a", "0");
  expect(rows).toHaveLength(1);
  expect(rows[0]!.element.ohms).toBe(60);
  expect([...rows[0]!.element.nodes].sort()).toEqual(["a", "d"]);
  expect(rows[0]!.members.map(({ id }) => id).sort()).toEqual(["one", "three", "two"]);
  expect(elements).toHaveLength(3);
});

it("parts a row at nodes that must stay, where something else hangs, and where a switch is worked from", () => {
  const row = [resistor("one", "a", "b", 1), resistor("two", "b", "c", 1)];
  expect(joined(row, "b").rows).toHaveLength(2);
  expect(joined([...row, diode("d", "b", "0")]).rows).toHaveLength(2);
  const relay: Element = {
    ...(contact("relay", "x", "y", false) as Extract<Element, { kind: "switch" }>),
    control: { nodes: ["b", "0"], onVolts: 5, offVolts: 2 },
  };
  expect(joined([...row, relay]).rows).toHaveLength(2);
  expect(joined(row).rows).toHaveLength(1);
});

it("leaves every other volt and amp of a circuit as it was", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 40 }),
      fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 8 }),
      (seed, parts) => {
        const netlist = ladder(seed, 6);
        // each of the first resistors in as many pieces as said
        const pieces = netlist.elements.flatMap((each, index): Element[] => {
          const count = parts[index] ?? 1;
          if (each.kind !== "resistor" || count === 1) return [each];
          const node = (place: number) =>
            place === 0 ? each.nodes[0] : place === count ? each.nodes[1] : `${each.id} ${place}`;
          return Array.from({ length: count }, (_, place) =>
            resistor(place === 0 ? each.id : `${each.id}/${place}`, node(place), node(place + 1), each.ohms / count),
          );
        });
        const whole = new Circuit({ ...netlist, elements: pieces }).operatingPoint();
        const { elements, rows } = joined(pieces, netlist.ground);
        expect(elements.length).toBeLessThanOrEqual(netlist.elements.length);
        const fewer = new Circuit({ ...netlist, elements }).operatingPoint();
        for (const { element, members } of rows) {
          for (const member of members)
            expect(Math.abs(whole.amps(member.id)!)).toBeCloseTo(Math.abs(fewer.amps(element.id)!), 9);
          const spent = (id: string, ohms: number) => whole.amps(id)! ** 2 * ohms;
          const sum = members.reduce((total, { id, ohms }) => total + spent(id, ohms), 0);
          expect(sum).toBeCloseTo(fewer.amps(element.id)! ** 2 * element.ohms, 9);
        }
      },
    ),
    { numRuns: 60 },
  );
});

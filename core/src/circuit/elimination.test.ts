import fc from "fast-check";
import { expect, it } from "vitest";
import { Elimination } from "./elimination.ts";

type Branch = readonly [number, number];

/** The same network by plain dense elimination with pivoting, as a reference. */
function dense(
  size: number,
  branches: readonly Branch[],
  siemens: readonly number[],
  amps: readonly number[],
): number[] {
  const rows = Array.from({ length: size }, (_, row) => [...new Array<number>(size).fill(0), amps[row]!]);
  for (const [index, [a, b]] of branches.entries()) {
    const g = siemens[index]!;
    if (a < size) rows[a]![a]! += g;
    if (b < size) rows[b]![b]! += g;
    if (a < size && b < size) {
      rows[a]![b]! -= g;
      rows[b]![a]! -= g;
    }
  }
  for (let k = 0; k < size; k++) {
    const pivot = rows
      .slice(k)
      .reduce((best, row, i) => (Math.abs(row[k]!) > Math.abs(rows[best]![k]!) ? k + i : best), k);
    [rows[k], rows[pivot]] = [rows[pivot]!, rows[k]!];
    for (let row = k + 1; row < size; row++) {
      const factor = rows[row]![k]! / rows[k]![k]!;
      for (let column = k; column <= size; column++) rows[row]![column]! -= factor * rows[k]![column]!;
    }
  }
  const x = new Array<number>(size).fill(0);
  for (let k = size - 1; k >= 0; k--) {
    let total = rows[k]![size]!;
    for (let column = k + 1; column < size; column++) total -= rows[k]![column]! * x[column]!;
    x[k] = total / rows[k]![k]!;
  }
  return x;
}

function solved(elimination: Elimination, size: number, amps: readonly number[]): number[] {
  const fed = new Float64Array(size + 1);
  const volts = new Float64Array(size + 1);
  for (const [node, each] of amps.entries()) fed[elimination.place[node]!] = each;
  elimination.eliminate();
  elimination.forward(fed);
  elimination.back(fed, volts);
  return amps.map((_, node) => volts[elimination.place[node]!]!);
}

const network = fc.integer({ min: 1, max: 14 }).chain((size) => {
  const end = fc.nat(size);
  const branch = fc.tuple(end, end).filter(([a, b]) => a !== b);
  const g = fc.double({ min: 0.01, max: 100, noNaN: true });
  // each node is held against ground, so that a dense reference can solve it
  const held = Array.from({ length: size }, (_, node): Branch => [node, size]);
  return fc.record({
    size: fc.constant(size),
    branches: fc.array(branch, { maxLength: 3 * size }).map((more) => [...held, ...more]),
    siemens: fc.array(g, { minLength: 4 * size, maxLength: 4 * size }),
    others: fc.array(g, { minLength: 4 * size, maxLength: 4 * size }),
    amps: fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: size, maxLength: size }),
    late: fc.array(fc.nat(size - 1)),
  });
});

it("solves random networks as dense elimination does, also after some conductances have changed", () => {
  fc.assert(
    fc.property(network, ({ size, branches, siemens, others, amps, late }) => {
      const elimination = new Elimination(size, branches, new Set(late));
      for (const index of branches.keys()) elimination.setConductance(index, siemens[index]!);
      const first = dense(size, branches, siemens, amps);
      for (const [node, volts] of solved(elimination, size, amps).entries()) expect(volts).toBeCloseTo(first[node]!, 8);
      const changed = siemens.map((each, index) => (index % 3 === 0 ? others[index]! : each));
      for (const index of branches.keys()) elimination.setConductance(index, changed[index]!);
      const second = dense(size, branches, changed, amps);
      for (const [node, volts] of solved(elimination, size, amps).entries())
        expect(volts).toBeCloseTo(second[node]!, 8);
    }),
  );
});

it("eliminates a changed network to the last bit as a new one", () => {
  const branches: Branch[] = [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 4],
    [0, 4],
    [1, 4],
  ];
  const values = [1, 1e9, 1e-9, 7, 0.3, 2];
  const kept = new Elimination(4, branches);
  for (const index of branches.keys()) kept.setConductance(index, 5);
  solved(kept, 4, [1, 0, 0, 0]);
  const fresh = new Elimination(4, branches);
  for (const [index, value] of values.entries()) {
    kept.setConductance(index, value);
    fresh.setConductance(index, value);
  }
  expect(solved(kept, 4, [1, 0, 2, 0])).toEqual(solved(fresh, 4, [1, 0, 2, 0]));
});

it("recognises a part that nothing holds, and gives it 0 V", () => {
  const elimination = new Elimination(3, [
    [0, 3],
    [1, 2],
  ]);
  elimination.setConductance(0, 2);
  elimination.setConductance(1, 5);
  expect(solved(elimination, 3, [4, 0, 0])).toEqual([2, 0, 0]);
  const roots = [0, 1, 2].filter((place) => elimination.isFloating(place));
  expect(roots).toHaveLength(1);
});

it("knows which places depend on a node", () => {
  const chain = new Elimination(4, [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 4],
  ]);
  for (const node of [0, 1, 2, 3]) {
    const places = [...chain.dependents([node])];
    expect(places[0]).toBe(chain.place[node]);
    for (const [index, place] of places.slice(1).entries()) expect(chain.parent[places[index]!]).toBe(place);
  }
});

// Diode matrices of route buttons against counts worked out by hand, brute force over all ways to leave diodes out, and ngspice
// on a netlist written by itself.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { diodeMatrix } from "../src/calculators/diodeMatrix.ts";
import { prove } from "../src/diodes/proof.ts";
import { constructionsOf } from "../src/routes/constructions.ts";
import { matrixOf, type Wish } from "../src/routes/matrix.ts";
import { runNgspice } from "../testing/ngspice.ts";

/** Roads of a ladder: each throws all turnouts before its own normal, and its own reverse; the last has none of its own. */
const ladder = (roads: number): Wish[] =>
  Array.from({ length: roads }, (_, road): Wish => {
    const before = Array.from({ length: road }, (_each, index) => `Y${index + 1}N`);
    return { button: `R${road + 1}`, coils: road === roads - 1 ? before : [...before, `Y${road + 1}R`] };
  });

/** Roads of a balanced tree: each turnout leads to two halves. */
const tree = (roads: number): Wish[] =>
  Array.from({ length: roads }, (_, road): Wish => {
    const coils: string[] = [];
    for (let low = 0, size = roads; size > 1; size /= 2) {
      const isUpper = road - low >= size / 2;
      coils.push(`T${low}/${size}${isUpper ? "R" : "N"}`);
      if (isUpper) low += size / 2;
    }
    return { button: `R${road + 1}`, coils };
  });

const counts = (wishes: Wish[]) => {
  const { links, diodes } = matrixOf(wishes);
  return [links.length, diodes.length];
};

describe("counts", () => {
  // derived: (N - 1)(N + 2) / 2 links and N(N - 1) / 2 - 1 diodes for a ladder of N roads
  it.each([
    [4, 9, 5],
    [6, 20, 14],
    [8, 35, 27],
  ])("a ladder of %d roads has %d links and %d diodes", (roads, links, diodes) => {
    expect(counts(ladder(roads))).toEqual([links, diodes]);
    expect([((roads - 1) * (roads + 2)) / 2, (roads * (roads - 1)) / 2 - 1]).toEqual([links, diodes]);
  });

  it.each([
    [4, 8, 4],
    [8, 24, 16],
    [16, 64, 48],
  ])("a balanced tree of %d roads has %d links and %d diodes", (roads, links, diodes) => {
    expect(counts(tree(roads))).toEqual([links, diodes]);
  });

  it("of a ladder of four without diodes only the first road works", () => {
    const buttons = Object.fromEntries(ladder(4).map(({ button, coils }) => [button, [...coils]]));
    const told = diodeMatrix.run({ buttons }) as { sneak: Record<string, string[]> };
    expect(told.sneak.R1).toEqual([]);
    // each other one energises the first turnout's straight coil and both coils of the two others
    const all = ["Y1N", "Y2N", "Y2R", "Y3N", "Y3R"];
    for (const { button, coils } of ladder(4).slice(1))
      expect([...coils, ...(told.sneak[button] ?? [])].sort()).toEqual(all);
  });
});

it("takes the fewest diodes of all ways to place them, by brute force on small tables", () => {
  const table = fc
    .array(fc.uniqueArray(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 4,
    })
    .filter((buttons) => buttons.flat().length <= 11)
    .map((buttons) =>
      buttons.map((coils, index): Wish => ({ button: `B${index}`, coils: coils.map((coil) => `C${coil}`) })),
    );
  fc.assert(
    fc.property(table, (wishes) => {
      const links = wishes.flatMap(({ button, coils }) => coils.map((coil) => [button, coil] as const));
      let fewest = links.length;
      for (let choice = 0; choice < 2 ** links.length; choice++) {
        const wires = links.filter((_, index) => (choice >> index) & 1);
        if (links.length - wires.length < fewest && isRight(wishes, links, wires)) fewest = links.length - wires.length;
      }
      expect(matrixOf(wishes).diodes.length).toBe(fewest);
    }),
    { numRuns: 60 },
  );
});

/** Whether each button energises its coils and no others, with some links as wires: current goes back up a wire. */
function isRight(
  wishes: readonly Wish[],
  links: readonly (readonly [string, string])[],
  wires: readonly (readonly [string, string])[],
): boolean {
  return wishes.every(({ button, coils }) => {
    const live = new Set([button]);
    for (let size = 0; size < live.size; ) {
      size = live.size;
      for (const [from, to] of links) if (live.has(from)) live.add(to);
      for (const [from, to] of wires) if (live.has(to)) live.add(from);
    }
    const moved = [...live].filter((each) => each.startsWith("C"));
    return moved.length === coils.length && coils.every((each) => live.has(each));
  });
}

it("agrees within 1 % with ngspice on the third road of a ladder of four: two coils by diodes, one by a wire", () => {
  const spice = `* road 3
C1 p 0 10m ic=22
RS p b 0.2
D1 b a1 DX
D2 b a2 DX
R3 b a3 0.01
RW1 a1 m1 0.3
RW2 a2 m2 0.3
RW3 a3 m3 0.3
L1 m1 k1 2m ic=0
L2 m2 k2 2m ic=0
L3 m3 k3 2m ic=0
RK1 k1 0 4
RK2 k2 0 4
RK3 k3 0 4
.model DX D(is=1e-14 n=1 rs=0.05)
.options reltol=1e-5
.end
`;
  const control = `source press.cir
tran 2u 0.12 uic
let e1 = 4 * i(l1) * i(l1)
let e3 = 4 * i(l3) * i(l3)
meas tran j1 integ e1
meas tran j3 integ e3
meas tran a1 max i(l1)
meas tran a3 max i(l3)
echo $&j1 $&j3 $&a1 $&a3 > out.txt`;
  const [j1, j3, a1, a3] = runNgspice({ "press.cir": spice }, control).trim().split(/\s+/).map(Number);
  const [fewest] = constructionsOf(ladder(4));
  const firing = {
    ...{ farads: 10e-3, volts: 22, seriesOhms: 0.2, diode: { is: 1e-14, n: 1, rs: 0.05 }, surgeAmps: 30 },
    coil: { ohms: 4, henries: 2e-3, wireOhms: 0.3, moveAmps: 0, leastJoules: 0.15 },
  };
  const press = prove(fewest!, ladder(4), firing).presses[2]!;
  const of = (coil: string) => press.wanted.find((each) => each.coil === coil)!;
  for (const [mine, theirs] of [
    [of("Y1N").joules, j1],
    [of("Y3R").joules, j3],
    [of("Y1N").peakAmps, a1],
    [of("Y3R").peakAmps, a3],
  ] as [number, number][]) {
    expect(theirs).toBeGreaterThan(0);
    expect(Math.abs(mine / theirs - 1)).toBeLessThan(0.01);
  }
});

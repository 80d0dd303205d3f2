// Route buttons: which links need diodes, three ways to build them, and what each button does when it is solved.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Construction, constructionsOf, isExact, reachedFrom } from "../routes/constructions.ts";
import { faultOfWishes, matrixOf, sneakWay, type Wish } from "../routes/matrix.ts";
import { boardTests, crossingsOf, layBoard } from "./buildSheet.ts";
import { type Firing, prove } from "./proof.ts";

/** The ladder of a yard: each road throws all turnouts before its own one normal. */
const ladder = (roads: number): Wish[] =>
  Array.from({ length: roads }, (_, road): Wish => {
    const before = Array.from({ length: road }, (_each, index) => `Y${index + 1}N`);
    return { button: `Road ${road + 1}`, coils: road === roads - 1 ? before : [...before, `Y${road + 1}R`] };
  });

const wishes = fc
  .array(fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 5 })
  .map((buttons) =>
    buttons.map((coils, index): Wish => ({ button: `B${index}`, coils: coils.map((coil) => `C${coil}`) })),
  );

const FIRING: Firing = {
  ...{ farads: 10_000e-6, volts: 22, seriesOhms: 0.2, diode: { is: 1e-14, n: 1, rs: 0.05 }, surgeAmps: 30 },
  coil: { ohms: 4, henries: 2e-3, wireOhms: 0.3, moveAmps: 1.2, leastJoules: 0.15 },
};

describe("which links need a diode", () => {
  it("every construction is exact for every table, and the fewest diodes have none to spare", () => {
    fc.assert(
      fc.property(wishes, (table) => {
        const [fewest, full, cascaded] = constructionsOf(table);
        for (const construction of [fewest, full, cascaded]) expect(isExact(construction!.joins, table)).toBe(true);
        expect(full!.diodes).toBe(matrixOf(table).links.length);
        expect(fewest!.diodes).toBe(matrixOf(table).diodes.length);
        for (const join of fewest!.joins.filter((each) => each.with === "diode")) {
          const without = fewest!.joins.map((each) => (each === join ? { ...each, with: "wire" as const } : each));
          expect(isExact(without, table)).toBe(false);
        }
      }),
      { numRuns: 300 },
    );
  });

  it("what sneaks without diodes is what hangs together and is not asked", () => {
    fc.assert(
      fc.property(wishes, (table) => {
        const joins = matrixOf(table).links.map(([from, to]) => ({ from, to, with: "wire" as const }));
        for (const { button, coils } of table) {
          const reached = [...reachedFrom(button, joins)].filter(
            (each) => each.startsWith("C") && !coils.includes(each),
          );
          expect([...(matrixOf(table).sneak.get(button) ?? [])].sort()).toEqual(reached.sort());
          // told step by step, it is the same
          expect(
            sneakWay(table, button)
              .flatMap(({ besides }) => besides)
              .sort(),
          ).toEqual(reached);
        }
      }),
    );
  });

  it("tells what is wrong with a table", () => {
    expect(faultOfWishes([{ button: "R1", coils: [] }])?.message).toBe(
      "R1 energises nothing: give it a coil, or leave it out.",
    );
    expect(faultOfWishes([{ button: "R1", coils: ["a", "a"] }])).toEqual({
      path: ["R1", 1],
      message: "R1 names a twice.",
    });
    const twice = [
      { button: "R1", coils: ["a"] },
      { button: "R1", coils: ["b"] },
    ];
    expect(faultOfWishes(twice)?.message).toBe("Two buttons are called R1.");
    expect(faultOfWishes(ladder(6))).toBeNull();
  });
});

describe("what is built", () => {
  it("cascaded, a ladder takes fewer diodes and more of them in a row", () => {
    const [fewest, , cascaded] = constructionsOf(ladder(8));
    expect(fewest).toMatchObject({ diodes: 27, mostDrops: 1 });
    expect(cascaded!.diodes).toBeLessThan(fewest!.diodes);
    expect(cascaded!.mostDrops).toBeGreaterThan(1);
    expect(cascaded!.shared.length).toBeGreaterThan(0);
  });

  it("a set that is the whole of another button's hangs on that button's wire", () => {
    const table = [
      { button: "All", coils: ["a", "b", "c", "d"] },
      { button: "Some", coils: ["a", "b", "c"] },
    ];
    const cascaded = constructionsOf(table)[2];
    expect(cascaded?.shared).toEqual([]);
    expect(cascaded?.joins).toContainEqual({ from: "All", to: "Some", with: "diode" });
    expect(cascaded?.diodes).toBe(1);
  });
});

describe("what a press does", () => {
  it("gives every wanted coil its pulse and no other any, however it is built", () => {
    for (const construction of constructionsOf(ladder(5))) {
      const { presses, faults } = prove(construction, ladder(5), FIRING);
      expect(faults).toEqual([]);
      for (const { wanted, other } of presses) {
        for (const { joules, peakAmps } of wanted) {
          expect(joules).toBeGreaterThan(FIRING.coil.leastJoules);
          expect(peakAmps).toBeGreaterThan(1);
        }
        expect(other?.joules ?? 0).toBeLessThan(1e-6);
      }
    }
  });

  it("of random tables every construction proves itself, and coils that are alike get what each gets by itself", () => {
    fc.assert(
      fc.property(wishes, (table) => {
        for (const construction of constructionsOf(table)) {
          const strong = { ...FIRING, farads: 0.1, seriesOhms: 0.01 };
          expect(prove(construction, table, strong).faults).toEqual([]);
        }
      }),
      { numRuns: 25 },
    );
    // once with one of them for all, and once each by itself, since another wire hangs on the first
    const table = [{ button: "B", coils: ["a", "b", "c"] }];
    const [, full] = constructionsOf(table);
    const spread = { ...full!, joins: [...full!.joins, { from: "a", to: "nowhere", with: "wire" as const }] };
    const [alike, apart] = [full!, spread].map((each) => prove(each, table, FIRING).presses[0]!.wanted);
    for (const [index, { joules, peakAmps }] of alike!.entries()) {
      expect(joules / apart![index]!.joules).toBeCloseTo(1, 2);
      expect(peakAmps / apart![index]!.peakAmps).toBeCloseTo(1, 2);
    }
  });

  it("shares what the unit stores: with ideal diodes each of n equal coils gets what the discharge of a capacitor gives", () => {
    const [one] = constructionsOf([{ button: "B", coils: ["a", "b", "c"] }]);
    const ideal: Firing = {
      ...FIRING,
      seriesOhms: 1e-6,
      coil: { ...FIRING.coil, henries: 1e-7, wireOhms: 0, moveAmps: 0 },
    };
    const gets = (firing: Firing) =>
      prove(one!, [{ button: "B", coils: ["a", "b", "c"] }], firing).presses[0]!.wanted.map(({ joules }) => joules);
    // E = C V^2 / 2, shared by three, of which the wires between terminals take their share
    const each = (0.5 * ideal.farads * ideal.volts ** 2) / 3;
    for (const joules of gets(ideal)) expect(joules / each).toBeCloseTo(1, 1);
    // derived: of an exponential current, what flows while it is above a share of its peak has all of the energy but that share's square
    const share = 0.6;
    const slow = { ...ideal, coil: { ...ideal.coil, moveAmps: (share * ideal.volts) / ideal.coil.ohms } };
    for (const [index, joules] of gets(slow).entries())
      expect(joules / gets(ideal)[index]!).toBeCloseTo(1 - share ** 2, 1);
  });

  it("says which coil lacks what when the unit is too small, and which diode is too weak", () => {
    const [fewest] = constructionsOf(ladder(6));
    const { faults } = prove(fewest!, ladder(6), { ...FIRING, farads: 1000e-6, surgeAmps: 1 });
    expect(faults.join(" ")).toMatch(/Road 6 gives Y\dN 0\.0\d J; it needs 0\.15 J\./);
    expect(faults.join(" ")).toMatch(/sends \d\.\d A through one diode; it bears 1 A\./);
  });

  it("looks at each coil by its own figures: one that is wired with a long thin wire gets less", () => {
    const table = [{ button: "B", coils: ["near", "far"] }];
    const [fewest] = constructionsOf(table);
    const coils = new Map([["far", { ...FIRING.coil, wireOhms: 4 }]]);
    const [near, far] = prove(fewest!, table, { ...FIRING, coils }).presses[0]!.wanted;
    expect(far!.joules).toBeLessThan(near!.joules / 2);
  });

  it("finds the sneak path in a matrix with a diode left out", () => {
    const table = ladder(4);
    const [fewest] = constructionsOf(table);
    const at = fewest!.joins.findIndex((join) => join.with === "diode");
    const joins = fewest!.joins.map((join, index) => (index === at ? { ...join, with: "wire" as const } : join));
    expect(prove({ ...fewest!, joins }, table, FIRING).faults.join(" ")).toMatch(/which it does not ask/);
  });
});

describe("the board", () => {
  const laid = (construction: Construction) => {
    const work = layBoard(construction);
    let step = work.next();
    while (!step.done) step = work.next();
    return step.value;
  };

  it("has every part between its terminals, counts what crosses, and never more than as it was given", () => {
    fc.assert(
      fc.property(wishes, (table) => {
        for (const construction of constructionsOf(table)) {
          const { left, right, placed, crossings } = laid(construction);
          expect(placed).toHaveLength(construction.joins.length);
          for (const part of placed) expect([left[part.left], right[part.right]]).toEqual([part.from, part.to]);
          expect(placed.map(({ number }) => number)).toEqual(placed.map((_, index) => index + 1));
          const given = [construction.joins.map(({ from }) => from), construction.joins.map(({ to }) => to)];
          expect(crossings).toBeLessThanOrEqual(
            crossingsOf(construction.joins, [...new Set(given[0])], [...new Set(given[1])]),
          );
          // what crosses lies one over the other, diodes over wires, and what lies lower comes first
          for (const one of placed)
            for (const other of placed) {
              const isCrossing = (one.left - other.left) * (one.right - other.right) < 0;
              if (isCrossing) expect(one.layer).not.toBe(other.layer);
              if (isCrossing && one.with === "diode" && other.with === "wire")
                expect(one.layer).toBeGreaterThan(other.layer);
              if (one.number < other.number) expect(one.layer).toBeLessThanOrEqual(other.layer);
            }
        }
      }),
      { numRuns: 100 },
    );
  });

  it("is tested part by part: a diode lets current through one way, and no button reaches another", () => {
    const [fewest] = constructionsOf(ladder(4));
    const sheet = laid(fewest!);
    const tests = boardTests(sheet, FIRING.diode);
    // 1 mA through a small silicon diode: 25.9 mV x ln(1e-3 / 1e-14)
    expect(tests.find(({ what }) => what === "diode")?.volts).toBeCloseTo(0.655, 2);
    expect(tests.filter(({ what }) => what === "diode backwards")).toHaveLength(5);
    expect(tests.filter(({ what }) => what === "wire")).toHaveLength(4);
    for (const { red, black, what } of tests)
      if (what === "nothing") expect(reachedFrom(red, fewest!.joins)).not.toContain(black);
  });
});

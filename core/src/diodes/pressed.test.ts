// Buttons of routes pressed in the solved circuit of a railway, and discharge units for them.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { typed, withFigures } from "../../testing/build.ts";
import { ladderRoads, ladderYard, routedYard } from "../../testing/routes.ts";
import { figureValue, findType } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import { compareBuilds, compareRouteSchools } from "../consequences/compareBuilds.ts";
import { Derived } from "../derive.ts";
import { commandRoutes } from "../equip/routeSchools.ts";
import { addRoutes } from "../equip/routes.ts";
import { measure } from "../readings/meter.ts";
import { secondsToRecover, secondsToRecoverHeld, secondsToSafe } from "../readings/recharge.ts";
import { RESTING } from "../readings/states.ts";
import type { Position } from "../record/schemas.ts";
import { matricesOf } from "../routes/boards.ts";
import { boardDrawing, PITCH } from "./boardDrawing.ts";
import { namedBoards, sheetOfBoard } from "./ofBoard.ts";
import { routePress } from "./pressed.ts";
import { unitDesigns } from "./unitDesign.ts";

const presses = (derived: Derived) => {
  const { record, circuitry, schematic } = derived;
  const [matrix] = matricesOf(record);
  return matrix!.rows.map(({ key }) => routePress(record, circuitry, schematic.threads, matrix!, key)!);
};

describe("a button pressed", () => {
  it("fires the coils of its route and no other, whatever the routes", () => {
    const table = fc.array(
      fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.constantFrom<Position>("N", "R")), {
        minLength: 1,
        maxLength: 3,
        selector: ([turnout]) => turnout,
      }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(table, (wanted) => {
        const yard = ladderYard(4);
        const routes = wanted.map((settings, index) => ({
          label: `Route ${index}`,
          settings: settings.map(([turnout, to]) => ({ turnoutId: `y${turnout}`, to })),
        }));
        const named = edit(yard, addRoutes(yard, routes).edits).record;
        const record = edit(
          named,
          commandRoutes(
            named,
            named.routes.map(({ id }) => id),
            "buttons",
          ).edits,
        ).record;
        for (const [index, press] of presses(new Derived(record)).entries()) {
          expect(press.faults).toEqual([]);
          const fired = press.coils.filter(({ joules }) => joules > 0.015).map(({ label }) => label);
          expect(fired.sort()).toEqual(wanted[index]!.map(([turnout, to]) => `Y${turnout} ${to}`).sort());
        }
      }),
      { numRuns: 12 },
    );
  });

  it("shares what the unit holds: no more than that comes out, and each diode takes less than its button", () => {
    for (const { coils, stored, volts, contactAmps, diodeAmps, curve } of presses(new Derived(routedYard(5)))) {
      // the charging resistor of 33 ohm brings some more while the button is held for a fifth of a second
      const brought = (volts ** 2 / 33) * 0.2;
      expect(coils.reduce((sum, { joules }) => sum + joules, 0)).toBeLessThan(stored + brought);
      expect(diodeAmps).toBeLessThanOrEqual(contactAmps);
      // the capacitor only falls
      for (let at = 1; at < curve.length; at++)
        expect(curve[at]!.volts).toBeLessThanOrEqual(curve[at - 1]!.volts + 1e-6);
    }
  });
});

describe("built in three ways", () => {
  it("each proves itself on a ladder, from the most diodes to the most in a row", () => {
    const found = [...compareBuilds(new Derived(routedYard(5)), "x1")];
    expect(found.map(({ kind, faults }) => [kind, faults])).toEqual([
      ["fewest", []],
      ["full", []],
      ["cascaded", []],
    ]);
    const [fewest, full, cascaded] = found.map(({ diodes }) => diodes) as [number, number, number];
    expect([full, fewest]).toEqual([14, 9]);
    expect(cascaded).toBeLessThan(fewest);
    expect(found[2]!.mostDrops).toBeGreaterThan(found[0]!.mostDrops);
  });

  it("says what lacks what where the unit is too small, and what empties it where a toggle does", () => {
    const weak = withFigures(routedYard(5), "CD1", { farads: 1000e-6, chargeOhms: 33 });
    const [fewest] = [...compareBuilds(new Derived(weak), "x1")];
    expect(fewest!.faults[0]).toMatch(/^B\d: Y\d [NR] gets 0\.\d\d J of the 0\.15 J that it needs\.$/);
  });

  it("and asked for in five: those without a computer work without one", () => {
    const record = routedYard(4);
    const found = [
      ...compareRouteSchools(
        new Derived(record),
        record.routes.map(({ id }) => id),
      ),
    ];
    expect(found.map(({ school, isPresent, wrong }) => [school, isPresent, wrong])).toEqual([
      ["buttons", true, []],
      ["entry-exit", false, []],
      ["rotary", false, []],
      ["macro", false, []],
      ["message", false, []],
    ]);
    const diodes = new Map(found.map((each) => [each.school, each.diodes]));
    expect([diodes.get("buttons"), diodes.get("macro")]).toEqual([5, 0]);
    for (const { wires, joints } of found) expect(joints).toBe(2 * wires);
  });
});

describe("a discharge unit", () => {
  it("gives each coil more from more farads, and is ready the later the closer it comes to what is needed", () => {
    const derived = new Derived(routedYard(5));
    const [design] = unitDesigns(derived.record, derived.circuitry, derived.schematic.threads);
    const plain = design!.choices.filter(({ made }) => /^\d+ µF$/.test(made));
    for (let at = 1; at < plain.length; at++) {
      expect(plain[at]!.weakest).toBeGreaterThan(plain[at - 1]!.weakest);
      expect(plain[at]!.safeAfter).toBeGreaterThan(plain[at - 1]!.safeAfter);
    }
    const present = design!.choices.find(({ isPresent }) => isPresent);
    // a transistor that holds the current is never later than the resistor alone, and neither is ready where the coil is too weak
    for (const { waits, waitsHeld, weakest, isEnough } of design!.choices) {
      expect(waits === null).toBe(weakest <= design!.worst.least);
      expect(waitsHeld === null).toBe(waits === null);
      expect(waitsHeld ?? 0).toBeLessThanOrEqual(waits ?? 0);
      if (isEnough) expect(waits).not.toBeNull();
    }
    // the resistor across it brings it to 5 V in half a minute
    for (const { farads, bleedOhms, bleedWatts } of design!.choices) {
      expect(secondsToSafe(farads, bleedOhms, design!.volts)).toBeCloseTo(30, 6);
      expect(bleedWatts).toBeCloseTo(design!.volts ** 2 / bleedOhms, 9);
    }
    // 11,000 uF are two of 22,000 in a row
    expect(present?.made).toBe("2 x 22000 µF in a row");
    expect(design!.each.motors).toBe(4);
  });

  it("fills as a capacitor through a resistor does", () => {
    const { type } = { type: { figures: { chargeOhms: { value: 100 }, farads: { value: 0.01 } } } } as never;
    expect(figureValue(type, "chargeOhms") * figureValue(type, "farads")).toBe(1);
    // 0.7071 of the volts, with which half of the energy is there: -ln(1 - 0.7071) time constants
    expect(secondsToRecover(type, Math.SQRT1_2)).toBeCloseTo(1.228, 3);
    expect(secondsToRecover(type, 1)).toBe(Number.POSITIVE_INFINITY);
    // with the first current held, volts rise evenly: 0.7071 of them after 0.7071 time constants
    expect(secondsToRecoverHeld(type, Math.SQRT1_2)).toBeCloseTo(Math.SQRT1_2, 6);
    expect(secondsToRecoverHeld(type, 1)).toBe(Number.POSITIVE_INFINITY);
    // 20 V to 5 V are ln 4 time constants
    expect(secondsToSafe(0.01, 1000, 20)).toBeCloseTo(13.863, 3);
    expect(secondsToSafe(0.01, 1000, 4)).toBe(0);
  });
});

describe("the meter on a board", () => {
  it("reads what a diode drops with the wires off, and only coils where they lead round it", () => {
    const { circuitry, record } = new Derived(routedYard(3));
    const board = record.devices.find(({ id }) => id === "x1")!;
    const loose = new Set(findType(record, board.typeId)!.terminals.map(({ name }) => `x1:${name}`));
    const apart = (red: string, black: string) =>
      measure(circuitry, `x1:${red}`, `x1:${black}`, "diode", RESTING, { elements: [], loose }).value;
    // 0.55 V at 1 mA by the rectifier's figures, from the Shockley equation
    expect(apart("I2", "1N")).toBeCloseTo(1.9 * 0.025865 * Math.log(1e-3 / 14e-9 + 1), 2);
    expect(apart("1N", "I2")).toBeNull();
    expect(apart("I1", "1R")).toBeCloseTo(0, 3);
    // with the wires on, two coils of some ohms lie beside it, as they do on the bench
    expect(measure(circuitry, "x1:I2", "x1:1N", "diode", RESTING).value).toBeLessThan(0.02);
  });

  it("stands on the test sheet of each turnout, part by part", () => {
    const derived = new Derived(routedYard(3));
    const sheet = derived.sheet("y1").map(({ step }) => step);
    const parts = sheet.filter(({ key }) => key.startsWith("part-"));
    expect(parts.map(({ title, unit }) => `${title}: ${unit}`)).toEqual([
      "Wire I1 to 1R of X1: ohm",
      "Diode I2 to 1N of X1: diode",
      "Diode I3 to 1N of X1: diode",
    ]);
    expect(parts.map(({ expected }) => Number(expected?.toFixed(1)))).toEqual([0, 0.6, 0.6]);
    expect(sheet.filter(({ key }) => key.startsWith("throw-"))).toHaveLength(3);
    expect(sheet.some(({ key }) => key.startsWith("charge-"))).toBe(true);
  });
});

it("draws a board at true scale, a ruler of 100 mm under it, each terminal and part once", () => {
  const [named] = namedBoards(edit(ladderYard(4), []).record).concat(namedBoards(routedYard(4)));
  const sheet = sheetOfBoard(named!);
  const drawing = boardDrawing(sheet);
  const ruler = drawing.lines.filter(
    ({ points: [a, b] }) => a && b && a[1] === b[1] && Math.abs(b[0] - a[0] - 100) < 1e-9,
  );
  expect(ruler).toHaveLength(1);
  expect(drawing.circles).toHaveLength(sheet.left.length + sheet.right.length);
  const ys = drawing.circles.map(({ y }) => y);
  expect(Math.min(...ys.flatMap((y) => ys.flatMap((other) => (other > y ? [other - y] : []))))).toBeCloseTo(PITCH, 9);
  for (const { points } of [...drawing.lines, ...drawing.shapes])
    for (const [x, y] of points) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(drawing.width);
      expect(y).toBeLessThanOrEqual(drawing.height);
    }
  // bands of diodes, and numbers of all parts
  expect(drawing.shapes.filter(({ fill }) => fill === "ink")).toHaveLength(named!.construction.diodes);
  for (const { number } of sheet.placed)
    expect(drawing.texts.filter(({ text }) => text === String(number))).toHaveLength(1);
  expect(ladderRoads(4)).toHaveLength(named!.matrix.rows.length);
});

it.each([3, 4, 6, 8])("draws no part of a ladder of %i roads over the number of another", (roads) => {
  const [named] = namedBoards(routedYard(roads));
  const { texts } = boardDrawing(sheetOfBoard(named!));
  const numbers = texts.filter(({ text }) => /^\d+$/.test(text));
  // the height of a body and of its number
  for (const [index, a] of numbers.entries())
    for (const b of numbers.slice(index + 1))
      expect(Math.hypot(a.x - b.x, a.y - b.y), `${a.text} and ${b.text}`).toBeGreaterThan(2.6);
});

it("draws the curve of the coil that gets least of what it needs, not of that with the least amps", () => {
  // an efficient motor takes fewer amps, and needs less of them
  const efficient = typed(routedYard(4), "y2", "motor", "twin-coil-efficient");
  const record = withFigures(efficient, "Y2", { pulseJoules: 0.02 });
  const derived = new Derived(record);
  const press = presses(derived).at(-1)!;
  const [least] = [...press.coils].sort((a, b) => a.joules / a.least - b.joules / b.least);
  const [smallest] = [...press.coils].sort((a, b) => a.peakAmps - b.peakAmps);
  expect(smallest?.label).not.toBe(least?.label);
  const peak = Math.max(...press.curve.map(({ amps }) => amps));
  expect(peak).toBeGreaterThan(0.9 * least!.peakAmps);
  expect(peak).toBeLessThanOrEqual(1.01 * least!.peakAmps);
});

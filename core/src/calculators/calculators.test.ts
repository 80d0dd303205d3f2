import { expect, it } from "vitest";
import { RecordError } from "../record/problems.ts";
import { CALCULATORS, calculatorCalled } from "./registry.ts";

const run = (name: string, input: unknown) => calculatorCalled(name)!.run(input);
const failure = (name: string, input: unknown) => {
  try {
    run(name, input);
  } catch (error) {
    if (error instanceof RecordError) return error.problems[0]!;
    throw error;
  }
  throw new Error("It did not fail.");
};

// derived: 5 V, 2.0 V, 10 mA: 300 ohm; 11 mA: 272.7 ohm, next 300
it("chooses the resistor of an LED", () => {
  expect(run("led-resistor", { supplyVolts: 5, forwardVolts: 2, targetMilliamps: 10 })).toEqual({
    idealOhms: 300,
    chosenOhms: 300,
    milliamps: 10,
    resistorMilliwatts: 30,
    ratedWatts: 0.125,
  });
  const eleven = run("led-resistor", { supplyVolts: 5, forwardVolts: 2, targetMilliamps: 11, series: "E12" });
  expect(eleven.idealOhms).toBeCloseTo(272.727, 2);
  expect(eleven.chosenOhms).toBe(330);
});

// derived: 12 V, 2 V, 10 mA: 100 mW -> 0.25 W
it("asks for twice the dissipation as a rating", () => {
  expect(run("led-resistor", { supplyVolts: 12, forwardVolts: 2, targetMilliamps: 10 })).toMatchObject({
    chosenOhms: 1000,
    resistorMilliwatts: 100,
    ratedWatts: 0.25,
  });
});

// derived: 5 V, 450 ohm: 6.67, 6.22, 4.00 mA for 2.0, 2.2, 3.2 V; 11.1 mA if the LED is forgotten
it.each([
  [2.0, 6.67],
  [2.2, 6.22],
  [3.2, 4.0],
])("reckons the current of an LED of %f V", (forwardVolts, milliamps) => {
  const output = run("led-current", { supplyVolts: 5, forwardVolts, ohms: 450 });
  expect(output.milliamps).toBeCloseTo(milliamps, 2);
  expect(output.milliampsIgnoringForward).toBeCloseTo(11.11, 2);
});

it("lets nothing flow below the forward voltage", () => {
  expect(run("led-current", { supplyVolts: 3, forwardVolts: 2, ohms: 450, ledsInSeries: 2 })).toMatchObject({
    milliamps: 0,
  });
});

it("says where an input is wrong", () => {
  expect(failure("led-resistor", { supplyVolts: 5, forwardVolts: 2 }).path).toEqual(["targetMilliamps"]);
  expect(
    failure("led-resistor", { supplyVolts: 3, forwardVolts: 2, targetMilliamps: 10, ledsInSeries: 2 }),
  ).toMatchObject({ path: ["supplyVolts"], message: "The supply must be above the 4 V that the LEDs take." });
  expect(failure("led-resistor", { supplyVolts: 24, forwardVolts: 2, targetMilliamps: 1000 })).toMatchObject({
    path: ["targetMilliamps"],
  });
  expect(failure("led-current", { supplyVolts: "5", forwardVolts: 2, ohms: 450 }).path).toEqual(["supplyVolts"]);
  expect(failure("led-current", { supplyVolts: 5, forwardVolts: 2, ohms: 450, more: 1 }).message).toMatch(/more/);
  expect(failure("led-current", null).path).toEqual([]);
});

// derived: 10 m of 0.5 / 2.5 mm2 at 2 A: 1.46 / 0.30 V for solid wire, 1.56 / 0.32 V for flexible
it.each([
  [{ mm2: 0.5, class: "solid" }, 1.44],
  [{ mm2: 0.5, class: "flexible" }, 1.56],
  [{ mm2: 2.5, class: "solid" }, 0.2964],
  [{ awg: 24 }, 3.368],
])("reckons what 10 m of %j lose at 2 A", (gauge, drop) => {
  const output = run("wire-drop", { lengthMetres: 10, gauge, amps: 2, supplyVolts: 12 }) as Record<string, number>;
  expect(output.dropVolts).toBeCloseTo(drop, 2);
  expect(output.loadVolts! + output.dropVolts!).toBeCloseTo(12, 12);
  expect(output.dropPercent).toBeCloseTo((100 * drop) / 12, 1);
  expect(output.ohms).toBeCloseTo(drop / 2, 2);
});

it("says which wire there is no figure for, and what a thin one lets through", () => {
  const given = { lengthMetres: 10, amps: 2, supplyVolts: 12 };
  expect(failure("wire-drop", { ...given, gauge: { mm2: 0.6, class: "solid" } })).toMatchObject({
    path: ["gauge", "mm2"],
    message: /no figure here for 0.6 mm2; take one of 0.5/,
  });
  expect(failure("wire-drop", { ...given, gauge: { awg: 28 }, amps: 40 })).toMatchObject({ path: ["amps"] });
  expect(failure("wire-drop", { ...given, gauge: "thick" }).path).toEqual(["gauge"]);
});

// derived: 4700 uF at 22 V: 1.137 J; into two coils of 4 ohm: 5.5 A, tau 9.4 ms, 0.569 J; with 1.01 ohm each: 0.454 J.
// At 25 V over 2 / 5 / 6 coils: 0.734 / 0.294 / 0.245 J each
it("shares the pulse of a discharge unit out", () => {
  const given = { microfarads: 4700, chargeVolts: 22, coilOhms: 4, coils: 2 };
  const plain = run("cdu-pulse", given) as Record<string, number>;
  expect(plain.storedJoules).toBeCloseTo(1.137, 3);
  expect(plain.peakAmpsPerCoil).toBe(5.5);
  expect(plain.timeConstantMilliseconds).toBeCloseTo(9.4, 6);
  expect(plain.joulesPerCoil).toBeCloseTo(0.569, 3);
  expect(run("cdu-pulse", { ...given, wireOhms: 1.01 }).joulesPerCoil).toBeCloseTo(0.454, 3);
  for (const [coils, joules] of [
    [2, 0.734],
    [5, 0.294],
    [6, 0.245],
  ])
    expect(run("cdu-pulse", { ...given, chargeVolts: 25, coils }).joulesPerCoil).toBeCloseTo(joules!, 3);
  expect(failure("cdu-pulse", { ...given, coils: 1.5 }).path).toEqual(["coils"]);
});

// IEC 60062
it.each([
  [470, 5, 4, ["yellow", "violet", "brown", "gold"]],
  [470, 1, 5, ["yellow", "violet", "black", "black", "brown"]],
  [4.7, 10, 4, ["yellow", "violet", "gold", "silver"]],
  [0.22, 2, 4, ["red", "red", "silver", "red"]],
  [1_000_000, 5, 4, ["brown", "black", "green", "gold"]],
  [24_900, 0.5, 5, ["red", "yellow", "white", "red", "green"]],
  [1000, 5, 4, ["brown", "black", "red", "gold"]],
])("tells the colours of %f ohm, %f %%, by %i bands", (ohms, tolerancePercent, bands, colours) => {
  expect(run("resistor-bands", { ohms, tolerancePercent, bands })).toEqual({ bands: colours });
});

it("says what no colours stand for", () => {
  expect(failure("resistor-bands", { ohms: 472, tolerancePercent: 5, bands: 4 })).toMatchObject({
    path: ["ohms"],
    message: "Two digits cannot say 472 ohm; the nearest they can say is 470 ohm.",
  });
  expect(failure("resistor-bands", { ohms: 470, tolerancePercent: 3, bands: 4 }).path).toEqual(["tolerancePercent"]);
  expect(failure("resistor-bands", { ohms: 0.001, tolerancePercent: 5, bands: 4 }).message).toMatch(/multiplier/);
});

it("solves a circuit in SPICE text, and leaves open what nothing joins", () => {
  const netlist = "Divider\nV1 in 0 12\nR1 in out 120\nR2 out 0 680\nR3 x y 10\n.end";
  const { nodes, branches } = run("operating-point", { netlist }) as Record<string, Record<string, number | null>>;
  expect(nodes!.out).toBeCloseTo(10.2, 9);
  expect(nodes!.x).toBeNull();
  expect(Object.keys(nodes!)).toEqual(["in", "out", "x", "y"]);
  expect(branches!.V1).toBeCloseTo(-0.015, 12);
  expect(failure("operating-point", { netlist: "t\nR1 a 0 -5" })).toMatchObject({
    path: ["netlist"],
    message: /Line 2: R1: -5 ohm is no resistance/,
  });
  expect(failure("operating-point", { netlist: "t\nV1 a 0 5\nV2 a 0 6" }).message).toMatch(/look at V1, V2/);
});

it("offers fields whose examples can be reckoned, and results that the sums have", () => {
  for (const calculator of CALCULATORS) {
    const form = Object.fromEntries(calculator.fields.map(({ name, example: value }) => [name, value]));
    const output = calculator.run(calculator.fromForm?.(form) ?? form);
    for (const { name } of calculator.results) expect(output[name], `${calculator.name} ${name}`).toBeDefined();
  }
});

// derived: 14.5 V through 2 mA are 7250 ohm, next below 6800: 2.13 mA, 31 mW; a hundred such vehicles take 0.21 A
it("chooses the resistor on an axle that a detector still tells", () => {
  const one = run("axle-resistor", { trackVolts: 15, detectMilliamps: 1 });
  expect(one).toMatchObject({ ohms: 6800 });
  expect(one.milliamps).toBeCloseTo(2.132, 3);
  expect(one.axleMilliwatts).toBeCloseTo(30.9, 1);
  expect(one.hundredAmps).toBeCloseTo(0.213, 3);
  // two axles share the work
  expect(run("axle-resistor", { trackVolts: 15, detectMilliamps: 1, axles: 2 })).toMatchObject({ ohms: 13_000 });
  expect(failure("axle-resistor", { trackVolts: 1, dropVolts: 1, detectMilliamps: 1 }).path).toEqual(["trackVolts"]);
});

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

it("offers fields and results that the sums have", () => {
  for (const calculator of CALCULATORS) {
    const example = Object.fromEntries(calculator.fields.map(({ name, example: value }) => [name, value]));
    const output = calculator.run(example);
    expect(calculator.results.map(({ name }) => name).every((name) => typeof output[name] === "number")).toBe(true);
  }
});

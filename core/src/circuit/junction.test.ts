import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ledModel, RECTIFIER, THERMAL_VOLTS } from "./elements.ts";
import { junctionSlope, limiterSlope, limitJunction } from "./junction.ts";

const SCALE = RECTIFIER.n * THERMAL_VOLTS;

function at(volts: number, gmin = 1e-12) {
  const slope = { amps: 0, siemens: 0 };
  junctionSlope(RECTIFIER.is, SCALE, volts, gmin, slope);
  return slope;
}

describe("a junction", () => {
  // Shockley equation
  it("carries IS (exp(v / n Vt) - 1)", () => {
    expect(at(0.6, 0).amps).toBeCloseTo(RECTIFIER.is * Math.expm1(0.6 / SCALE), 12);
    expect(at(0).amps).toBe(0);
    expect(at(-20, 0).amps / -RECTIFIER.is).toBeCloseTo(1, 6);
  });

  it("has the slope of its own curve everywhere, on either side of where the tail begins", () => {
    fc.assert(
      fc.property(fc.double({ min: -30, max: 1, noNaN: true }), (volts) => {
        const step = 1e-6;
        const rise = (at(volts + step).amps - at(volts - step).amps) / (2 * step);
        // both are differences of tiny currents far below zero
        expect(Math.abs(at(volts).siemens - rise)).toBeLessThan(1e-5 * Math.abs(rise) + 1e-15);
      }),
    );
  });

  it("goes over into its tail without a jump", () => {
    const edge = -3 * SCALE;
    expect(at(edge - 1e-9).amps).toBeCloseTo(at(edge + 1e-9).amps, 15);
    expect(at(edge - 1e-9).siemens / at(edge + 1e-9).siemens).toBeCloseTo(1, 6);
  });

  it("is moved by no more than the exponential bears, and not held back from blocking", () => {
    const { is, n } = ledModel(2, 0.01);
    const scale = n * THERMAL_VOLTS;
    const weak = 1e-6;
    expect(limitJunction(is, scale, -12, 1.9, weak)).toBe(-12);
    expect(limitJunction(is, scale, 0.3, 0, weak)).toBe(0.3);
    const first = limitJunction(is, scale, 12, 0, weak);
    expect(first).toBeLessThan(2.1);
    const next = limitJunction(is, scale, 12, first, weak);
    expect(next).toBeGreaterThan(first);
    expect(is * Math.exp(next / scale)).toBeLessThan(100);
  });

  it("ceases to conduct at once, where its line's current is, and not by one n kT/q a step", () => {
    const { is, n } = ledModel(2, 0.01);
    const scale = n * THERMAL_VOLTS;
    // the line that touches at 1.5 V carries a thousandth of it a little above one scale below
    const wanted = 1.5 - 0.999 * scale;
    const next = limitJunction(is, scale, wanted, 1.5, 1);
    expect(next).toBeLessThan(1.5 - 6 * scale);
    expect(is * Math.expm1(next / scale)).toBeCloseTo(is * Math.exp(1.5 / scale) * 0.001 - is, 12);
    // a line that carries nothing there, or less, belongs to a junction that blocks
    expect(limitJunction(is, scale, 0.2, 1.5, 1)).toBe(0);
  });

  it("begins to conduct at what its surroundings can give", () => {
    const { is, n } = ledModel(2, 0.01);
    const scale = n * THERMAL_VOLTS;
    // 12 V that would give 4 A stand behind 3 ohm
    const first = limitJunction(is, scale, 12, 0, 4);
    const amps = is * Math.expm1(first / scale);
    expect(amps / ((12 - first) / 3)).toBeCloseTo(1, 2);
    // what only leakage of others feeds says nothing: then it is the critical voltage
    const critical = scale * Math.log(scale / (Math.SQRT2 * is));
    expect(limitJunction(is, scale, 12, 0, 100 * is)).toBe(critical);
    // from one tangent to the current that it carries at the next point
    const wanted = first - 0.4 * scale;
    expect(is * Math.exp(limitJunction(is, scale, wanted, first, 4) / scale)).toBeCloseTo(amps * 0.6, 6);
  });
});

it("lets a limiter be a resistor up to its limit, and nearly steady beyond, alike both ways", () => {
  const slope = { amps: 0, siemens: 0 };
  const amps = (volts: number) => {
    limiterSlope(120, 0.04, volts, slope);
    return slope.amps;
  };
  expect(amps(1.2)).toBeCloseTo(0.01, 12);
  expect(slope.siemens).toBeCloseTo(1 / 120, 12);
  expect(amps(12)).toBeCloseTo(0.04, 6);
  expect(slope.siemens).toBeLessThan(1e-6);
  expect(amps(-12)).toBeCloseTo(-amps(12), 15);
});

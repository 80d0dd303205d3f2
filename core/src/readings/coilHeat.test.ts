import fc from "fast-check";
import { expect, it } from "vitest";
import { findingsOf, smallRailway, typed } from "../../testing/build.ts";
import { CATALOGUE, figureValue, genericType } from "../catalogue/catalogue.ts";
import { coilHeat } from "./coilHeat.ts";

const coil = genericType("twin-coil-surface")!;

// derived: 0.23 A in 4 ohm are 0.21 W; 16 V AC through a coil of 4 ohm and a small transformer are 2.6 A, 27 W
it("is a fifth of a watt behind a unit's resistor, and burns within seconds on a bare supply", () => {
  const behind = coilHeat(coil, 0.23);
  expect(behind.watts).toBeCloseTo(0.21, 2);
  expect(behind.kelvin).toBeLessThan(15);
  expect(behind.burnsAfter).toBeNull();
  const bare = coilHeat(coil, 2.6);
  expect(bare.watts).toBeCloseTo(27, 0);
  expect(bare.burnsAfter!).toBeGreaterThan(3);
  expect(bare.burnsAfter!).toBeLessThan(15);
});

it("comes to the same as following the temperature in small steps", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...CATALOGUE.filter(({ figures }) => figures.warmsKelvin)),
      fc.double({ min: 1, max: 8, noNaN: true }),
      (type, amps) => {
        const { watts, burnsAfter } = coilHeat(type, amps);
        const [perWatt, tau] = [figureValue(type, "warmsKelvin"), figureValue(type, "warmsSeconds")];
        let [kelvin, time] = [0, 0];
        const step = (burnsAfter ?? 10 * tau) / 20_000;
        while (kelvin < 100 && time < 10 * tau) {
          kelvin += ((watts * perWatt - kelvin) / tau) * step;
          time += step;
        }
        if (burnsAfter === null) expect(kelvin).toBeLessThanOrEqual(100);
        else expect(Math.abs(time / burnsAfter - 1)).toBeLessThan(0.01);
      },
    ),
  );
});

it("is said of a coil on a bare supply under a finger", () => {
  const bare = typed(smallRailway(), "y1", "driver", "PS1");
  const [finding] = findingsOf(bare, "coil-held-on");
  expect(finding?.why ?? "").toMatch(
    /for as long as a finger stays there: \d+\.?\d* W, which burn it after some \d+(\.\d)? s\./,
  );
});

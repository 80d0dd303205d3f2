import { expect, it } from "vitest";
import { findingsOf, railway, remedied, withFigures } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { measure } from "../readings/meter.ts";
import { RESTING } from "../readings/states.ts";
import { CATALOGUE, figureValue, genericType } from "./catalogue.ts";
import { sourceOf } from "./source.ts";

const transformers = CATALOGUE.filter(({ model }) => model === "ac-supply");

it("of a transformer gives its rated volts at its rated current, and nothing less", () => {
  for (const type of transformers) {
    const { openVolts, ohms, rise } = sourceOf(type);
    const lead = figureValue(type, "insideOhms") * figureValue(type, "ratedAmps");
    expect(openVolts - figureValue(type, "ratedAmps") * ohms).toBeCloseTo(figureValue(type, "volts") - lead, 9);
    // small ones give 10 to 22 % more unloaded, behind 2 to 3 ohm (from memory)
    expect(rise / figureValue(type, "volts")).toBeGreaterThanOrEqual(0.1);
    expect(rise / figureValue(type, "volts")).toBeLessThanOrEqual(0.22);
  }
  expect(sourceOf(genericType("ac-16")!).ohms).toBeCloseTo(2.5, 1);
});

it("of anything else gives its volts", () => {
  for (const { figures } of CATALOGUE.filter(({ model }) => model === "dc-supply" || model === "track-bus"))
    expect(sourceOf({ figures })).toEqual({
      openVolts: figures.volts!.value,
      rise: 0,
      ohms: figures.insideOhms!.value,
    });
});

it("of one for more current is stiffer, and gives no more volts by itself", () => {
  const { figures } = genericType("ac-16")!;
  const doubled = { figures: { ...figures, ratedAmps: { ...figures.ratedAmps!, value: 2 } } };
  expect(sourceOf(doubled).openVolts).toBe(sourceOf({ figures }).openVolts);
  expect(sourceOf(doubled).ohms).toBeLessThan(sourceOf({ figures }).ohms / 1.8);
});

const unit = (mostVolts: number) =>
  withFigures(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]), "CD1", { mostVolts });

// derived: 16 V at 1 A are 18.4 V unloaded, 26.0 V at the peak, less two junctions 24.6 V; a tenth more with the mains high
it("of 16 V AC charges a capacitor of 25 V to its limit, and beyond it when the mains are high", () => {
  const charged = measure(new Derived(unit(35)).circuitry, "cd1:+", "cd1:−", "V", RESTING).value!;
  expect(charged).toBeGreaterThan(23.5);
  expect(charged).toBeLessThan(26);
  const [finding] = findingsOf(unit(25), "supply-out-of-range");
  expect(finding).toMatchObject({ severity: "look", where: "CD1" });
  expect(finding!.why).toMatch(
    /^CD1 has 2[34]\.\d V from PS1, 16 V AC supply, and 2[67]\.\d V with the mains a tenth above their rating; it is made for 12\.0 V to 25\.0 V\.$/,
  );
  expect(findingsOf(remedied(unit(25), finding!, "Make PS1 a 12 V AC supply"), "supply-out-of-range")).toEqual([]);
  expect(findingsOf(unit(35), "supply-out-of-range")).toEqual([]);
  expect(findingsOf(unit(22), "supply-out-of-range")[0]).toMatchObject({ severity: "stop" });
});

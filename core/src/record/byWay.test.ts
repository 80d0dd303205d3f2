import fc from "fast-check";
import { expect, it } from "vitest";
import { ByWay } from "./byWay.ts";

const way = fc.option(fc.nat(4));
const id = fc.constantFrom("d", "d 1", "1", "constructor");

it("keeps one value for each device and way, whatever the names", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(id, way, fc.nat())), (entries) => {
      const ways = new ByWay<number>();
      for (const [device, number, value] of entries) ways.set(device, number, value);
      for (const [device, number] of entries) {
        const last = entries.findLast((entry) => entry[0] === device && entry[1] === number);
        expect(ways.get(device, number)).toBe(last?.[2]);
      }
      const different = new Set(entries.map(([device, number]) => JSON.stringify([device, number])));
      expect(ways.values()).toHaveLength(different.size);
      expect(ways.has("never", null)).toBe(false);
    }),
  );
});

it("makes a value the first time only", () => {
  const ways = new ByWay<number[]>();
  ways.at("d1", 2, () => []).push(1);
  ways.at("d1", 2, () => []).push(2);
  expect([ways.get("d1", 2), ways.get("d1", null)]).toEqual([[1, 2], undefined]);
});

import { readFileSync } from "node:fs";
import { completed, Derived, openRailwayFile, type RailwayRecord } from "@alderman/core";
import { coilStation, smallRailway } from "@alderman/core/testing/build";
import { describe, expect, it } from "vitest";
import { cableLayout, ROW } from "./cableLayout.ts";

const sample = () =>
  openRailwayFile(readFileSync(new URL("../../../../samples/skerrin-ferry.json", import.meta.url), "utf8"));

describe.each([
  ["a small railway", smallRailway],
  ["nineteen coil motors", () => coilStation(19)],
  ["Skerrin Ferry", sample],
])("%s", (_, make: () => RailwayRecord) => {
  const record = completed(make());
  const { loom } = new Derived(record);

  it("draws each cable with all its cores, and the strips at its ends with all their ways", () => {
    for (const cable of loom.cables) {
      const { cores, near, far, height } = cableLayout(record, loom, cable);
      expect(cores.map(({ number }) => number)).toEqual(Array.from({ length: cable.cores }, (_, index) => index + 1));
      for (const { strip, ways } of [...near, ...far]) {
        expect(ways).toHaveLength(strip!.ways);
        for (const way of ways) {
          const wires = loom.wires.filter(({ from, to }) => [from.key, to.key].includes(way.key));
          expect(way.isSpare).toBe(wires.length === 0);
          expect(way.tails).toEqual(wires.filter(({ core }) => !core));
          expect(way.y).toBeLessThan(height);
        }
      }
      for (const { wire, nearY, farY } of cores) {
        const own = loom.wires.find(({ core }) => core?.cableId === cable.id && core.number === wire?.core?.number);
        expect(wire).toBe(own ?? null);
        // a core in use ends at a way of each side
        expect([nearY === null, farY === null]).toEqual([wire === null, wire === null]);
      }
    }
  });

  it("lists spare cores below the jacket, each by itself, and the others within it", () => {
    for (const cable of loom.cables) {
      const { cores, jacket, height } = cableLayout(record, loom, cable);
      expect(new Set(cores.map(({ y }) => y)).size).toBe(cores.length);
      for (const { wire, y } of cores) {
        if (wire) expect(y).toBeGreaterThanOrEqual(jacket!.from);
        if (wire) expect(y).toBeLessThanOrEqual(jacket!.to);
        else expect(y).toBeGreaterThan(jacket!.to);
        expect(y).toBeLessThan(height);
      }
    }
  });

  it("puts no two ways of a side over each other", () => {
    for (const cable of loom.cables) {
      const { near, far } = cableLayout(record, loom, cable);
      for (const side of [near, far]) {
        const heights = side.flatMap(({ ways }) => ways.map(({ y }) => y)).sort((a, b) => a - b);
        for (const [index, y] of heights.entries())
          if (index > 0) expect(y - (heights[index - 1] ?? 0)).toBeGreaterThanOrEqual(ROW);
      }
    }
  });
});

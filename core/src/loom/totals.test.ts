import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { coilStation, railway } from "../../testing/build.ts";
import { openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "./completion.ts";
import { progressOf } from "./progress.ts";
import { totalsOf } from "./totals.ts";

const totals = (record: Parameters<typeof totalsOf>[0]) => {
  const whole = completed(record);
  const { loom } = new Derived(whole);
  return { loom, of: new Map(totalsOf(whole, loom).map((total) => [total.id, total])) };
};

it("adds up to what the loom holds, part by part", () => {
  const sample = openRailwayFile(readFileSync(new URL("../../../samples/skerrin-ferry.json", import.meta.url), "utf8"));
  const { loom, of } = totals(sample);
  const progress = progressOf(loom.wires);
  expect(of.get("bench")!.sum).toBe(progress.bench.of);
  expect(of.get("underneath")!.sum).toBe(progress.underneath.of);
  expect(of.get("strips")!.sum).toBe(loom.strips.length);
  expect(of.get("cores")!.sum).toBe(loom.wires.filter(({ core }) => core).length);
  const metres = loom.wires.reduce((sum, { core, cutMetres }) => (core ? sum : sum + cutMetres), 0);
  expect(of.get("wire")!.sum).toBeCloseTo(metres, 1);
  for (const { sum, parts } of of.values())
    expect(parts.reduce((all, { count }) => all + count, 0)).toBeCloseTo(sum, 1);
});

// derived: two wires for each motor and the pulse that all toggles share
it("counts 2n + 1 ways on either side for n coil motors on centre-off toggles", () => {
  const { of } = totals(coilStation(19));
  expect(of.get("cores")!.sum).toBe(39);
  expect(of.get("ways")!.sum).toBe(2 * 39);
});

// derived: 19 turnouts with two lamps each between frog and rails: one way for each frog, two for the rails that all share
it("counts 21 ways for 19 pairs of frog lamps with shared commons", () => {
  const rows = Array.from({ length: 19 }, (_, index) => [
    ...[`Y${index + 1}`, "", "twin-coil-under-board", index === 0 ? "cdu" : "CD1", "", "lamps-frog", "S1"],
  ]);
  const { of, loom } = totals(railway(...rows));
  expect(of.get("lamps")!.sum).toBe(19);
  expect(loom.passages).toHaveLength(21);
  const own = loom.wires.filter(({ run, from, to }) => run === "panel" && (!from.of || !to.of));
  // each of these is a tail of 0.6 m
  expect(own.every(({ metres }) => metres === 0.6)).toBe(true);
  expect(own).toHaveLength(21);
});

// Every wire of a turnout is drawn once, from the panel outwards, and no two ends stand at one place.
import { Derived } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { turnoutLayout } from "./turnoutLayout.ts";

it.each([
  ["a coil with toggle and lamp", "y1"],
  ["a coil that shares the unit", "y2"],
  ["a stall motor with lamp", "m1"],
])("%s", (_what, id) => {
  const { loom } = new Derived(smallRailway());
  const wires = loom.wires.filter(({ turnoutId }) => turnoutId === id);
  expect(wires.length).toBeGreaterThan(2);
  const plan = turnoutLayout(wires);
  expect(plan.wires.map(({ wire }) => wire.id).sort()).toEqual(wires.map(({ id }) => id).sort());
  const places = plan.ends.map(({ column, row: line }) => `${column} ${line}`);
  expect(new Set(places).size).toBe(places.length);
  for (const { from, to } of plan.wires) expect(to.column).toBe(from.column + 1);
  expect(Math.max(...plan.ends.map(({ row: line }) => line))).toBe(plan.rows - 1);
});

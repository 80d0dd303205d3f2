import { Derived } from "@alderman/core";
import { smallRailway, typed } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { changeOf, overviewOf, withChange } from "./overview.ts";

it("sends single wires and threads for a length, and makes the same of them", () => {
  const before = new Derived(smallRailway());
  const after = new Derived(typed(before.record, "y1", "run", "4.5"), before);
  const change = changeOf(overviewOf(after), overviewOf(before));
  expect(change.whole.loom).toBeUndefined();
  expect(change.whole.nets).toBeUndefined();
  expect(change.wires.length).toBeGreaterThan(0);
  expect(change.wires.length).toBeLessThan(after.loom.wires.length / 2);
  expect(change.threads).toHaveLength(1);
  expect(withChange(overviewOf(before), structuredClone(change))).toEqual(overviewOf(after));
});

it("sends whole lists when the wiring changed, and everything when nothing was sent", () => {
  const before = new Derived(smallRailway());
  const after = new Derived(typed(before.record, "y2", "control", ""), before);
  expect(withChange(overviewOf(before), changeOf(overviewOf(after), overviewOf(before)))).toEqual(overviewOf(after));
  expect(changeOf(overviewOf(before), null).whole).toEqual(overviewOf(before));
});

import { Derived } from "@alderman/core";
import { smallRailway, typed } from "@alderman/core/testing/build";
import { after, deeds } from "@alderman/core/testing/exhibits";
import fc from "fast-check";
import { expect, it } from "vitest";
import { changeOf, type OverviewChange, overviewOf, withChange } from "./overview.ts";

/** Things of a change that are sent anew, by list. */
const sent = ({ lists }: OverviewChange) =>
  Object.fromEntries(
    Object.entries(lists).flatMap(([name, change]) => {
      const items = change.filter((each) => "item" in each).length;
      return items > 0 ? [[name, items]] : [];
    }),
  );

it("sends only what an edit changed, and makes the same of it", () => {
  const before = new Derived(smallRailway());
  const first = overviewOf(before);
  const after = new Derived(typed(before.record, "y1", "run", "4.5"), before);
  const now = overviewOf(after, first);
  const change = changeOf(now, first);
  // what the unit's supply gives at its worst hangs on the wire as well
  expect(Object.keys(sent(change)).sort()).toEqual(["loads", "threads", "wires"]);
  expect(sent(change).threads).toBe(1);
  expect(sent(change).wires).toBeLessThan(after.loom.wires.length / 2);
  expect(withChange(first, structuredClone(change))).toEqual(overviewOf(after));
  // what did not change is the same to the screens
  expect(withChange(first, structuredClone(change)).nets).toBe(first.nets);
});

it("keeps what an edit of the wiring left alone, though all of it was worked out anew", () => {
  const before = new Derived(smallRailway());
  const first = overviewOf(before);
  const after = new Derived(typed(before.record, "m1", "lamp", ""), before);
  const change = changeOf(overviewOf(after, first), first);
  expect(sent(change).threads).toBe(1);
  expect(sent(change).nets ?? 0).toBeLessThan(after.schematic.nets.length / 3);
  expect(withChange(first, structuredClone(change))).toEqual(overviewOf(after));
});

it("sends everything when nothing was sent", () => {
  const all = overviewOf(new Derived(smallRailway()));
  expect(withChange(null, structuredClone(changeOf(all, null)))).toEqual(all);
});

it("makes the same overview of the changes of any series of edits", () => {
  fc.assert(
    fc.property(fc.array(deeds, { maxLength: 6 }), (all) => {
      let derived = new Derived(smallRailway());
      let here = overviewOf(derived);
      let there = withChange(null, structuredClone(changeOf(here, null)));
      for (const deed of all) {
        derived = new Derived(after(derived.record, deed), derived);
        const now = overviewOf(derived, here);
        there = withChange(there, structuredClone(changeOf(now, here)));
        here = now;
        expect(there).toEqual(overviewOf(derived));
      }
    }),
    { numRuns: 30 },
  );
});

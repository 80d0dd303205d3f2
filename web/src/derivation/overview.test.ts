import { Derived } from "@alderman/core";
import { smallRailway, typed } from "@alderman/core/testing/build";
import { after, deeds, EXHIBITS } from "@alderman/core/testing/exhibits";
import fc from "fast-check";
import { expect, it } from "vitest";
import {
  changeOf,
  knownOverview,
  loomIn,
  type Overview,
  type OverviewChange,
  overviewOf,
  partOf,
  wholeOverviewOf,
  withChange,
} from "./overview.ts";

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
  const first = wholeOverviewOf(before);
  const after = new Derived(typed(before.record, "y1", "run", "4.5"), before);
  const now = wholeOverviewOf(after, first);
  const change = changeOf(now, first);
  // what the unit's supply gives at its worst hangs on the wire as well
  expect(Object.keys(sent(change)).sort()).toEqual(["loads", "threads", "wires"]);
  expect(sent(change).threads).toBe(1);
  expect(sent(change).wires).toBeLessThan(after.loom.wires.length / 2);
  expect(withChange(first, structuredClone(change))).toEqual(wholeOverviewOf(after));
  // what did not change is the same to the screens
  expect(withChange(first, structuredClone(change)).nets).toBe(first.nets);
});

it("keeps what an edit of the wiring left alone, though all of it was worked out anew", () => {
  const before = new Derived(smallRailway());
  const first = wholeOverviewOf(before);
  const after = new Derived(typed(before.record, "m1", "lamp", ""), before);
  const change = changeOf(wholeOverviewOf(after, first), first);
  expect(sent(change).threads).toBe(1);
  expect(sent(change).nets ?? 0).toBeLessThan(after.schematic.nets.length / 3);
  expect(withChange(first, structuredClone(change))).toEqual(wholeOverviewOf(after));
});

it("sends everything when nothing was sent", () => {
  const all = wholeOverviewOf(new Derived(smallRailway()));
  expect(withChange(null, structuredClone(changeOf(all, null)))).toEqual(all);
});

it("makes the same overview of the changes of any series of edits", () => {
  fc.assert(
    fc.property(fc.array(deeds, { maxLength: 6 }), (all) => {
      let derived = new Derived(smallRailway());
      let here = wholeOverviewOf(derived);
      let there = withChange(null, structuredClone(changeOf(here, null)));
      for (const deed of all) {
        derived = new Derived(after(derived.record, deed), derived);
        const now = wholeOverviewOf(derived, here);
        there = withChange(there, structuredClone(changeOf(now, here)));
        here = now;
        expect(there).toEqual(wholeOverviewOf(derived));
      }
    }),
    { numRuns: 30 },
  );
});

it("comes in parts to the same, of no more new things in each than may be, and is partial until then", () => {
  const derived = new Derived(smallRailway());
  derived.checking.go(() => false);
  const all = overviewOf(derived);
  let here: Overview | null = null;
  let there: Overview | null = null;
  for (let parts = 1; ; parts++) {
    const next = partOf(all, here, 20);
    const change = changeOf(next, here);
    expect(Object.values(sent(change)).reduce((sum, items) => sum + items, 0)).toBeLessThanOrEqual(20);
    there = withChange(there, structuredClone(change));
    here = next;
    if (next === all) {
      expect(parts).toBeGreaterThan(3);
      break;
    }
    // of what has no finding it is known that it has none once all findings are here
    expect(next.partial).toBe(next.findings.length < all.findings.length);
    // the loom is shown when all of it is there, not before
    const isAll = next.loom.wires.length === all.loom.wires.length && next.loom.idle.length === all.loom.idle.length;
    if (!isAll) expect(loomIn(there)).toBeNull();
  }
  expect(there).toEqual(all);
  expect(loomIn(there)).toEqual(all.loom);
  expect(there?.partial).toBe(false);
});

it("shows of rules that have not looked yet what they found before, and of a railway just opened that it is partial", () => {
  const record = smallRailway();
  const opened = new Derived(record);
  opened.checking.go(() => true);
  const first = overviewOf(opened);
  expect(first.partial).toBe(true);
  expect(first.loads).toEqual([]);
  // the threads are there before anything is woven or solved
  expect(first.threads).toEqual(opened.schematic.threads);
  expect([opened.isCut, first.loom.wires, first.boards, loomIn(first)]).toEqual([false, [], [], null]);
  opened.checking.go(() => false);
  const whole = overviewOf(opened, first);
  expect(whole.partial).toBe(false);
  expect(whole.findings).toEqual(opened.findings);
  expect(whole.loads).toEqual(opened.loads);
  // an edit that takes a lamp away leaves the findings of before until their rules have looked
  const edited = new Derived(typed(record, "m1", "lamp", ""), opened);
  edited.checking.go(() => true);
  const between = overviewOf(edited, whole);
  expect(between.partial).toBe(false);
  expect(loomIn(between)).toEqual(between.loom);
  const { looked } = edited.checking;
  expect(between.findings.filter(({ ruleId }) => !looked.has(ruleId))).toEqual(
    whole.findings.filter(({ ruleId }) => !looked.has(ruleId)),
  );
  edited.checking.go(() => false);
  expect(overviewOf(edited, between).findings).toEqual(new Derived(edited.record).findings);
});

it.each(Object.entries(EXHIBITS))(
  "shows what is known of %s from earlier, and the same while it is looked at once more",
  (_name, build) => {
    const record = build();
    const earlier = new Derived(record);
    const { findings, loads } = earlier;
    const derived = new Derived(record);
    let shown = knownOverview(structuredClone({ findings, loads }));
    expect(loomIn(shown)).toBeNull();
    for (const until of [0.02, 0.05, 0.2, 0.5, 0.8, 1]) {
      derived.checking.go((share) => share >= until);
      const next = withChange(shown, structuredClone(changeOf(overviewOf(derived, shown), shown)));
      // nothing of it comes, goes or changes its place
      expect(next.findings).toBe(shown.findings);
      expect(next.loads).toBe(shown.loads);
      expect(next.partial).toBe(false);
      shown = next;
    }
    expect(shown).toEqual(wholeOverviewOf(earlier));
  },
);

import { addTurnout, Derived, edit, emptyRecord } from "@alderman/core";
import { railway, retyped, smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { overviewOf } from "./overview.ts";
import { sharesOf } from "./sharesOf.ts";

const overview = (record: ReturnType<typeof smallRailway>) => overviewOf(new Derived(record));

it("counts turnouts, followers among them, that are completely equipped", () => {
  const record = smallRailway();
  expect(sharesOf(4, overview(record), null).equip).toMatchObject({ done: 4, of: 4 });
  const more = edit(record, addTurnout(record, "Z").edits).record;
  expect(sharesOf(5, overview(more), null).equip).toMatchObject({ done: 4, of: 5 });
});

it("leaves out the wires of turnouts on which a grave finding stands", () => {
  const good = overview(smallRailway());
  expect(sharesOf(4, good, null).loom).toMatchObject({ done: good.loom.wires.length, of: good.loom.wires.length });
  const bad = overview(retyped(smallRailway(), "T1", "toggle-latching"));
  const of = new Set(bad.loom.wires.filter(({ turnoutId }) => turnoutId === "y1" || turnoutId === "y2"));
  expect(sharesOf(4, bad, null).loom.done).toBe(bad.loom.wires.length - of.size);
});

it("counts outputs in use that have an address of their own", () => {
  expect(sharesOf(4, overview(smallRailway()), null).numbers).toMatchObject({ done: 1, of: 1 });
  const clash = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", ""],
    ["B", "", "stall-motor", "stall-decoder-8", "", ""],
  );
  expect(sharesOf(2, overview(clash), null).numbers).toMatchObject({ done: 0, of: 2 });
});

it("counts test steps, and nothing at all before anything is known", () => {
  const proving = { a: { steps: 7, passed: 3, failed: 1, stale: 1 }, b: { steps: 5, passed: 5, failed: 0, stale: 0 } };
  expect(sharesOf(2, null, proving).prove).toMatchObject({ done: 8, of: 12 });
  expect(Object.values(sharesOf(0, null, null)).every(({ done, of }) => done === 0 && of === 0)).toBe(true);
  expect(sharesOf(0, overview(emptyRecord("x")), {}).loom).toMatchObject({ done: 0, of: 0 });
});

// An edit of lengths makes anew only the wires that it touches, and the same ones as from the record anew.
import fc from "fast-check";
import { expect, it } from "vitest";
import { drafted, railway, smallRailway, typed } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { loomOf } from "./loom.ts";

/** What follows from a record, whose loom was asked for: only then is it taken over. */
function woven(record: RailwayRecord): Derived {
  const derived = new Derived(record);
  void derived.loom;
  return derived;
}

it("keeps every wire whose length is as it was", () => {
  const before = woven(smallRailway());
  const after = new Derived(typed(before.record, "y2", "run", "7"), before);
  const changed = after.loom.wires.filter((wire, index) => wire !== before.loom.wires[index]);
  // two coils and the return, which goes on from the first motor's common
  expect(changed.map(({ to }) => to.name).sort()).toEqual(["Y2-C", "Y2-N", "Y2-R"]);
  for (const { metres } of changed) expect(metres).toBe(7);
  expect(after.loom.passages).toBe(before.loom.passages);
  expect(after.schematic.nets).toBe(before.schematic.nets);
});

it("comes to the same wires as from the record anew, for every recipe and any length", () => {
  for (const [name, make] of Object.entries({ ...DRIVING, ...FROGS, ...LAMPS })) {
    const before = woven(make());
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 200, noNaN: true }), (metres) => {
        const record = drafted(before.record, (draft) =>
          draft.put("turnout", { ...draft.record.turnouts[0]!, runMetres: metres }),
        );
        const { loom, schematic } = new Derived(record, before);
        expect(loom, name).toEqual(loomOf(record, schematic));
      }),
      { numRuns: 3 },
    );
  }
});

it("takes over everything when only a name or a test changed", () => {
  const before = woven(railway(["A", "", "stall-motor", "stall-decoder-8"]));
  const named = new Derived(typed(before.record, "a", "name", "Station throat"), before);
  expect(named.loom).toBe(before.loom);
  expect(named.schematic.threads[0]?.turnout.name).toBe("Station throat");
});

it("makes everything anew when the wiring or the railway's gauges changed", () => {
  const before = woven(smallRailway());
  const other = new Derived(typed(before.record, "y1", "control", ""), before);
  expect(other.schematic.nets).not.toBe(before.schematic.nets);
  const thicker = { ...before.record, railway: { ...before.record.railway, wireGauge: "2.5 mm2" as const } };
  expect(new Derived(thicker, before).loom).toEqual(new Derived(thicker).loom);
});

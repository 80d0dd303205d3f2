import { expect, it } from "vitest";
import { drafted, smallRailway } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { DRIVING } from "../../testing/recipes.ts";
import { completed } from "../loom/completion.ts";
import { removal } from "./cascade.ts";
import { applyEdits, putEdit } from "./edits.ts";
import { KIND_ENTRIES, type RailwayRecord, thingsOf } from "./kinds.ts";

const at = "2026-05-12T20:14:00.000Z";

/** The small railway with something of every kind that refers to another. */
function noted(): RailwayRecord {
  return drafted(smallRailway(), (draft) => {
    draft.put("zone", { id: "z", label: "Yard", name: "", order: 1, commons: null, plasticJoints: 0 });
    const y1 = draft.record.turnouts.find(({ id }) => id === "y1")!;
    draft.put("turnout", { ...y1, zoneId: "z" });
    draft.put("debt", {
      ...{ id: "d", kind: "awaited", text: "a connector", blocks: "", turnoutId: "y1", done: false, at },
    });
    draft.put("photo", {
      ...{ id: "p", turnoutId: null, deviceId: "cd1", caption: "", picture: "data:image/jpeg;base64,AAAA", at },
    });
    draft.put("fact", {
      ...{ id: "f", text: "heard it", standing: "heard", typeId: null, figure: null, deviceId: "cd1", source: "", at },
    });
    draft.put("reading", {
      ...{ id: "r", red: "cd1:+", black: "cd1:-", redName: "CD1+", blackName: "CD1-", range: "V", turnoutId: "y1" },
      ...{ position: null, moment: "rest", expected: 22, low: 20, high: 24, read: 22, agrees: true, at },
    });
  });
}

it("says what becomes of all that refers to a thing: removed, let go, or noted otherwise", () => {
  const record = noted();
  const { record: now } = applyEdits(record, removal(record, "turnout", "y1"));
  expect(now.turnouts.some(({ id }) => id === "y1")).toBe(false);
  expect(now.assignments.some((a) => "turnoutId" in a && a.turnoutId === "y1")).toBe(false);
  expect(now.readings).toMatchObject([{ id: "r", turnoutId: null }]);
  expect(now.debts).toMatchObject([{ turnoutId: null, text: "Y1: a connector" }]);
  expect(applyEdits(record, removal(record, "turnout", "m1")).record.turnouts).toContainEqual(
    expect.objectContaining({ id: "m2", movesWith: null }),
  );
  const withoutUnit = applyEdits(record, removal(record, "device", "cd1")).record;
  expect([withoutUnit.photos, withoutUnit.facts]).toEqual([[], []]);
  expect(applyEdits(record, removal(record, "zone", "z")).record.turnouts.every(({ zoneId }) => zoneId === null)).toBe(
    true,
  );
  expect(removal(record, "zone", "nowhere")).toEqual([]);
});

it("leaves a sound record, whatever is removed from whichever railway, and can be undone", () => {
  let removed = 0;
  for (const make of [noted, ...Object.values(DRIVING), ...Object.values(MISTAKES)]) {
    const record = make();
    for (const [kind] of KIND_ENTRIES) {
      for (const { id } of thingsOf(record, kind)) {
        // applying checks all rules
        const { record: now, inverses } = applyEdits(record, removal(record, kind, id));
        expect(thingsOf(now, kind).some((thing) => thing.id === id)).toBe(false);
        expect(applyEdits(now, inverses).record).toEqual(record);
        removed++;
      }
    }
  }
  expect(removed).toBeGreaterThan(800);
});

it("leaves what is made with a loose end where something goes, with what was written there, and takes proposals along", () => {
  const record = completed(smallRailway());
  const [first] = record.wires.filter(({ fromDeviceId, toStripId }) => fromDeviceId === "t1" && toStripId !== null);
  const other = record.wires.filter(
    ({ id, fromDeviceId, toDeviceId }) => id !== first!.id && [fromDeviceId, toDeviceId].includes("t1"),
  );
  expect(other.length).toBeGreaterThan(1);
  // only its joint at the toggle was ever written down
  const made = applyEdits(record, [putEdit("wire", { ...first!, fromJoinedAt: at })]).record;
  const { record: now } = applyEdits(made, removal(made, "device", "t1"));
  expect(now.wires.find(({ id }) => id === first!.id)).toEqual({
    ...first!,
    ...{ fromDeviceId: null, fromTerminal: `T1-${first!.fromTerminal}`, fromJoinedAt: null, cutAt: at },
  });
  for (const { id } of other) expect(now.wires.some((wire) => wire.id === id)).toBe(false);

  // a strip that goes leaves its made wires as well, and a cable's core is a single wire then
  const strip = applyEdits(made, removal(made, "strip", first!.toStripId!)).record;
  expect(strip.wires.find(({ id }) => id === first!.id)).toMatchObject({
    ...{ toStripId: null, toWay: null, toTerminal: `P1-${first!.toWay}`, fromJoinedAt: at },
  });
  const core = record.wires.find(({ cableId }) => cableId !== null)!;
  const laid = applyEdits(record, [putEdit("wire", { ...core, cutAt: at })]).record;
  const without = applyEdits(laid, removal(laid, "cable", core.cableId!)).record;
  expect(without.wires.filter(({ cableId }) => cableId === core.cableId)).toEqual([]);
  expect(without.wires.find(({ id }) => id === core.id)).toMatchObject({ cableId: null, core: null, cutAt: at });
});

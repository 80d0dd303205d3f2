import fc from "fast-check";
import { expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { applyEdits, Edit, putEdit, removeEdit, touchedThings } from "./edits.ts";
import { emptyRecord, type RailwayRecord } from "./kinds.ts";
import { RecordError } from "./problems.ts";
import type { Zone } from "./schemas.ts";

const zone = (id: string, label: string, order = 1): Zone => ({
  id,
  label,
  name: "",
  order,
  commons: null,
  plasticJoints: 0,
});

it("undoes any series of edits by the inverses it gave", () => {
  const step = fc.record({
    id: fc.constantFrom("a", "b", "c", "d"),
    label: fc.constantFrom("A", "B", "C", "D", "E"),
    put: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
      let record = emptyRecord("Test");
      const before: { record: RailwayRecord; inverses: Edit[] }[] = [];
      for (const { id, label, put } of steps) {
        try {
          const edited = applyEdits(record, [put ? putEdit("zone", zone(id, label)) : removeEdit("zone", id)]);
          before.push({ record, inverses: edited.inverses });
          record = edited.record;
        } catch (error) {
          expect(error).toBeInstanceOf(RecordError);
        }
      }
      for (const { record: wanted, inverses } of before.reverse()) {
        record = applyEdits(record, inverses).record;
        expect(record).toEqual(wanted);
      }
    }),
  );
});

it("keeps lists in the order of identifiers and leaves the record given as it was", () => {
  const record = emptyRecord("Test");
  const edited = applyEdits(record, [putEdit("zone", zone("b", "B")), putEdit("zone", zone("a", "A"))]);
  expect(edited.record.zones.map(({ id }) => id)).toEqual(["a", "b"]);
  expect(record.zones).toEqual([]);
});

it("lets two labels change hands within one group", () => {
  const record = applyEdits(emptyRecord("Test"), [
    putEdit("zone", zone("a", "A")),
    putEdit("zone", zone("b", "B")),
  ]).record;
  const swapped = applyEdits(record, [putEdit("zone", zone("a", "B")), putEdit("zone", zone("b", "A"))]).record;
  expect(swapped.zones.map(({ label }) => label)).toEqual(["B", "A"]);
});

it("says what is wrong, in a sentence, and changes nothing", () => {
  const record = smallRailway();
  const before = structuredClone(record);
  expect(() => applyEdits(record, [putEdit("zone", zone("a", "A")), removeEdit("zone", "zz")])).toThrow(
    'There is no zone "zz" to remove.',
  );
  expect(() => applyEdits(record, [removeEdit("device", "cd1")])).toThrow(/names a device that does not exist/);
  expect(() => applyEdits(record, [putEdit("zone", zone("a", "A")), putEdit("zone", zone("b", "a"))])).toThrow(
    /already a zone called a/,
  );
  expect(record).toEqual(before);
});

it("refuses a chain of followers and a turnout that follows itself", () => {
  const record = smallRailway();
  const [m1, m2, y1] = ["m1", "m2", "y1"].map((id) => record.turnouts.find((turnout) => turnout.id === id)!);
  expect(() => applyEdits(record, [putEdit("turnout", { ...y1!, movesWith: m2!.id })])).toThrow(
    /M2 follows another turnout already/,
  );
  expect(() => applyEdits(record, [putEdit("turnout", { ...m1!, movesWith: m1!.id })])).toThrow(
    /cannot move with itself/,
  );
});

it("refuses a second motor on a turnout and a second supply on a device", () => {
  const record = smallRailway();
  const motor = record.assignments.find((a) => a.role === "motor" && a.turnoutId === "y1")!;
  expect(() =>
    applyEdits(record, [putEdit("assignment", { ...motor, id: "other", deviceId: "m1" } as typeof motor)]),
  ).toThrow(/one motor only/);
  const supply = record.assignments.find((a) => a.role === "supply")!;
  expect(() => applyEdits(record, [putEdit("assignment", { ...supply, id: "other" })])).toThrow(/one supply only/);
});

it("refuses what is no edit", () => {
  for (const bad of [
    { op: "put", kind: "zone" },
    { op: "remove", kind: "toString", id: "a" },
    { op: "put", kind: "zone", value: { ...zone("a", "A"), more: 1 } },
    null,
  ]) {
    expect(Edit.safeParse(bad).success).toBe(false);
  }
});

it("names the things that edits touch", () => {
  const touched = touchedThings([
    putEdit("zone", zone("a", "A")),
    removeEdit("device", "d1"),
    putEdit("zone", zone("a", "B")),
    { op: "railway", value: emptyRecord("x").railway },
  ]);
  expect([...touched.values()]).toEqual([{ kind: "zone", id: "a" }, { kind: "device", id: "d1" }, { kind: "railway" }]);
});

import fc from "fast-check";
import { expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { Draft } from "../equip/draft.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, find, freshId, turnoutsInOrder } from "./find.ts";
import type { RailwayRecord } from "./kinds.ts";
import type { Assignment } from "./schemas.ts";

/** All look-ups of a record, as plain lists. */
function lookedUp(record: RailwayRecord) {
  const byId = (list: readonly { id: string }[]) => list.map(({ id }) => id).sort();
  return {
    turnouts: record.turnouts.map(({ id }) => find(record, "turnout", id)),
    devices: record.devices.map(({ id }) => find(record, "device", id)),
    ofDevice: record.devices.map(({ id }) => byId(assignmentsOfDevice(record, id))),
    ofTurnout: record.turnouts.map(({ id }) =>
      (["motor", "control", "lamp"] as const).map((role) => byId(assignmentsOfTurnout(record, id, role))),
    ),
  };
}

it("finds things by identifier and assignments by what they are about, also where turnout and device share one", () => {
  const record = smallRailway();
  expect(find(record, "turnout", "m1")?.label).toBe("M1");
  expect(find(record, "device", "m1")?.typeId).toBe("stall-motor");
  expect(find(record, "device", "constructor")).toBeUndefined();
  expect(
    assignmentsOfDevice(record, "m1")
      .map(({ role }) => role)
      .sort(),
  ).toEqual(["driver", "lamp", "motor"]);
  expect(assignmentsOfTurnout(record, "m1", "motor")).toHaveLength(1);
});

it("keeps a draft's look-ups as those of a record read anew, whatever is put and removed", () => {
  const pool = smallRailway().assignments;
  const step = fc.tuple(fc.nat(pool.length - 1), fc.nat(pool.length - 1), fc.boolean());
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      const draft = new Draft(smallRailway());
      for (const [from, to, remove] of steps) {
        const [one, other] = [pool[from]!, pool[to]!];
        if (remove && find(draft.record, "assignment", one.id)) draft.remove("assignment", one.id);
        else draft.put("assignment", { ...other, id: one.id } as Assignment);
      }
      // a copy has no index yet, so that it is made from nothing
      expect(lookedUp(draft.record)).toEqual(lookedUp({ ...draft.record }));
    }),
  );
});

it("leaves the look-ups of the record that a draft began with alone", () => {
  const record = smallRailway();
  const before = lookedUp(record);
  const draft = new Draft(record);
  for (const assignment of record.assignments) draft.remove("assignment", assignment.id);
  expect(lookedUp(record)).toEqual(before);
});

it("gives one edit for each thing touched, and none for a thing that came and went", () => {
  const draft = new Draft(smallRailway());
  const device = draft.addDevice("cdu", "CD", "layout");
  draft.put("device", { ...device, note: "one" });
  const other = draft.addDevice("cdu", "CD", "layout");
  draft.remove("device", other.id);
  expect(draft.edits).toEqual([{ op: "put", kind: "device", value: { ...device, note: "one" } }]);
});

it("makes identifiers that are free, readable and sound", () => {
  const record = smallRailway();
  expect(freshId(record, "device", "CD1")).toBe("cd1-2");
  expect(freshId(record, "device", "Signal box / west")).toBe("signal-box-west");
  expect(freshId(record, "zone", "öäü")).toBe("zone");
  expect(freshId(record, "zone", "x".repeat(60))).toHaveLength(30);
});

it("lists turnouts in the owner's order", () => {
  const record = smallRailway();
  expect(turnoutsInOrder(record).map(({ label }) => label)).toEqual(["Y1", "Y2", "M1", "M2"]);
  expect(record.turnouts.map(({ label }) => label)).toEqual(["M1", "M2", "Y1", "Y2"]);
});

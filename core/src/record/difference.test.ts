// What an edit took away and put in, and the index that is made out of the one before it.
import fc from "fast-check";
import { expect, it } from "vitest";
import { railway, smallRailway, typed } from "../../testing/build.ts";
import { after, deeds, randomRailway } from "../../testing/exhibits.ts";
import { differenceOf, touchedBetween } from "./difference.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, find, indexAfter } from "./find.ts";

it("tells things that are new, gone and changed, each list gone through once", () => {
  const before = smallRailway();
  const now = typed(before, "y1", "lamp", "");
  const ids = (things: readonly { id: string }[]) => things.map(({ id }) => id);
  const devices = differenceOf(before, now, "device");
  expect([ids(devices.gone), ids(devices.come)]).toEqual([["lp1"], []]);
  const renamed = differenceOf(before, typed(before, "y2", "name", "Yard"), "turnout");
  expect(renamed.gone[0]).toMatchObject({ id: "y2", name: "" });
  expect(renamed.come[0]).toMatchObject({ id: "y2", name: "Yard" });
  expect(differenceOf(before, before, "device")).toEqual({ gone: [], come: [] });
});

it("names the devices and turnouts that an edit says something of, whatever it was", () => {
  const before = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]);
  const touched = touchedBetween(before, typed(before, "b", "hand", "left"));
  expect([...touched.turnouts].sort()).toEqual(["a", "b"]);
  expect([...touched.devices]).toEqual([]);
  const driven = touchedBetween(before, typed(before, "a", "driver", "D1-3"));
  expect([...driven.devices].sort()).toEqual(["a", "b", "d1"]);
});

it("gives the same index as from the record anew, after any series of edits", () => {
  fc.assert(
    fc.property(randomRailway(6), fc.array(deeds, { maxLength: 6 }), (start, all) => {
      let record = start;
      find(record, "device", "d1");
      for (const deed of all) {
        const next = after(record, deed);
        if (next === record) continue;
        indexAfter(next, record);
        const anew = structuredClone(next);
        for (const { id } of next.devices) {
          expect(find(next, "device", id)).toEqual(find(anew, "device", id));
          expect(assignmentsOfDevice(next, id)).toEqual(assignmentsOfDevice(anew, id));
        }
        for (const { id } of next.turnouts)
          for (const role of ["motor", "control", "lamp", "frog"] as const)
            expect(assignmentsOfTurnout(next, id, role)).toEqual(assignmentsOfTurnout(anew, id, role));
        for (const { id } of record.devices)
          expect(find(next, "device", id) === undefined).toBe(!next.devices.some((device) => device.id === id));
        record = next;
      }
    }),
    { numRuns: 40 },
  );
});

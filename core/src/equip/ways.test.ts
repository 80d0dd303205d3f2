import { expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { detectorAsButton, FROGS, lampOnNode, readBy, zonesAtInputs } from "../../testing/recipes.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { freeInput, freeWays, waysInUse } from "./ways.ts";

const id = (record: RailwayRecord, label: string) => record.devices.find((device) => device.label === label)!.id;

it("counts outputs that drive, light, feed or command as used", () => {
  const driven = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-3"]);
  expect(freeWays(driven, "d1", 8)).toEqual([2, 4, 5, 6, 7, 8]);
  const lit = lampOnNode("lamp-two-colour-plus");
  expect(freeWays(lit, id(lit, "ON1"), 8)).toEqual([1, 2, 3, 4, 7, 8]);
  const relays = FROGS["a relay board that follows the turnout"]!();
  expect(freeWays(relays, id(relays, "RB1"), 2)).toEqual([2]);
  const commanding = drafted(driven, (draft) =>
    draft.assign("control", { deviceId: "d1", turnoutId: "b", way: 7, to: null, inverse: false, follows: false }),
  );
  expect(freeWays(commanding, "d1", 8)).not.toContain(7);
});

it("finds a run of free inputs, a single button taking one and others two", () => {
  const two = readBy("input-node-16");
  // the buttons stand at inputs 3 and 4
  expect(freeInput(two, id(two, "IN1"), 1)).toBe(1);
  expect(freeInput(two, id(two, "IN1"), 2)).toBe(1);
  expect(freeInput(two, id(two, "IN1"), 3)).toBe(5);
  expect(freeInput(two, id(two, "IN1"), 13)).toBeNull();
  const one = drafted(two, (draft) => {
    const button = draft.addDevice("push-button", "B", "panel");
    draft.assign("control", {
      deviceId: button.id,
      turnoutId: "a",
      way: null,
      to: "R",
      inverse: false,
      follows: false,
    });
    draft.assign("input", { deviceId: id(two, "IN1"), way: 5, controlId: button.id, controlWay: null });
  });
  expect(freeInput(one, id(two, "IN1"), 3)).toBe(6);
});

it("counts one input for a detector's zone, whether it asks for one position or changes over", () => {
  const zones = zonesAtInputs();
  const node = id(zones, "IN1");
  const inUse = (record: RailwayRecord) => waysInUse(record, node).flatMap((used, index) => (used ? [index + 1] : []));
  const before = inUse(zones);
  const changing = drafted(zones, (draft) => {
    for (const a of draft.record.assignments) if (a.role === "control") draft.put("assignment", { ...a, to: null });
  });
  expect(before).toHaveLength(2);
  expect(inUse(changing)).toEqual(before);
});

it("says of every board which of its numbers are in use", () => {
  const zones = detectorAsButton();
  expect(waysInUse(zones, id(zones, "BD1"))).toEqual([true, true, false, false]);
  const driven = railway(["A", "", "stall-motor", "stall-decoder-8"]);
  expect(waysInUse(driven, "d1").map(Number)).toEqual([1, 0, 0, 0, 0, 0, 0, 0]);
  for (const device of driven.devices)
    if (typeOf(driven, device).outputs === 0) expect(waysInUse(driven, device.id)).toEqual([]);
});

it("never gives a motor an output that commands something else", () => {
  const commanding = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor"]), (draft) =>
    draft.assign("control", { deviceId: "d1", turnoutId: "b", way: 2, to: null, inverse: false, follows: false }),
  );
  const put = typed(commanding, "b", "driver", "D1");
  expect(put.assignments.find((a) => a.role === "driver" && a.motorId === "b")).toMatchObject({ way: 3 });
});

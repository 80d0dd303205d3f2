import { expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { FROGS, lampOnNode, readBy } from "../../testing/recipes.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { freeInput, freeWays } from "./ways.ts";

const id = (record: RailwayRecord, label: string) => record.devices.find((device) => device.label === label)!.id;

it("counts outputs that drive, light, feed or command as used", () => {
  const driven = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-3"]);
  expect(freeWays(driven, "d1", 8)).toEqual([2, 4, 5, 6, 7, 8]);
  const lit = lampOnNode("lamp-two-colour-plus");
  expect(freeWays(lit, id(lit, "ON1"), 8)).toEqual([1, 2, 3, 4, 7, 8]);
  const relays = FROGS["a relay board that follows the turnout"]!();
  expect(freeWays(relays, id(relays, "RB1"), 2)).toEqual([2]);
  const commanding = drafted(driven, (draft) =>
    draft.assign("control", { deviceId: "d1", turnoutId: "b", way: 7, to: null, inverse: false }),
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
    draft.assign("control", { deviceId: button.id, turnoutId: "a", way: null, to: "R", inverse: false });
    draft.assign("input", { deviceId: id(two, "IN1"), way: 5, controlId: button.id, controlWay: null });
  });
  expect(freeInput(one, id(two, "IN1"), 3)).toBe(6);
});

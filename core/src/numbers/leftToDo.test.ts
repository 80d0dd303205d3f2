// What is left to do with numbers, and where one begins.
import { expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { onBus } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { allTaught } from "../events/taught.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { leftToDo } from "./leftToDo.ts";

const left = (record: RailwayRecord) => {
  const { schematic, addresses } = new Derived(record);
  return leftToDo(record, schematic.threads, addresses).map(({ words, next }) => `${words}: ${next}`);
};

it("is nothing where all is as it was bought and wanted", () => {
  expect(left(railway(["A", "", "stall-motor", "stall-decoder-8"]))).toEqual([]);
});

it("names what is next of each kind", () => {
  const record = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
    draft.assign("address", { deviceId: "d1", way: 2, address: 40 });
  });
  expect(left(record)).toEqual(["1 to program: Program D1-2 to 40"]);
});

it("has nodes first, then what they are taught", () => {
  const record = onBus("push-pair");
  const label = record.devices.find(({ typeId }) => typeId === "input-node-16")!.label;
  expect(left(record)).toEqual([
    expect.stringMatching(new RegExp(`^2 nodes to number: Set the switches of (${label}|ON1) to \\d+$`)),
    "2 links to teach: Teach ON1",
  ]);
  const { threads } = new Derived(record).schematic;
  const taught = edit(record, allTaught(record, threads, "on1", "2026-05-12T20:14:00.000Z")!.edits).record;
  expect(left(taught)).toHaveLength(1);
});

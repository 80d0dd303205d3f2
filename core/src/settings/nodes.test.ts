// Nodes on the control bus: numbers, switches, and what a start of day carries.
import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { busDay } from "../numbers/busDay.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { busNodes, freeNodeNumber, giveNodeNumbers } from "./nodes.ts";
import { faultOf, readSetting, wantSetting } from "./settings.ts";

const station = () => readBy("input-node-16");
const node = (record: RailwayRecord, label: string) => busNodes(record).find(({ line }) => line.of === label)!;
const numbered = (record: RailwayRecord, label: string, number: string) =>
  edit(record, wantSetting(record, node(record, label).line, number)!.edits).record;

it("says how switches must be for a number, and which of them are otherwise", () => {
  const record = station();
  expect(busNodes(record).map(({ line, number, switches }) => [line.of, number, switches])).toEqual([
    ["IN1", null, []],
    ["ON1", null, []],
  ]);
  const wanted = numbered(record, "IN1", "14");
  const { line } = node(wanted, "IN1");
  const read = edit(wanted, readSetting(wanted, line, "16", "2026-05-12T20:14:00.000Z")!.edits).record;
  // 16 is all off and no jumper; 14 wants bit 1 not to count, so its inverted switch on
  expect(node(read, "IN1").switches.filter(({ wanted, found }) => wanted !== found)).toEqual([
    { name: "1", weight: 2, isJumper: false, wanted: "on", found: "off" },
  ]);
  expect(new Derived(read).findings.map(({ ruleId, where }) => `${ruleId} ${where}`)).toContain("setting-differs IN1");
});

it("gives numbers that are nobody's, and names two nodes with one", () => {
  const one = numbered(numbered(station(), "IN1", "5"), "ON1", "5");
  expect(busNodes(one).map(({ sharedWith }) => sharedWith)).toEqual([["ON1"], ["IN1"]]);
  expect(freeNodeNumber(busNodes(one), node(one, "ON1"))).toBe(1);
  const [finding] = new Derived(one).findings.filter(({ ruleId }) => ruleId === "node-number-shared");
  expect(finding).toMatchObject({ severity: "stop", where: "Node 5", why: "IN1 and ON1 are both to have number 5." });
  expect(faultOf(node(one, "IN1").line, "65")).toBe(
    "The number of IN1 is a whole one from 1 to 64: its switches say no other.",
  );
  expect(faultOf(node(one, "ON1").line, "127")).toBeNull();
});

it("gives all nodes that have none their numbers at once, each its own", () => {
  const one = numbered(station(), "IN1", "1");
  const group = giveNodeNumbers(one)!;
  const all = edit(one, group.edits).record;
  expect(busNodes(all).map(({ line, number }) => [line.of, number])).toEqual([
    ["IN1", 1],
    ["ON1", 2],
  ]);
  expect(giveNodeNumbers(all)).toBeNull();
  const both = edit(station(), giveNodeNumbers(station())!.edits).record;
  expect(busNodes(both).flatMap(({ sharedWith }) => sharedWith)).toEqual([]);
});

it("reckons a start of day by what turnouts use of the bus", () => {
  const record = station();
  const day = busDay(record, new Derived(record).schematic.threads);
  expect(day).toMatchObject({ nodes: 2, producers: 2, consumers: 1, frames: 2, framesPerSecond: 781.25 });
  // two frames of 160 bits at 125 kbit/s
  expect(day.milliseconds).toBeCloseTo(2.56, 9);
  const none = railway(["A", "", "stall-motor", "stall-decoder-8"]);
  expect(busDay(none, new Derived(none).schematic.threads)).toMatchObject({ nodes: 0, frames: 0, milliseconds: 0 });
});

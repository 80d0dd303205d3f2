import { expect, it } from "vitest";
import { drafted } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { blocksOf, setBlock } from "./blocks.ts";
import { addBoardTo } from "./devices.ts";

const detector = drafted(emptyRecord("Test"), (draft) => {
  addBoardTo(draft, "current-detector-4");
});
const id = detector.devices.find(({ typeId }) => typeId === "current-detector-4")!.id;
const set = (record: RailwayRecord, zone: number, block: string, rail: "J" | "K") =>
  edit(record, setBlock(record, id, zone, { block, rail }).edits).record;
const named = (record: RailwayRecord) =>
  [...blocksOf(record, id)].map(([zone, { block, rail }]) => `${zone} ${block} ${rail}`);

it("names the block of a zone, gives it another name or rail, and takes it away", () => {
  const one = set(detector, 2, " Track 2 ", "J");
  expect(named(one)).toEqual(["2 Track 2 J"]);
  const two = set(one, 3, "Loop", "J");
  expect(named(set(two, 2, "Track 4", "K")).sort()).toEqual(["2 Track 4 K", "3 Loop J"]);
  expect(named(set(two, 2, "", "J"))).toEqual(["3 Loop J"]);
  expect(setBlock(detector, id, 1, { block: "", rail: "J" }).edits).toEqual([]);
});

it("says of two blocks that they are detected in opposite rails", () => {
  const found = (record: RailwayRecord) => new Derived(record).findings.map(({ ruleId }) => ruleId);
  const one = set(detector, 1, "Loop", "J");
  expect(found(one)).not.toContain("detector-rails");
  expect(found(set(one, 2, "Yard", "K"))).toContain("detector-rails");
});

it("refuses a zone that the detector has not", () => {
  expect(() => set(detector, 5, "Loop", "J")).toThrow("BD1 has zones 1 to 4; there is no BD1-5.");
});

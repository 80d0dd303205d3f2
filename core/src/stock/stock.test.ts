import { expect, it } from "vitest";
import { coilStation, smallRailway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import type { Wire } from "../loom/wire.ts";
import { tickWires } from "../loom/work.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { needsOf } from "./needs.ts";
import { boughtAll, missingByTurnout, setStock, stockLines } from "./stock.ts";

const BEFORE = "2026-05-01T08:00:00.000Z";
const AT = "2026-05-02T08:00:00.000Z";
const LATER = "2026-05-03T08:00:00.000Z";

const after = (record: RailwayRecord, group: EditGroup | null) => edit(record, group!.edits).record;
const linesOf = (record: RailwayRecord) => stockLines(record, needsOf(new Derived(record)));
const lineOf = (record: RailwayRecord, thing: string) => linesOf(record).find((line) => line.thing === thing)!;

/** The record with a step of the work done on some of its wires. */
function ticked(
  record: RailwayRecord,
  step: "cutAt" | "fromJoinedAt" | "labelledAt",
  at: string,
  which: (wire: Wire) => boolean = () => true,
) {
  const { loom } = new Derived(record);
  return after(
    record,
    tickWires(
      record,
      loom,
      loom.wires.filter(which).map(({ id }) => id),
      step,
      at,
    ),
  );
}

it("counts what the plan takes: devices, strips, cables, wire by colour, and what joints and flags take", () => {
  const record = coilStation(4);
  const derived = new Derived(record);
  const needs = new Map(needsOf(derived).map((need) => [need.thing, need]));
  expect(needs.get("type:twin-coil-surface")).toMatchObject({ needed: 4, unit: "pieces" });
  expect(needs.get("type:cdu")?.needed).toBe(1);
  expect(needs.get("strip:12")?.needed).toBe(2);
  expect(needs.get("label")?.needed).toBe(2 * derived.loom.wires.length);
  const blue = derived.loom.wires.filter(({ colour, core, gauge }) => colour === "BU" && !core && gauge === "0.5 mm2");
  expect(needs.get("wire:BU:0.5 mm2")?.needed).toBeCloseTo(
    blue.reduce((sum, { cutMetres }) => sum + cutMetres, 0),
    2,
  );
  const joints = ["ferrule:0.5 mm2", "ferrule:AWG 24", "ferrule:1.5 mm2", "sleeve", "splice"];
  const counted = joints.reduce((sum, thing) => sum + (needs.get(thing)?.needed ?? 0), 0);
  expect(counted).toBe(2 * derived.loom.wires.length);
});

it("needs less as it is built: wire that is cut, devices with a joint, labels that are on", () => {
  const record = completed(smallRailway());
  const needs = (of: RailwayRecord) => new Map(needsOf(new Derived(of)).map(({ thing, needed }) => [thing, needed]));
  const plan = needs(record);
  const built = needs(ticked(ticked(record, "fromJoinedAt", AT), "labelledAt", AT));
  expect(plan.get("wire:BU:0.5 mm2")).toBeGreaterThan(0);
  expect(built.get("wire:BU:0.5 mm2")).toBe(0);
  expect(built.get("label")).toBe(0);
  expect(built.get("type:toggle-centre-off")).toBe(0);
});

it("takes from the shelf what was built in since it was counted, and nothing of what was before", () => {
  const begun = ticked(completed(smallRailway()), "labelledAt", BEFORE, ({ run }) => run === "panel");
  const counted = after(begun, setStock(begun, lineOf(begun, "wire:BU:0.5 mm2"), { have: 10 }, AT));
  const line = lineOf(counted, "wire:BU:0.5 mm2");
  expect(line).toMatchObject({ have: 10, toBuy: 0 });
  const { loom } = new Derived(counted);
  const blue = loom.wires.find(({ colour, core, fact }) => colour === "BU" && !core && !fact?.cutAt)!;
  const cut = after(counted, tickWires(counted, loom, [blue.id], "cutAt", LATER));
  expect(lineOf(cut, "wire:BU:0.5 mm2").have).toBeCloseTo(10 - blue.cutMetres, 2);
  expect(lineOf(cut, "wire:BU:0.5 mm2").needed).toBeCloseTo(line.needed - blue.cutMetres, 2);
});

it("gives the shelf to the turnouts in their order", () => {
  const record = coilStation(4);
  const line = lineOf(record, "type:twin-coil-surface");
  const stocked = after(record, setStock(record, line, { have: 2, price: 13, supplier: "the shop" }, AT));
  const derived = new Derived(stocked);
  const missing = missingByTurnout(derived, linesOf(stocked));
  const motors = [...missing.values()].map((each) => each.some(({ need }) => need.thing === line.thing));
  expect(motors).toEqual([false, false, false, true, true]);
  expect(lineOf(stocked, line.thing)).toMatchObject({ toBuy: 2, sum: 26, isOwnPrice: true, supplier: "the shop" });
});

it("lacks nothing after all was bought, and lists what is left over when the need has gone", () => {
  const record = smallRailway();
  const bought = after(record, boughtAll(record, linesOf(record), AT));
  expect(linesOf(bought).filter(({ toBuy }) => toBuy > 0)).toEqual([]);
  expect([...missingByTurnout(new Derived(bought), linesOf(bought)).values()].flat()).toEqual([]);
  expect(boughtAll(bought, linesOf(bought), AT)).toBeNull();
  const gone = { ...bought, turnouts: [], assignments: [], devices: [], wires: [], strips: [], cables: [] };
  expect(linesOf(gone).every(({ needed, have }) => needed === 0 && have > 0)).toBe(true);
});

it("forgets an entry that says nothing any more", () => {
  const record = smallRailway();
  const stocked = after(record, setStock(record, lineOf(record, "label"), { have: 100 }, AT));
  expect(setStock(stocked, lineOf(stocked, "label"), { have: 100 }, LATER)).toBeNull();
  expect(after(stocked, setStock(stocked, lineOf(stocked, "label"), { have: 0 }, LATER)).stocks).toEqual([]);
});

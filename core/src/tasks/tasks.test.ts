import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { coilStation, railway, smallRailway } from "../../testing/build.ts";
import { edit, openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { progressOf } from "../loom/progress.ts";
import { tickWires } from "../loom/work.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { needsOf } from "../stock/needs.ts";
import { boughtAll, stockLines } from "../stock/stock.ts";
import { paceOf } from "./pace.ts";
import { type WorkPlan, workPlan } from "./tasks.ts";

const plan = (record: RailwayRecord): WorkPlan => {
  const derived = new Derived(record);
  return workPlan(record, derived.loom, derived.schematic, stockLines(record, needsOf(derived)));
};
const skerrin = () =>
  openRailwayFile(readFileSync(new URL("../../../samples/skerrin-ferry.json", import.meta.url), "utf8"));

describe.each([
  ["a small railway", () => completed(smallRailway())],
  ["nineteen coil motors", () => completed(coilStation(19))],
  ["Skerrin Ferry, half built", skerrin],
])("the order of work of %s", (_, make) => {
  const record = make();
  const { tasks, minutes } = plan(record);

  it("has every cut, flag, joint and test once", () => {
    const progress = progressOf(new Derived(record).loom.wires);
    const left = (action: string) => tasks.reduce((sum, task) => (task.action === action ? sum + task.left : sum), 0);
    expect(left("cut")).toBe(progress.cut.of - progress.cut.done);
    expect(left("label")).toBe(progress.labelled.of - progress.labelled.done);
    expect(left("bench")).toBe(progress.bench.of - progress.bench.done);
    expect(left("underneath")).toBe(progress.underneath.of - progress.underneath.done);
    expect(left("test")).toBe(progress.tested.of - progress.tested.done);
    for (const action of ["cut", "label", "test"]) {
      const ids = tasks.flatMap((task) => (task.action === action ? task.wireIds : []));
      expect(new Set(ids).size).toBe(ids.length);
    }
  });

  it("puts first what must come before, and the bench before what is underneath", () => {
    const seen = new Set<string>();
    for (const { id, after, place, turnoutIds } of tasks) {
      for (const before of after) expect(seen, `${id} after ${before}`).toContain(before);
      seen.add(id);
      if (place !== "bench") continue;
      const own = tasks.filter((task) => task.place === "underneath" && task.turnoutIds === turnoutIds);
      for (const task of own) expect(tasks.indexOf(task)).toBeGreaterThan(tasks.findIndex((each) => each.id === id));
    }
    expect(minutes.bench).toBeCloseTo(
      tasks.filter(({ place }) => place === "bench").reduce((sum, task) => sum + task.minutes, 0),
    );
  });
});

it("takes one turnout of each kind through to its test before its sisters", () => {
  const record = completed(
    railway(
      ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
      ["B", "", "stall-motor", "stall-decoder-8"],
      ["C", "", "twin-coil-surface", "CD1", "toggle-centre-off"],
      ["D", "", "twin-coil-surface", "CD1", "toggle-centre-off"],
      ["E", "", "stall-motor", "D1-2"],
    ),
  );
  const titles = plan(record)
    .tasks.filter(({ action }) => action === "test")
    .map(({ title }) => title);
  expect(titles).toEqual(["Test: boards and supplies", "Test: A", "Test: the 2 turnouts like A", "Test: B", "Test: E"]);
});

it("names what is missing for a task, and nothing when all is there", () => {
  const record = completed(coilStation(2));
  const join = (of: RailwayRecord) => plan(of).tasks.find(({ id }) => id === "y1 underneath")!;
  expect(join(record).missing).toContain("Twin-coil motor, surface-mount, no contact");
  expect(plan(record).tasks.find(({ id }) => id === "y1 label")!.missing).toEqual(["Labels for wires"]);
  const group = boughtAll(record, stockLines(record, needsOf(new Derived(record))), "2026-05-01T08:00:00.000Z");
  expect(join(edit(record, group!.edits).record).missing).toEqual([]);
});

describe("the owner's own pace", () => {
  const ticked = (minutes: readonly number[]) => {
    const record = completed(coilStation(4));
    return minutes.reduce((now, minute, index) => {
      const { loom } = new Derived(now);
      const at = new Date(Date.UTC(2026, 4, 12, 19, minute)).toISOString();
      const group = tickWires(now, loom, [loom.wires[index]!.id], "cutAt", at);
      return edit(now, group!.edits).record;
    }, record);
  };
  const cut = (record: RailwayRecord) => paceOf(record.wires, () => "underneath").cut;

  it("is the middle one of the minutes from tick to tick, pauses left out", () => {
    // 2, 2, 4, 2 and, after a night, 3 and 2 minutes
    expect(cut(ticked([0, 2, 4, 8, 10, 600, 603, 605]))).toEqual({ minutes: 2, isOwn: true });
  });

  it("is what is usual until there are enough ticks", () => {
    expect(cut(ticked([0, 7, 14])).isOwn).toBe(false);
  });

  it("shares the minutes among what is ticked at once", () => {
    const record = completed(coilStation(4));
    const ids = new Derived(record).loom.wires.map(({ id }) => id);
    const at = (minute: number) => new Date(Date.UTC(2026, 4, 12, 19, minute)).toISOString();
    const tick = (of: RailwayRecord, wires: readonly string[], minute: number) =>
      edit(of, tickWires(of, new Derived(of).loom, wires, "cutAt", at(minute))!.edits).record;
    const record2 = tick(tick(record, ids.slice(0, 1), 0), ids.slice(1, 11), 20);
    expect(cut(record2)).toEqual({ minutes: 2, isOwn: true });
  });
});

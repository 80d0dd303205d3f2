import { completed, Derived, edit, keepWires, tickWires } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { isWanted, PARTS, STEPS, type WANTED } from "./steps.ts";

const AT = "2026-05-10T10:30:00.000Z";

it("shows the wires on which something is left to do, and no others", () => {
  const record = completed(smallRailway());
  const { wires } = new Derived(record).loom;
  const shown = (of: typeof wires, wanted: (typeof WANTED)[number]["value"]) =>
    of.filter((wire) => isWanted(wire, wanted));
  expect(shown(wires, "all")).toEqual(wires);
  expect(shown(wires, "cut")).toEqual(wires);
  expect([shown(wires, "made"), shown(wires, "kept")]).toEqual([[], []]);
  // what runs on the panel has no joint underneath, and the other way round
  expect(shown(wires, "bench").every(({ run }) => run !== "layout")).toBe(true);
  expect(shown(wires, "underneath").every(({ run }) => run !== "panel")).toBe(true);

  const panel = wires.filter(({ run }) => run === "panel").map(({ id }) => id);
  const joined = (["fromJoinedAt", "toJoinedAt"] as const).reduce((now, step) => {
    const group = tickWires(now, new Derived(now).loom, panel, step, AT);
    return edit(now, group?.edits ?? []).record;
  }, record);
  const kept = keepWires(joined, new Derived(joined).loom, ["w1"], true);
  const now = new Derived(edit(joined, kept?.edits ?? []).record).loom.wires;
  expect(shown(now, "made").map(({ id }) => id)).toEqual(panel);
  expect(shown(now, "kept").map(({ id }) => id)).toEqual(["w1"]);
  expect(shown(now, "bench").every(({ run }) => run === "cable")).toBe(true);
  expect(shown(now, "cut")).toHaveLength(wires.length - panel.length);
  expect(shown(now, "labelled")).toEqual(now);
  expect(shown(now, "tested")).toEqual(now);
});

it("says of each step and part of the work what it is", () => {
  const [wire] = new Derived(smallRailway()).loom.wires;
  const said = STEPS.map(({ about }) => about(wire!));
  expect(said).toContain(`joined at ${wire!.from.name}`);
  expect(new Set(said).size).toBe(STEPS.length);
  expect(new Set(PARTS.map(({ words }) => words)).size).toBe(6);
});

// What can be drawn of a loom, and by which words it is found.
import { completed, Derived, edit, giveTail } from "@alderman/core";
import { railway, smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { drawnName, drawnOf, drawnOptions } from "./drawn.ts";

it("offers every cable and strip once, each by what it joins or where it is", () => {
  const record = completed(smallRailway());
  const { loom } = new Derived(record);
  const options = drawnOptions(record, loom);
  const things = [...loom.cables, ...loom.strips.filter(({ kind }) => kind === "screws")];
  expect(options.map(({ value }) => value)).toEqual(things.map(drawnName));
  expect(new Set(options.map(({ text }) => text)).size).toBe(options.length);
  expect(options.map(({ text }) => text)).toEqual(
    expect.arrayContaining(["C1, P1 to K1", "P1, panel", "K1, beside the boards"]),
  );
  for (const thing of things) expect(drawnOf(loom, drawnName(thing))).toBe(thing);
  expect(drawnOf(loom, "strip nothing")).toBe(loom.cables[0]);
});

it("finds a tail by its motors", () => {
  const plain = completed(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1"]));
  const group = giveTail(plain, new Derived(plain).loom, ["a", "b"]);
  const record = completed(edit(plain, group.edits).record);
  const { loom } = new Derived(record);
  expect(drawnOptions(record, loom).map(({ text }) => text)).toContain("TL1, tail of A and B");
});

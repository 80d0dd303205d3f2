import { controlsOf, Derived, type RailwayRecord } from "@alderman/core";
import { railway } from "@alderman/core/testing/build";
import { detectorAsButton, onReversingToggle, SHARED } from "@alderman/core/testing/recipes";
import { expect, it } from "vitest";
import { controlInWords, controlLabel, controlName, controlWords, madeNow } from "./controlWords.ts";

/** The first thread of a railway, its controls, and what is read of it. */
function first(record: RailwayRecord) {
  const derived = new Derived(record);
  const thread = derived.schematic.threads[0]!;
  return { thread, controls: controlsOf(thread), read: derived.reading };
}

it("calls a control by what it is and the way that commands", () => {
  const called = (record: RailwayRecord) =>
    first(record).controls.map((control) => [controlName(control), controlLabel(control), controlInWords(control)]);
  expect(called(detectorAsButton())).toEqual([
    ["Zone BD1-1", "BD1-1", "BD1-1 to N"],
    ["Zone BD1-2", "BD1-2", "BD1-2 to R"],
  ]);
  expect(called(SHARED["a pole of one lever each"]!.make())).toEqual([["Toggle T1-1", "T1-1", "T1-1"]]);
  const two = "toggle-centre-off + toggle-centre-off inverse";
  expect(called(railway(["A", "", "twin-coil-surface", "cdu", two]))[1]).toEqual(["Toggle T2", "T2", "T2 inverse"]);
});

it("says how a control is made, and what it does when let go", () => {
  const words = (record: RailwayRecord, made: "N" | "R" | null) => controlWords(first(record).controls[0]!, made);
  const coil = (control: string) => railway(["A", "", "twin-coil-surface", "cdu", control]);
  expect(words(coil("toggle-centre-off"), "R")).toEqual(["C to R closed", "springs back"]);
  expect(words(coil("toggle-latching"), null)).toEqual(["all open", "stays where put"]);
  expect(words(detectorAsButton(), "N")).toEqual(["occupied", "asks for N"]);
  const reversing = onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]);
  expect(words(reversing, "N")).toEqual(["made at N", "stays where put"]);
  // one pole by itself is a changeover like any other
  expect(words(SHARED["a pole of one lever each"]!.make(), "N")).toEqual(["C to N closed", "springs back"]);
});

it("shows a control made only while it is the one that asks, unless it stays where it is put", () => {
  const { thread, controls, read } = first(detectorAsButton());
  const [toNormal, toReverse] = controls;
  const thrown = read(thread, "R", "throwing");
  expect([madeNow(toNormal!, thrown, undefined), madeNow(toReverse!, thrown, undefined)]).toEqual([null, "R"]);
  expect(madeNow(toReverse!, thrown, toNormal!.assignment.id)).toBeNull();
  expect(madeNow(toReverse!, read(thread, "R", "rest"), undefined)).toBeNull();
  const latching = first(railway(["A", "", "stall-motor", "input-decoder-4", "toggle-latching"]));
  expect(madeNow(latching.controls[0]!, latching.read(latching.thread, "R", "rest"), undefined)).toBe("R");
});

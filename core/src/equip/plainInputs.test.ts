// Zones and contacts that are read at numbered inputs and throw nothing.
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, typed } from "../../testing/build.ts";
import { readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { feedbackInputs } from "../numbers/feedback.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { plainSources, setPlainInput } from "./plainInputs.ts";
import { freeContact } from "./ways.ts";

/** A turnout with two contacts, an encoder that reads its buttons at inputs 3 and 4, and a detector with one named block. */
function withDetector(): RailwayRecord {
  return drafted(readBy("encoder-16"), (draft) => {
    const detector = draft.addDevice("current-detector-4", "BD", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: detector.id });
    draft.assign("block", { deviceId: detector.id, way: 2, block: "Loop, east", rail: "J" });
  });
}
const record = withDetector();
const set = (now: RailwayRecord, way: number, source: { deviceId: string; way: number } | null) =>
  edit(now, setPlainInput(now, "in1", way, source)!.edits).record;

it("are offered as long as nothing else uses them, with what they tell", () => {
  const offered = plainSources(record).map(({ label, tells }) => `${label}: ${tells}`);
  expect(offered).toEqual([
    "A-S1: A at reverse",
    "A-S2: A at reverse",
    "BD1-1: a train on it",
    "BD1-2: block Loop, east occupied",
    "BD1-3: a train on it",
    "BD1-4: a train on it",
  ]);
  const framed = railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S2"]);
  expect(plainSources(framed)).toEqual([]);
});

describe("once read", () => {
  const zoned = set(record, 7, { deviceId: "bd1", way: 2 });
  const both = set(zoned, 8, { deviceId: "a", way: 1 });

  it("have their numbers, and tell instead of throwing", () => {
    const { threads } = new Derived(both).schematic;
    const at = (way: number) => feedbackInputs(both, threads).find((input) => input.way === way)!;
    expect(at(7)).toMatchObject({ number: 7, on: ["BD1-2"], does: ["tells: block Loop, east occupied"], plain: true });
    expect(at(8)).toMatchObject({ number: 8, on: ["A-S1"], does: ["tells: A at reverse"], turnoutIds: [] });
    expect(at(3).plain).toBe(false);
  });

  it("are wired, and follow the blades in the solved circuit", () => {
    const derived = new Derived(both);
    const joined = derived.schematic.nets.map(({ ends }) =>
      ends.map((end) => `${end.deviceId}-${end.terminal}`).join(" "),
    );
    expect(joined).toContainEqual(expect.stringMatching(/bd1-O2.*in1-I7|in1-I7.*bd1-O2/));
    const volts = (asked: "N" | "R") =>
      derived.circuitry.volts("in1:I8", "in1:−", { asked: { a: asked }, moment: "rest", acting: null, off: false })!;
    // the contact pulls the input down while the blades lie at reverse
    expect(volts("R")).toBeLessThan(0.5);
    expect(volts("N")).toBeGreaterThan(2);
    expect(derived.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  });

  it("are not offered again, and a frog finds the other contact", () => {
    expect(plainSources(both).map(({ label }) => label)).not.toContain("A-S1");
    expect(freeContact(both, "a")).toBe(2);
    expect(findingsOf(typed(both, "a", "frog", "S1"), "contact-used-twice")).toHaveLength(1);
  });

  it("can be taken away, and never stand where a control is read", () => {
    expect(set(both, 8, null).assignments).toHaveLength(zoned.assignments.length);
    expect(setPlainInput(record, "in1", 9, null)).toBeNull();
    expect(() => setPlainInput(record, "in1", 3, { deviceId: "bd1", way: 1 })).toThrow(/A control is read at IN1-3/);
  });
});

// Colours of lamps, and resistors in their common lead.
import { describe, expect, it } from "vitest";
import { railway, threadOf } from "../../testing/build.ts";
import { onResistorBoard } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { plannedSteps } from "../proving/testSteps.ts";
import { measure } from "../readings/meter.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { forwardVolts, LAMP_COLOURS, possiblePieces, setColours, setPiece } from "./lampFittings.ts";

const two = () =>
  railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"],
    ["B", "", "stall-motor", "D1-2", "", "lamp-two-colour"],
  );
const coloured = (record: RailwayRecord, lamp: string, a: string, b: string) =>
  edit(record, setColours(record, lamp, [a, b]).edits).record;

describe("colours", () => {
  it("make an own type that other lamps of these colours share, forward volts with them", () => {
    const red = coloured(coloured(two(), "lp1", "red", "white"), "lp2", "red", "white");
    expect(red.types).toHaveLength(1);
    expect(red.types[0]).toMatchObject({
      basedOn: "lamp-two-colour",
      colours: ["red", "white"],
      figures: { greenVolts: 1.9, yellowVolts: 3 },
    });
    const derived = new Derived(red);
    const rows = derived.situations(threadOf(derived, "A"))[0]?.rows ?? [];
    expect(rows.map(({ what }) => what)).toEqual(expect.arrayContaining(["wire of red open", "wire of white open"]));
    // less is left for the resistor of the white one: (5 V - 3 V) / 390 ohm
    expect(derived.reading(threadOf(derived, "A"), "R", "rest").lamps[0]?.reverse).toBeCloseTo(0.005, 3);
  });

  it("may be any word in small letters, and keep the figures where the volts are not known", () => {
    const record = coloured(two(), "lp1", "moonlight", "green");
    expect(record.types[0]?.figures).toEqual({ yellowVolts: 2.2 });
    expect(() => coloured(two(), "lp1", "Red 1", "green")).toThrow(/is no colour; type it in small letters/);
    expect(LAMP_COLOURS.map(forwardVolts)).not.toContain(null);
  });

  it("go by what the LED is made of: a pure green leaves its resistor less than a yellowish one", () => {
    const record = coloured(two(), "lp1", "pure green", "green");
    expect(record.types[0]?.figures).toEqual({ greenVolts: 3, yellowVolts: 2.2 });
    const derived = new Derived(record);
    const lit = (position: "N" | "R") => derived.reading(threadOf(derived, "A"), position, "rest").lamps[0];
    // (5 V - 3 V) and (5 V - 2.2 V) through 390 ohm
    expect(lit("N")?.normal).toBeCloseTo(2 / 390, 3);
    expect(lit("R")?.reverse).toBeCloseTo(2.8 / 390, 3);
  });

  it("are named by the test sheet and the finding alike", () => {
    const record = coloured(two(), "lp1", "red", "red");
    const derived = new Derived(record);
    const steps = plannedSteps(record, threadOf(derived, "A")).filter(({ key }) => key.startsWith("lamp-"));
    expect(steps.map(({ sees }) => sees[0])).toEqual(["red", "red"]);
  });
});

describe("a resistor board", () => {
  const record = onResistorBoard(railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour-bare"]));
  const derived = new Derived(record);
  const thread = threadOf(derived, "A");

  it("limits the lamp's current, and has its joint under the meter", () => {
    const amps = derived.reading(thread, "N", "rest").lamps[0]?.normal ?? 0;
    // (5 V - 2.2 V) through 450 ohm, and a little wire
    expect(amps).toBeCloseTo(2.8 / 450, 3);
    const state = stateFor(thread, "N", "rest");
    const joint = measure(derived.circuitry, "rn1:1j", "rn1:C", "V", state).value ?? 0;
    expect(joint).toBeCloseTo(amps * 300, 2);
  });

  it("has each piece for one lamp, and offers the free ones", () => {
    expect(possiblePieces(record, "lp1").map(({ label }) => label)).toEqual(
      [1, 2, 3, 4, 5, 6].map((piece) => `RN1-${piece}`),
    );
    const both = edit(record, [
      {
        op: "put",
        kind: "device",
        value: { ...record.devices.find(({ id }) => id === "lp1")!, id: "lp9", label: "LP9" },
      },
    ]).record;
    expect(possiblePieces(both, "lp9").map(({ way }) => way)).toEqual([2, 3, 4, 5, 6]);
    expect(() => edit(both, setPiece(both, "lp9", { deviceId: "rn1", way: 1 }).edits)).toThrow(/serves one lamp only/);
    expect(() => edit(both, setPiece(both, "lp9", { deviceId: "rn1", way: 7 }).edits)).toThrow(/pieces 1 to 6/);
  });

  it("is missed where a lamp has no resistor at all: it burns, and the remedy is a lamp with one", () => {
    const without = edit(record, setPiece(record, "lp1", null).edits).record;
    const [finding] = new Derived(without).findings.filter(({ ruleId }) => ruleId === "lamp-current");
    expect(finding?.why).toMatch(/without a resistor; it is rated 10.0 mA/);
    const cured = edit(without, finding!.remedies[0]!.group!.edits).record;
    expect(new Derived(cured).findings).toEqual([]);
  });
});

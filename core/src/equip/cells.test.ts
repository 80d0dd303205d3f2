// What may be typed for controls, frogs and lamps, what it comes to, and what is said of the rest.
import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { COLUMNS } from "./columns.ts";
import { removeDevice } from "./devices.ts";
import { removeTurnouts } from "./turnouts.ts";

const cell = (record: RailwayRecord, column: string, turnoutId = "a") => {
  const turnout = record.turnouts.find(({ id }) => id === turnoutId);
  const found = COLUMNS.find(({ id }) => id === column);
  return turnout && found ? found.read(record, turnout) : undefined;
};
const labels = (record: RailwayRecord) => record.devices.map(({ label }) => label).sort();

/** A stall motor on a decoder with inputs, nothing else. */
const withInputs = () => railway(["A", "", "stall-motor", "input-decoder-4"]);
const coil = () => railway(["A", "", "twin-coil-under-board", "cdu"]);

describe("controls", () => {
  it.each([
    ["toggle-centre-off", "T1"],
    ["toggle-centre-off + toggle-centre-off inverse", "T1 + T2 inverse"],
    ["push-button to N + push-button to r", "B1 to N + B2 to R"],
    ["Two push buttons, normal and reverse", "B1"],
    ["rotary", "RS1"],
    ["none", ""],
    ["", ""],
  ])("%s reads back as %s", (text, reads) => {
    const record = typed(withInputs(), "a", "control", text);
    expect(cell(record, "control")).toBe(reads);
    // what is read may be typed again
    expect(cell(typed(record, "a", "control", reads), "control")).toBe(reads);
  });

  it("fits another kind in a control's place, and takes away what commands nothing any more", () => {
    const two = typed(withInputs(), "a", "control", "toggle-centre-off + toggle-centre-off inverse");
    const one = typed(two, "a", "control", "push-pair");
    expect(labels(one)).toEqual(["A", "B1", "D1", "PS1", "TB1"]);
    expect(labels(typed(one, "a", "control", ""))).toEqual(["A", "D1", "PS1", "TB1"]);
  });

  it("lets a detector command without owning it, and keeps it when it commands no more", () => {
    const detector = drafted(withInputs(), (draft) => draft.addDevice("current-detector-4", "BD", "layout"));
    const record = typed(detector, "a", "control", "BD1-1 to N + BD1-2 to R");
    expect(cell(record, "control")).toBe("BD1-1 to N + BD1-2 to R");
    // it was given its supply and the bus for its blocks
    expect(
      record.assignments
        .filter((a) => "toDeviceId" in a && a.toDeviceId === "bd1")
        .map(({ role }) => role)
        .sort(),
    ).toEqual(["commands", "supply"]);
    expect(labels(typed(record, "a", "control", ""))).toContain("BD1");
    expect(labels(edit(record, removeTurnouts(record, ["a"]).edits).record)).toContain("BD1");
  });

  it("says by which board a control is read", () => {
    const node = drafted(railway(["A", "", "stall-motor", "output-node-8"]), (draft) =>
      draft.addDevice("input-node-16", "IN", "panel"),
    );
    const record = typed(node, "a", "control", "push-pair by IN1-5");
    expect(cell(record, "control")).toBe("B1 by IN1-5");
    expect(new Derived(record).schematic.threads[0]?.control?.reader).toMatchObject({ way: 5 });
    expect(cell(typed(record, "a", "control", "B1"), "control")).toBe("B1");
  });

  it.each([
    ["BD1", /Say which zone of BD1 commands A, as "BD1-1"/],
    ["BD1-9", /BD1 has zones 1 to 4; there is no BD1-9/],
    ["T1 by X-3", /"X-3" names no input; type the board's label and the number/],
    ["T1 by BD1-3", /BD1 has no numbered inputs/],
    ["lever", /"lever" is no control type; say/],
    ["toggle", /"toggle" could be more than one control type; say "toggle-centre-off"/],
  ])("refuses %s with a sentence", (text, message) => {
    const record = drafted(typed(withInputs(), "a", "control", "toggle-centre-off"), (draft) =>
      draft.addDevice("current-detector-4", "BD", "layout"),
    );
    expect(() => typed(record, "a", "control", text)).toThrow(message);
  });
});

describe("frogs", () => {
  it.each([
    ["S1", "S1"],
    ["s1 crossed", "S1 crossed"],
    ["dead", "dead"],
    ["polarity unit", "FP1"],
    ["relay", "RY1-S1"],
    ["relay-board-4", "RB1-S1"],
    ["", ""],
  ])("%s reads back as %s", (text, reads) => {
    const record = typed(coil(), "a", "frog", text);
    expect(cell(record, "frog")).toBe(reads);
    expect(cell(typed(record, "a", "frog", reads), "frog")).toBe(reads);
  });

  it("take the relay that suits the motor they lie beside", () => {
    const type = (record: RailwayRecord) => record.devices.find(({ label }) => label === "RY1")?.typeId;
    expect(type(typed(coil(), "a", "frog", "relay"))).toBe("relay-latching");
    expect(type(typed(withInputs(), "a", "frog", "relay"))).toBe("relay-dpdt-9");
  });

  it("bring the track for their rails, and a controller with its supply for a relay board", () => {
    const record = typed(coil(), "a", "frog", "relay-board-2");
    expect(labels(record)).toEqual(["A", "AF", "CD1", "MC1", "PS1", "PS2", "RB1", "TB1"]);
    expect(new Derived(record).findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  });

  it("are dead, but still there, when what fed them is taken away; a unit goes when nothing needs it", () => {
    const unit = typed(coil(), "a", "frog", "polarity unit");
    const without = edit(unit, removeDevice(unit, "fp1").edits).record;
    expect(cell(without, "frog")).toBe("dead");
    expect(labels(typed(unit, "a", "frog", "S1"))).not.toContain("FP1");
    expect(labels(typed(unit, "a", "frog", ""))).not.toContain("AF");
  });

  it.each([
    ["S1", railway(["A"]), /A has no motor yet, so there is no contact S1/],
    ["steam", coil(), /"steam" is no reader type/],
    ["CD1-3", coil(), /CD1 has no numbered outputs/],
  ])("refuse %s with a sentence", (text, record, message) => {
    expect(() => typed(record, "a", "frog", text)).toThrow(message);
  });

  it("are incomplete on a contact that the motor does not have", () => {
    const [finding] = new Derived(typed(coil(), "a", "frog", "S3")).findings.filter(
      ({ ruleId }) => ruleId === "turnout-incomplete",
    );
    expect(finding?.why).toContain("a frog at A on contact S3, which A does not have");
  });
});

describe("lamps", () => {
  const decoder = () => railway(["A", "", "stall-motor", "stall-decoder-8"]);

  it.each([
    ["lamp-two-colour", "LP1"],
    ["lamp-two-colour from S2", "LP1 from S2"],
    ["lamp-two-colour-12 from driver", "LP1 from driver"],
    ["lamps-frog-diodes", "LP1"],
    ["lamp-two-colour from relay", "LP1 from RY1-S1"],
    ["mechanical-flag", "MF1"],
    ["Two lamps from frog to rails, with diodes", "LP1"],
    ["none", ""],
  ])("%s reads back as %s", (text, reads) => {
    const record = typed(decoder(), "a", "lamp", text);
    expect(cell(record, "lamp")).toBe(reads);
    expect(cell(typed(record, "a", "lamp", reads), "lamp")).toBe(reads);
  });

  it("get the supply that suits them, or none where the board gives it", () => {
    const supply = (text: string) => {
      const record = typed(decoder(), "a", "lamp", text);
      const fed = record.assignments.find((a) => a.role === "supply" && a.toDeviceId === "lp1");
      return record.devices.find(({ id }) => id === fed?.deviceId)?.typeId;
    };
    expect(supply("lamp-two-colour")).toBe("dc-5");
    expect(supply("lamp-two-colour-plus")).toBe("dc-12");
    expect(supply("lamp-two-colour-12 from driver")).toBeUndefined();
    expect(supply("lamps-frog")).toBeUndefined();
  });

  it("of the frog bring a dead frog along where none was stated", () => {
    expect(cell(typed(decoder(), "a", "lamp", "lamps-frog-diodes"), "frog")).toBe("dead");
  });

  it.each([
    ["semaphore", /Say which output moves LP1|Say which output moves SE1/],
    ["lamp-two-colour from frog", /A has no frog yet\. Say first what feeds it, or "dead"/],
    ["lamp-two-colour from D9-1", /"D9-1" is no reader type/],
    ["candle", /"candle" is no lamp type/],
  ])("refuse %s with a sentence", (text, message) => {
    expect(() => typed(decoder(), "a", "lamp", text)).toThrow(message);
  });

  it("refuse a turnout without a motor, and outputs where there are none", () => {
    expect(() => typed(railway(["A"]), "a", "lamp", "lamp-two-colour")).toThrow(/A has no motor yet/);
    expect(() => typed(coil(), "a", "lamp", "lamp-two-colour-12 from driver")).toThrow(/A is on no numbered output/);
  });
});

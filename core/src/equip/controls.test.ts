import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { deviceCalled, readControls, wayOf, writeControls } from "./controls.ts";

/** A turnout on a board that reads controls beside its outputs, a node with sixteen inputs, and a few controls. */
const panel = () =>
  drafted(
    railway(
      ["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off"],
      ["B", "", "stall-motor", "D1-2", "push-button"],
      ["C", "", "stall-motor", "D1-3"],
    ),
    (draft) => void draft.addDevice("input-node-16", "IN", "layout"),
  );
const written = (record: RailwayRecord, text: string) => drafted(record, (draft) => writeControls(draft, "c", text));
const read = (record: RailwayRecord) => readControls(record, find(record, "turnout", "c")!);

describe("controls as text", () => {
  const part = fc
    .tuple(fc.constantFrom("T1", "B1"), fc.boolean(), fc.constantFrom("", " to N", " to R"))
    .map(([label, inverse, to]) => `${label}${inverse ? " inverse" : ""}${to}`);

  it("are read back as they were written, whatever they are", () => {
    fc.assert(
      fc.property(fc.uniqueArray(part, { maxLength: 2, selector: (text) => text.slice(0, 2) }), (parts) => {
        const record = written(panel(), parts.join(" + "));
        // controls have no order of their own
        expect(read(record).split(" + ").sort()).toEqual(parts.length > 0 ? [...parts].sort() : [""]);
        // what is read, written once more, changes nothing
        expect(read(written(record, read(record)))).toBe(read(record));
      }),
      { numRuns: 60 },
    );
  });

  it("name the board that reads them, and the first of its inputs", () => {
    const record = written(panel(), "T1 by IN1-5");
    expect(read(record)).toBe("T1 by IN1-5");
    expect(record.assignments.filter((a) => a.role === "input")).toMatchObject([{ way: 5 }]);
    expect(read(written(record, "T1 by none"))).toBe("T1");
    const own = written(panel(), "push-button by IN1-5");
    expect([read(own), read(written(own, "B2"))]).toEqual(["B2 by IN1-5", "B2"]);
  });

  it("name a zone or a pole, each with a reading of its own", () => {
    const record = drafted(panel(), (draft) => {
      draft.addDevice("current-detector-4", "BD", "layout");
      draft.addDevice("toggle-reversing-centre-off", "TR", "panel");
    });
    for (const text of ["BD1-2 to R by IN1-5", "TR1-2", "TR1", "TR1-1 by IN1-3"])
      expect(read(written(record, text))).toBe(text);
    const zones = written(record, "BD1-1 to N by IN1-1 + BD1-2 to R by IN1-2");
    expect(read(zones).split(" + ").sort()).toEqual(["BD1-1 to N by IN1-1", "BD1-2 to R by IN1-2"]);
    expect(() => written(record, "TR1-3")).toThrow("TR1 has poles 1 to 2; there is no TR1-3.");
    expect(() => written(record, "BD1-5")).toThrow("BD1 has zones 1 to 4; there is no BD1-5.");
  });

  it("leave no input taken by what commands nothing any more", () => {
    const record = drafted(panel(), (draft) => void draft.addDevice("current-detector-4", "BD", "layout"));
    const inputs = (each: RailwayRecord) => each.assignments.filter((a) => a.role === "input").map(({ way }) => way);
    const zones = written(record, "BD1-1 to N by IN1-1 + BD1-2 to R by IN1-2");
    expect(inputs(zones)).toEqual([1, 2]);
    expect(inputs(written(zones, "BD1-2 to R by IN1-2"))).toEqual([2]);
    expect(inputs(written(zones, "T1"))).toEqual([]);
  });

  it("bring what reads a shared control along, and leave it with the others when they go", () => {
    const read1 = typed(panel(), "a", "control", "T1 by IN1-5");
    const inputs = ({ assignments }: RailwayRecord) => assignments.filter((a) => a.role === "input");
    const both = written(read1, "T1");
    expect(read(both)).toBe("T1 by IN1-5");
    expect(inputs(both)).toHaveLength(1);
    expect(inputs(written(both, ""))).toHaveLength(1);
    // a change that is said changes it for both
    expect(readControls(written(both, "T1 by IN1-9"), find(both, "turnout", "a")!)).toBe("T1 by IN1-9");
  });

  it("leave the controls of other turnouts as they are, whatever is written for one, one after the other", () => {
    const others = (record: RailwayRecord) =>
      ["a", "b"].map((id) => readControls(record, find(record, "turnout", id)!));
    const start = typed(typed(panel(), "a", "control", "T1 by IN1-5"), "b", "control", "B1 by IN1-9");
    const text = fc
      .uniqueArray(fc.oneof(part, fc.constantFrom("Toggle, latching", "Push button", "toggle-reversing")), {
        maxLength: 3,
        selector: (each) => each.slice(0, 2),
      })
      .map((parts) => parts.join(" + "));
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 3 }), (texts) => {
        let record = start;
        for (const each of texts) {
          record = written(record, each);
          expect(others(record)).toEqual(["T1 by IN1-5", "B1 by IN1-9"]);
        }
      }),
      { numRuns: 60 },
    );
  });

  it("leave what other turnouts have as it is when one of them gets another type", () => {
    const both = written(panel(), "T1");
    const parted = written(both, "Toggle, latching");
    expect([read(parted), readControls(parted, find(parted, "turnout", "a")!)]).toEqual(["T2", "T1"]);
    expect(find(parted, "device", "t1")?.typeId).toBe("toggle-centre-off");
  });

  it("add a control for a type's name, and take one away that commands nothing any more", () => {
    const record = written(panel(), "Toggle, latching");
    expect(read(record)).toBe("T2");
    const gone = written(record, "");
    expect(read(gone)).toBe("");
    expect(deviceCalled(gone, "T2")).toBeUndefined();
    expect(deviceCalled(gone, "t1")?.label).toBe("T1");
  });

  it.each([
    ["T1 by IN1-17", /IN1 has inputs 1 to 16; there is no IN1-17/],
    ["T1 by D1-9", /D1 has no numbered inputs/],
    ["T1 by nowhere", /"nowhere" names no input/],
    ["D1", /Say which output of D1 commands C, as "D1-1"/],
    ["lever", /"lever" is no control type/],
  ])("are refused with a sentence: %s", (text, why) => {
    const record = panel();
    expect(() => written(record, text)).toThrow(why);
    expect(read(record)).toBe("");
  });
});

it("tells the ways of a device by what they are wanted for", () => {
  const record = panel();
  expect(wayOf(record, "d1-4", "output")).toEqual({ deviceId: "d1", way: 4 });
  expect(wayOf(record, "A-S2", "output")).toEqual({ deviceId: "a", way: 2 });
  expect(() => wayOf(record, "D1-5", "output")).toThrow("D1 has outputs 1 to 4; there is no D1-5.");
});

it("gives a crossover two controls of which one speaks for the other line", () => {
  const pair = railway(["M1", "", "stall-motor", "dual-control-board"], ["M2", "M1", "stall-motor"]);
  const record = typed(pair, "m1", "control", "toggle-centre-off + toggle-centre-off inverse");
  expect(readControls(record, find(record, "turnout", "m1")!)).toBe("T1 + T2 inverse");
  expect(record.assignments.filter((a) => a.role === "control").map((a) => a.role === "control" && a.inverse)).toEqual([
    false,
    true,
  ]);
});

// The nets that the recipes make, terminal by terminal, for those that schematic.test.ts does not look at.
import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { DRIVING, detectorAsButton, FROGS, LAMPS, lampOnNode, readBy } from "../../testing/recipes.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { terminalName } from "./nets.ts";
import { schematicOf } from "./schematic.ts";

/** Each net of several terminals as its purpose and their names. */
function nets(record: RailwayRecord): string[] {
  return schematicOf(record).nets.map(({ purpose, ends }) => {
    const names = ends.map(({ deviceId, terminal }) => {
      const device = record.devices.find(({ id }) => id === deviceId);
      return terminalName(device?.label ?? "?", terminal);
    });
    return `${purpose}: ${names.join(" ")}`;
  });
}
const recipe = (name: string) => {
  const make = DRIVING[name] ?? FROGS[name] ?? LAMPS[name];
  if (!make) throw new Error(`No recipe ${name}.`);
  return nets(make());
};

describe("driving", () => {
  it("crosses a reversing toggle on itself, the motor between its commons", () => {
    expect(recipe("reversing toggle and stall motor")).toEqual([
      "dc-plus: PS1+ T1-1N T1-2R",
      "dc-zero: PS1− T1-1R T1-2N",
      "to-normal: T1-1C A+",
      "to-reverse: T1-2C A−",
    ]);
  });

  it("feeds one toggle from a unit for each motor, and takes each return to its own", () => {
    expect(recipe("a discharge unit for each motor")).toEqual(
      expect.arrayContaining(["pulse-plus: CU1+ T1-C CU2+", "pulse-return: CU1− A-C", "pulse-return: CU2− B-C"]),
    );
  });

  it("lays an inverse toggle beside the first with its sides exchanged", () => {
    expect(recipe("two toggles for a crossover, one inverse")).toEqual(
      expect.arrayContaining(["to-normal: T1-N A-N B-N T2-R", "to-reverse: T1-R A-R B-R T2-N"]),
    );
  });

  it.each([
    ["decoder for coils", ["to-normal: D1-1N A-N", "pulse-plus: D1-1C A-C", "to-reverse: D1-1R A-R"]],
    ["decoder for servos", ["servo-signal: D1-1S A-S", "dc-plus: D1-1+ A+", "dc-zero: D1-1− A−"]],
    ["output node", ["bus-high: CB1-H ON1-H", "bus-low: CB1-L ON1-L", "to-normal: ON1-1A A+"]],
    ["slow motor with its decoder inside", ["track-j: TB1-J A-J", "track-k: TB1-K A-K"]],
    ["reverser with stall-motor output", ["track-j: TB1-J LR1-J", "track-k: TB1-K LR1-K", "to-normal: LR1-1A A+"]],
  ])("joins %s", (name, expected) => {
    expect(recipe(name)).toEqual(expect.arrayContaining(expected));
  });

  it("joins the common of a control bus to each node's 0 V", () => {
    expect(recipe("output node").find((net) => net.includes("CB1-0"))).toContain("ON1−");
  });
});

describe("commanding", () => {
  it.each([
    [
      "decoder with a toggle at its inputs",
      ["ask-normal: T1-N D1-I1N", "ask-reverse: T1-R D1-I1R", "dc-zero: T1-C D1-0"],
    ],
    ["decoder with one button for each press", ["ask-other: B1-N D1-I1T", "dc-zero: B1-C D1-0"]],
    ["decoder with a button for each position", ["ask-normal: B1-N D1-I1N", "ask-reverse: B2-N D1-I1R"]],
    ["servo board with a rotary switch", ["ask-normal: RS1-1 SB1-I1N", "ask-reverse: RS1-2 SB1-I1R"]],
    ["servo board behind a decoder", ["ask-normal: D1-3B SB1-I1N", "ask-reverse: D1-3A SB1-I1R"]],
    [
      "dual-control board with a toggle at the dispatcher",
      ["ask-normal: T1-N DB1-I1N T2-R", "ask-reverse: T1-R DB1-I1R T2-N"],
    ],
  ])("by %s", (name, expected) => {
    expect(recipe(name)).toEqual(expect.arrayContaining(expected));
  });

  it("takes two inputs of a reader, from the one that was chosen", () => {
    expect(nets(readBy("encoder-16"))).toEqual(
      expect.arrayContaining(["ask-normal: B1-N IN1-I3", "ask-reverse: B1-R IN1-I4", "dc-zero: B1-C IN1-0"]),
    );
  });

  it("joins a detector's outputs to the inputs, with one common 0 V", () => {
    const joined = nets(detectorAsButton());
    expect(joined).toEqual(expect.arrayContaining(["ask-normal: BD1-O1 D1-I1N", "ask-reverse: BD1-O2 D1-I1R"]));
    expect(joined.find((net) => net.includes("BD1-0"))).toContain("D1-0");
  });
});

describe("frogs", () => {
  it.each([
    ["a contact of the motor", ["frog: A-S2c AF-F"]],
    [
      "a relay beside a stall motor",
      ["frog: RY1-S1c AF-F", "to-reverse: D1-1B A− RY1-A1", "to-normal: D1-1A A+ RY1-A2"],
    ],
    [
      "a latching relay beside coils",
      ["frog: RY1-S1c AF-F", "to-normal: T1-N A-N RY1-N", "to-reverse: T1-R A-R RY1-R"],
    ],
    ["an automatic unit", ["frog: FP1-F AF-F"]],
    [
      "a relay board that follows the turnout",
      ["frog: RB1-S1c AF-F", "pin: MC1-P1 RB1-IN1", "pin: MC1-P2 RB1-IN2", "dc-plus: MC1-5V RB1+"],
    ],
  ])("by %s", (name, expected) => {
    expect(recipe(name)).toEqual(expect.arrayContaining(expected));
  });

  it("takes each side of the contact to the rail that the road wants", () => {
    const [record] = ["left", "right"].map((hand) =>
      drafted(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]), (draft) =>
        draft.put("turnout", { ...draft.record.turnouts[0]!, hand: hand as "left" | "right" }),
      ),
    );
    const joined = nets(record!);
    expect(joined.find((net) => net.startsWith("track-j:"))).toContain("A-S2n");
    expect(joined.find((net) => net.startsWith("track-k:"))).toContain("A-S2r");
  });

  it("begins a second relay board at the pins after the first", () => {
    const two = drafted(
      railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", "", "relay-board-4"]),
      (draft) => {
        const second = draft.addDevice("relay-board-1", "RB", "layout");
        draft.assign("commands", { deviceId: "mc1", toDeviceId: second.id });
      },
    );
    expect(nets(two)).toEqual(expect.arrayContaining(["pin: MC1-P4 RB1-IN4", "pin: MC1-P5 RB2-IN1"]));
  });
});

describe("lamps", () => {
  it.each([
    ["the driver's output", ["lamp-normal: D1-1A A+ LP1-G"]],
    ["the frog", ["frog: A-S2c AF-F LP1-F"]],
  ])("by %s share the net that lights them", (name, expected) => {
    const joined = recipe(name).map((net) => net.replace("to-normal", "lamp-normal"));
    expect(joined).toEqual(expect.arrayContaining(expected));
  });

  it("on a node that pulls down hang between its plus and two outputs", () => {
    const joined = nets(lampOnNode("lamp-two-colour-plus"));
    expect(joined).toEqual(expect.arrayContaining(["lamp-normal: ON1-5L LP1-G", "lamp-reverse: ON1-6L LP1-Y"]));
    expect(joined.find((net) => net.includes("LP1-P"))).toContain("ON1+");
  });
});

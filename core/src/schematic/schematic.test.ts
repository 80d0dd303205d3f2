import { describe, expect, it } from "vitest";
import { drafted, mounted, railway, smallRailway, typed } from "../../testing/build.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { Joiner, netsOf, terminalName } from "./nets.ts";
import { schematicAfter, schematicOf } from "./schematic.ts";
import { threadLedBy } from "./thread.ts";

/** Each net as its purpose and the names of its terminals. */
const nets = (record: RailwayRecord) =>
  schematicOf(record).nets.map(({ purpose, ends }) => {
    const names = ends.map(({ deviceId, terminal }) => {
      const device = record.devices.find(({ id }) => id === deviceId)!;
      return terminalName(device.label, terminal);
    });
    return `${purpose}: ${names.join(" ")}`;
  });

describe("recipes", () => {
  it("joins toggle, discharge unit and coils, with commons through all that share them", () => {
    expect(nets(smallRailway())).toEqual(
      expect.arrayContaining([
        "ac-1: PS1~1 CD1~1",
        "ac-2: PS1~2 CD1~2",
        "pulse-plus: CD1+ T1-C T2-C",
        "to-normal: T1-N Y1-N",
        "to-reverse: T1-R Y1-R",
        "pulse-return: CD1− Y1-C Y2-C",
      ]),
    );
  });

  it("joins a decoder output to one motor and on to the next, and the track bus to the decoder", () => {
    expect(nets(smallRailway())).toEqual(
      expect.arrayContaining([
        "track-j: TB1-J D1-J",
        "track-k: TB1-K D1-K",
        "to-normal: D1-1A M1+ M2+",
        "to-reverse: D1-1B M1− M2−",
      ]),
    );
  });

  it("joins a lamp's leads to a contact and its common to 0 V", () => {
    expect(nets(smallRailway())).toEqual(
      expect.arrayContaining([
        "dc-plus: PS3+ Y1-S1c M1-S1c",
        "lamp-normal: Y1-S1n LP1-G",
        "lamp-reverse: Y1-S1r LP1-Y",
        "dc-zero: PS3− LP1-0 LP2-0",
      ]),
    );
  });

  it("exchanges leads where they are crossed: of a coil, of a stall motor, of a lamp", () => {
    expect(nets(mounted(smallRailway(), "y1", { crossed: true }))).toContain("to-normal: T1-N Y1-R");
    expect(nets(mounted(smallRailway(), "m2", { crossed: true }))).toContain("to-normal: D1-1A M1+ M2−");
    const lamp = drafted(smallRailway(), (draft) => {
      const shows = draft.record.assignments.find((a) => a.role === "lamp" && a.turnoutId === "y1");
      if (shows?.role === "lamp") draft.put("assignment", { ...shows, crossed: true });
    });
    expect(nets(lamp)).toContain("lamp-normal: Y1-S1n LP1-Y");
  });

  it("joins both motors of a pair to one toggle, coil beside coil", () => {
    const pair = railway(
      ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", ""],
      ["B", "A", "twin-coil-surface", "", "", ""],
    );
    expect(nets(pair)).toEqual(
      expect.arrayContaining(["to-normal: T1-N A-N B-N", "to-reverse: T1-R A-R B-R", "pulse-return: CD1− A-C B-C"]),
    );
  });

  it("joins nothing for what has no partner", () => {
    expect(nets(railway(["A", "", "stall-motor", "", "", ""]))).toEqual([]);
    expect(nets(typed(smallRailway(), "y1", "control", "")).some((net) => net.includes("Y1-N"))).toBe(false);
    const withoutContact = typed(smallRailway(), "y1", "motor", "twin-coil-surface");
    expect(nets(withoutContact).some((net) => net.includes("LP1-G"))).toBe(false);
  });

  it("gives a shared toggle's coils one net", () => {
    expect(nets(typed(smallRailway(), "y2", "control", "T1"))).toContain("to-normal: T1-N Y1-N Y2-N");
  });
});

describe("joining", () => {
  const end = (name: string) => ({ deviceId: name, terminal: "x" });

  it("merges nets that come to share a terminal, and keeps the first purpose", () => {
    const joiner = new Joiner();
    joiner.join("dc-plus", null, [end("a"), end("b")]);
    joiner.join("dc-zero", "t", [end("c"), end("d")]);
    joiner.join("track-j", "t", [end("d"), end("b"), end("e")]);
    const [net, ...more] = netsOf(joiner.joins);
    expect(more).toEqual([]);
    expect(net!.purpose).toBe("dc-zero");
    expect(net!.ends.map(({ deviceId }) => deviceId).sort()).toEqual(["a", "b", "c", "d", "e"]);
  });

  it("leaves out what is joined to nothing, and joins nothing twice", () => {
    const joiner = new Joiner();
    joiner.join("dc-plus", null, [end("a")]);
    joiner.join("dc-zero", null, [end("b"), end("c"), end("b")]);
    joiner.join("dc-zero", null, [end("c"), end("b")]);
    expect(netsOf(joiner.joins).map(({ ends }) => ends.length)).toEqual([2]);
  });
});

describe("after an edit", () => {
  const before = smallRailway();
  const schematic = schematicOf(before);
  const after = (record: RailwayRecord) => schematicAfter(record, { record: before, schematic }, schematic.watched);

  it("nets are the same list where recipes join what they joined, though a thread is another", () => {
    const record = typed(before, "y2", "label", "West");
    expect(after(record).threads).not.toEqual(schematic.threads);
    expect(after(record).nets).toBe(schematic.nets);
    expect(after(record).nets).toEqual(schematicOf(record).nets);
  });

  it("they are as made anew where one joins something else", () => {
    const record = typed(before, "y1", "lamp", "");
    expect(after(record).nets).not.toBe(schematic.nets);
    expect(after(record).nets).toEqual(schematicOf(record).nets);
  });
});

describe("threads", () => {
  it("puts followers behind their leader, with the motors of both", () => {
    const { threads } = schematicOf(smallRailway());
    expect(threads.map(({ label }) => label)).toEqual(["Y1", "Y2", "M1/M2"]);
    expect(
      threads[2]!.motors.map(({ device, driver }) => `${device.label} on ${driver?.device.label}-${driver?.way}`),
    ).toEqual(["M1 on D1-1", "M2 on D1-1"]);
    expect(threads[0]!.lamps[0]?.device.label).toBe("LP1");
  });

  it("finds the thread of a leader only", () => {
    const record = smallRailway();
    expect(threadLedBy(record, "m1")).toEqual(schematicOf(record).threads[2]);
    expect(threadLedBy(record, "m2")).toBeUndefined();
    expect(threadLedBy(record, "none")).toBeUndefined();
  });
});

it("writes terminal names as they are said", () => {
  expect([
    terminalName("D1", "2A"),
    terminalName("CD1", "+"),
    terminalName("PS2", "−"),
    terminalName("PS1", "~1"),
    terminalName("Y1", "S1c"),
  ]).toEqual(["D1-2A", "CD1+", "PS2−", "PS1~1", "Y1-S1c"]);
});

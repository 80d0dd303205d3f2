// Every way of driving, commanding, feeding the frog and showing, solved as a circuit in both positions.
import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import {
  DRIVING,
  detectorAsButton,
  FROGS,
  LAMPS,
  lampOnNode,
  readBy,
  semaphore,
  unitForEach,
} from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { controlsOf } from "../schematic/thread.ts";
import { threadReading } from "./threadReading.ts";

const POSITIONS = ["N", "R"] as const;

/** What the one thread of a railway does in a position, at rest or in another moment, asked by a control. */
function reads(record: RailwayRecord, position: Position, moment: "rest" | "throwing" = "rest", device?: string) {
  const derived = new Derived(record);
  const [thread] = derived.schematic.threads;
  if (!thread) throw new Error("The railway has no thread.");
  const asking = controlsOf(thread).filter(({ assignment: { to } }) => to === null || to === position);
  const by = asking.find((control) => control.device.id === device)?.assignment.id;
  return threadReading(derived.circuitry, thread, position, moment, by);
}

/** Where each motor of the one thread goes, asked for normal and for reverse. */
const goes = (record: RailwayRecord, by?: string) =>
  POSITIONS.map((position) =>
    reads(record, position, by ? "throwing" : "rest", by)
      .motors.map(({ goesTo }) => goesTo)
      .join(""),
  );

describe("driving and commanding", () => {
  it.each(Object.entries(DRIVING))("throws by %s", (_name, make) => {
    const record = make();
    const [normal = "", reverse = ""] = goes(record);
    expect([normal, reverse]).toEqual(["N".repeat(normal.length), "R".repeat(normal.length)]);
    expect(normal).not.toBe("");
    expect(new Derived(record).findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  });

  it("gives each motor of a pair enough from a unit of its own", () => {
    const joules = (record: RailwayRecord) =>
      reads(record, "N", "throwing").motors.map(({ pulse }) => pulse?.joules ?? 0);
    const [one = 0, other = 0] = joules(unitForEach());
    // 3300 uF at 23.8 V hold 0.93 J; most of it arrives in the coil, and both get the same
    expect(one).toBeGreaterThan(0.5);
    expect(one).toBeLessThan(0.93);
    expect(other).toBeCloseTo(one, 1);
    const shared = railway(
      ["A", "", "twin-coil-surface", "cdu-motor", "toggle-centre-off"],
      ["B", "A", "twin-coil-surface"],
    );
    expect(joules(shared)[0]).toBeLessThan(one * 0.6);
  });

  it("throws a crossover by either of two toggles, one labelled for the other line", () => {
    const crossover = DRIVING["two toggles for a crossover, one inverse"]!();
    expect(goes(crossover, "t2")).toEqual(["NN", "RR"]);
    // the second toggle's own normal is the turnout's reverse
    const wired = new Derived(crossover).schematic.nets.find(({ ends }) =>
      ends.some((end) => end.deviceId === "t2" && end.terminal === "R"),
    );
    const names = wired?.ends.map(({ deviceId, terminal }) => `${deviceId}-${terminal}`);
    expect(names).toEqual(expect.arrayContaining(["t1-N", "t2-R", "a-N"]));
  });

  it("throws by the control at the dispatcher and by each zone of a detector", () => {
    const dual = DRIVING["dual-control board with a toggle at the dispatcher"]!();
    expect(goes(dual, "t1")).toEqual(["N", "R"]);
    expect(goes(dual, "t2")).toEqual(["N", "R"]);
    expect(goes(detectorAsButton(), "bd1")).toEqual(["N", "R"]);
  });

  it("hears nothing from a control that no input reads", () => {
    const cut = drafted(readBy("encoder-16"), (draft) => draft.unassign((a) => a.role === "input"));
    expect(new Derived(cut).findings.map(({ why }) => why)).toContainEqual(
      expect.stringMatching(/B1, that nothing reads/),
    );
  });

  it("throws the wrong way, or not at all, where the wiring says so", () => {
    const dual = railway(["A", "", "stall-motor", "dual-control-board", "toggle-centre-off"]);
    const crossed = drafted(dual, (draft) => {
      const motor = draft.record.assignments.find((a) => a.role === "motor");
      if (motor?.role === "motor") draft.put("assignment", { ...motor, crossed: true });
    });
    expect(goes(crossed)).toEqual(["R", "N"]);
    const powerless = drafted(dual, (draft) => draft.unassign((a) => a.role === "supply"));
    expect(goes(powerless)).toEqual(["", ""]);
    expect(goes(railway(["A", "", "servo", "stall-decoder-8"]))).toEqual(["", ""]);
  });

  it("feeds a decoder from the track bus in both half cycles", () => {
    const fed = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
      draft.unassign((a) => a.role === "supply");
      draft.assign("supply", { deviceId: "tb1", toDeviceId: "d1" });
    });
    expect(goes(fed)).toEqual(["N", "R"]);
    const { circuitry } = new Derived(fed);
    const volts = ([1, -1] as const).map((half) =>
      circuitry.volts("d1:+", "d1:−", { asked: {}, moment: "rest", acting: null, off: false, half }),
    );
    // 15 V less two junctions of a rectifier
    expect(volts[0]).toBeGreaterThan(12.8);
    expect(volts[0]).toBeLessThan(14);
    expect(volts[1]).toBeCloseTo(volts[0] ?? 0, 6);
  });
});

describe("frogs", () => {
  const frogAt = (record: RailwayRecord, position: Position) => reads(record, position).frogs[0];

  it.each(Object.entries(FROGS))("carry the rail of the road, fed by %s", (_name, make) => {
    const left = make();
    // facing from the toe: straight on is the right-hand route of a left-hand turnout, so the left rail passes the frog
    for (const [hand, wanted] of [
      ["left", ["L", "R"]],
      ["right", ["R", "L"]],
    ] as const) {
      const record = drafted(left, (draft) => draft.put("turnout", { ...draft.record.turnouts[0]!, hand }));
      expect(POSITIONS.map((position) => frogAt(record, position)?.carries)).toEqual(wanted);
      expect(POSITIONS.map((position) => frogAt(record, position)?.wanted)).toEqual(wanted);
    }
  });

  it("stay dead when nothing feeds them", () => {
    const dead = railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "dead"]);
    expect(frogAt(dead, "N")?.carries).toBeNull();
  });

  it("carry the wrong rail when the contact's rails are exchanged", () => {
    const crossed = railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S1 crossed"]);
    // a hand that is not known counts as right: its normal wants the right rail
    expect(POSITIONS.map((position) => frogAt(crossed, position)?.wanted)).toEqual(["R", "L"]);
    expect(POSITIONS.map((position) => frogAt(crossed, position)?.carries)).toEqual(["L", "R"]);
  });

  it("fall back to normal when a relay board loses its supply, whatever the blades do", () => {
    const board = railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", "", "relay-board-1"]);
    const off = drafted(board, (draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId === "mc1"));
    const found = frogAt(off, "R");
    expect([found?.carries, found?.wanted]).toEqual(["R", "L"]);
  });
});

describe("lamps", () => {
  /** Milliamps of what is lit at normal and what at reverse, in both positions. */
  const lit = (record: RailwayRecord) =>
    POSITIONS.map((position) => {
      const lamp = reads(record, position).lamps[0];
      if (lamp?.arm) return lamp.arm === "N" ? "lit dark" : "dark lit";
      return [lamp?.normal ?? 0, lamp?.reverse ?? 0].map((amps) => (amps > 0.001 ? "lit" : "dark")).join(" ");
    });
  const RIGHT = ["lit dark", "dark lit"];

  it.each(Object.entries(LAMPS))("show how it lies, lit by %s", (_name, make) => {
    expect(lit(make())).toEqual(RIGHT);
  });

  it("stay dark on outputs that pull down to 0 V when their own common is 0 V", () => {
    expect(lit(lampOnNode("lamp-two-colour-12"))).toEqual(["dark dark", "dark dark"]);
  });

  it("from a frog see the track's full voltage backwards, unless a diode lies beside them", () => {
    const from = (lamp: string) => railway(["A", "", "stall-motor", "stall-decoder-8", "", lamp, "S2"]);
    expect(reads(from("lamps-frog"), "N").lamps[0]?.backwardsVolts).toBeGreaterThan(14);
    const kept = reads(from("lamps-frog-diodes"), "N").lamps[0];
    expect(kept?.backwardsVolts).toBeLessThan(1.2);
    // (15 - 2.2) V over 1000 ohm
    expect(kept?.normal).toBeCloseTo(0.0128, 3);
  });

  it("from a dead frog are both dim, in series", () => {
    const dead = railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamps-frog-diodes", "dead"]);
    const lamp = reads(dead, "N").lamps[0];
    // one LED forwards, the other's diode: (15 - 2.1 - 0.8) V over 2000 ohm
    expect(lamp?.normal).toBeGreaterThan(0.005);
    expect(lamp?.normal).toBeLessThan(0.0065);
    expect(lamp?.reverse).toBeCloseTo(lamp?.normal ?? 0, 3);
  });

  it("move a semaphore's arm from a servo output, and a flag by the throw bar", () => {
    const arm = semaphore();
    expect(POSITIONS.map((position) => reads(arm, position).lamps[0]?.arm)).toEqual(["N", "R"]);
    const flag = railway(["A", "", "stall-motor", "stall-decoder-8", "", "mechanical-flag"]);
    expect(POSITIONS.map((position) => reads(flag, position).lamps[0]?.arm)).toEqual(["N", "R"]);
  });
});

// What devices do in a state, from the solved circuit: which way things go when wiring, supplies or figures are not as meant.
import { describe, expect, it } from "vitest";
import { drafted, railway, retyped, typed, withFigures } from "../../testing/build.ts";
import { DRIVING, detectorAsButton, FROGS, followed, readBy, semaphore } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { measure } from "./meter.ts";
import { AT_REST, stateFor, threadReading } from "./threadReading.ts";

const recipe = (name: string): RailwayRecord => {
  const make = DRIVING[name] ?? FROGS[name];
  if (!make) throw new Error(`No recipe ${name}.`);
  return make();
};
const goesTo = (record: RailwayRecord, position: Position, by?: string) => {
  const derived = new Derived(record);
  return threadReading(derived.circuitry, derived.schematic.threads[0]!, position, by ? "throwing" : "rest", by)
    .motors[0]?.goesTo;
};

describe("what a board hears", () => {
  const hears = (record: RailwayRecord, position: Position, by?: string) =>
    new Derived(record).circuitry.hears("a", position, by);

  it("is what is asked where no board listens", () => {
    expect(hears(recipe("toggle and discharge unit"), "R")).toBe("R");
    expect(hears(recipe("decoder output, one motor"), "N")).toBe("N");
  });

  it("is nothing from a reader without its supply", () => {
    const dark = drafted(readBy("input-node-16"), (draft) =>
      draft.unassign((a) => a.role === "supply" && a.toDeviceId === "in1"),
    );
    expect([hears(dark, "N"), hears(dark, "R")]).toEqual([null, null]);
    expect(goesTo(dark, "N")).toBeNull();
  });

  it("is nothing when the threshold lies below what a control can pull to", () => {
    const weak = withFigures(recipe("decoder with a touch button"), "TC1", { outputOhms: 5000 });
    // 5 V over 10 kohm and 5 kohm leaves 1.7 V, above the 1.5 V that count as closed
    expect(hears(weak, "N")).toBeNull();
    expect(new Derived(weak).findings.map(({ ruleId }) => ruleId)).toContain("control-not-heard");
  });

  it("is one position only from a detector's zone that asks for one", () => {
    expect(hears(detectorAsButton(), "N", "bd1")).toBe("N");
    const one = drafted(detectorAsButton(), (draft) => draft.unassign((a) => a.role === "control" && a.to === "R"));
    expect(goesTo(one, "N", "bd1")).toBe("N");
  });
});

describe("where motors go", () => {
  it("a servo goes nowhere without its 5 V, and the other way with its ends exchanged", () => {
    const servo = recipe("servo board with a latching toggle");
    const powerless = drafted(servo, (draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId === "sb1"));
    expect(goesTo(powerless, "N")).toBeNull();
    // the board's ends exchanged move both the pulse and what it is compared with: the horn's side is a matter of mounting
    const mounted = drafted(servo, (draft) => {
      const motor = draft.record.assignments.find((a) => a.role === "motor");
      if (motor?.role === "motor") draft.put("assignment", { ...motor, opposite: true });
    });
    expect([goesTo(mounted, "N"), goesTo(mounted, "R")]).toEqual(["R", "N"]);
  });

  it("a stall motor behind a reversing toggle goes nowhere on too few volts", () => {
    const weak = retyped(recipe("reversing toggle and stall motor"), "PS1", "dc-5");
    expect([goesTo(weak, "N"), goesTo(weak, "R")]).toEqual([null, null]);
  });

  it("a motor with its decoder inside goes nowhere without the track", () => {
    const off = drafted(recipe("slow motor with its decoder inside"), (draft) =>
      draft.unassign((a) => a.role === "supply"),
    );
    expect(goesTo(off, "N")).toBeNull();
  });

  it("coils on a decoder get their pulse from its own capacitor, charged through its resistor", () => {
    const { circuitry } = new Derived(recipe("decoder for coils"));
    expect(measure(circuitry, "d1:+", "d1:−", "V", AT_REST.N).value).toBeCloseTo(18, 0);
    const derived = new Derived(recipe("decoder for coils"));
    const pulse = derived.reading(derived.schematic.threads[0]!, "R", "throwing").motors[0]?.pulse;
    // 3300 uF at 18 V hold 0.53 J; the charging resistor lets 0.4 A more through while the output is on
    expect(pulse?.joules).toBeGreaterThan(0.4);
    expect(pulse?.joules).toBeLessThan(0.65);
  });

  it("a semaphore shows nothing when its board has no supply", () => {
    const dark = drafted(semaphore(), (draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId !== "d1"));
    const derived = new Derived(dark);
    expect(derived.reading(derived.schematic.threads[0]!, "R", "rest").lamps[0]?.arm).toBeNull();
  });
});

describe("relays", () => {
  const carries = (record: RailwayRecord, position: Position) => {
    const derived = new Derived(record);
    return derived.reading(derived.schematic.threads[0]!, position, "rest").frogs[0]?.carries;
  };

  it("beside a stall motor stay out when they need more than the output gives", () => {
    const record = recipe("a relay beside a stall motor");
    expect(carries(record, "R")).toBe("L");
    const lazy = withFigures(record, "RY1", { pullInVolts: 11 });
    expect(carries(lazy, "R")).toBe("R");
    expect(findingsWith(lazy)).toContain("barely-switches");
  });

  it("of a board with the jumper off pick up from their own supply, and not without the controller's 5 V", () => {
    const record = recipe("a relay board that follows the turnout");
    const own = drafted(record, (draft) => {
      const supply = draft.addDevice("dc-5", "PS", "layout");
      draft.assign("supply", { deviceId: supply.id, toDeviceId: "rb1" });
    });
    expect([carries(own, "N"), carries(own, "R")]).toEqual(["R", "L"]);
    const amps = (each: RailwayRecord) => Math.abs(new Derived(each).circuitry.amps("mc1", "rail", AT_REST.R));
    expect(amps(record)).toBeGreaterThan(0.07);
    // with the jumper off the controller feeds the inputs only
    expect(amps(own)).toBeLessThan(0.01);
    const dark = drafted(own, (draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId === "mc1"));
    expect(carries(dark, "R")).toBe("R");
  });

  it("that latch stay where the last pulse put them", () => {
    const record = recipe("a latching relay beside coils");
    expect([carries(record, "N"), carries(record, "R")]).toEqual(["R", "L"]);
    const deaf = withFigures(record, "RY1", { pullInVolts: 40 });
    expect(carries(deaf, "R")).toBe("R");
  });

  it("that latch stay where they are when both coils pull alike", () => {
    // across the leads of a motor without coils both get the track's volts, one against the other
    const record = typed(recipe("a latching relay beside coils"), "a", "motor", "slow-motor-decoder");
    const { circuitry, schematic } = new Derived(record);
    const throwing = stateFor(schematic.threads[0]!, "N", "throwing");
    const [N, R] = ["N", "R"].map((coil) => Math.abs(circuitry.volts(`ry1:${coil}`, "ry1:C", throwing) ?? 0));
    expect(N).toBeGreaterThan(10);
    expect(R).toBeCloseTo(N!, 6);
    for (const run of ["1", "2", "3", "4"]) {
      const laid = typed(record, "a", "run", run);
      expect([carries(laid, "N"), carries(laid, "R")]).toEqual(["R", "R"]);
    }
  });
});

function findingsWith(record: RailwayRecord): string[] {
  return new Derived(record).findings.map(({ ruleId }) => ruleId);
}

describe("the meter on the track", () => {
  const { circuitry } = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]));

  it("reads AC between the rails, and nothing of it on a frog's own rail", () => {
    const rails = measure(circuitry, "af:L", "af:R", "V", AT_REST.N);
    expect(rails).toMatchObject({ ac: true });
    expect(rails.value).toBeCloseTo(15, 0);
    expect(measure(circuitry, "af:F", "af:R", "V", AT_REST.N).value).toBeCloseTo(0, 2);
    expect(measure(circuitry, "af:F", "af:L", "V", AT_REST.N)).toMatchObject({ ac: true });
  });

  it("reads DC behind a decoder's rectifier, the same in both half cycles", () => {
    const fed = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
      draft.unassign((a) => a.role === "supply");
      draft.assign("supply", { deviceId: "tb1", toDeviceId: "d1" });
    });
    const reading = measure(new Derived(fed).circuitry, "d1:+", "d1:−", "V", AT_REST.N);
    expect(reading.ac).toBe(false);
    expect(reading.value).toBeGreaterThan(12.8);
  });

  it("finds a dead frog half-way between the rails, held by nothing but dirt", () => {
    const dead = typed(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]), "a", "frog", "dead");
    const reading = measure(new Derived(dead).circuitry, "af:F", "af:L", "V", AT_REST.N);
    // 10 Mohm to either rail, and the meter's own 10 Mohm across one of them
    expect(reading.value).toBeCloseTo(5, 0);
  });
});

it("throws all at once at the start of a day: servos take more then, stall motors less", () => {
  const servos = railway(
    ["A", "", "servo", "servo-board-4", "toggle-latching"],
    ["B", "", "servo", "SB1-2", "toggle-latching"],
  );
  const load = new Derived(servos).loads.find(({ deviceId }) => deviceId === "ps1");
  expect(load?.moving).toBeGreaterThan(5 * (load?.rest ?? 0));
  // two of 0.65 A by their leaflets
  expect(load?.worst).toBeGreaterThan(1.25);
  expect(load).toMatchObject({ when: "with A and B held against a stop", blocked: true });
  const stall = new Derived(recipe("decoder output, one motor")).loads.find(({ deviceId }) => deviceId === "ps1");
  expect(stall?.moving).toBeLessThan(stall?.rest ?? 0);
  expect(stall?.when).toBe("with everything at rest");
});

it("names the control by which a turnout is thrown in its state, and none at rest", () => {
  const derived = new Derived(recipe("two toggles for a crossover, one inverse"));
  const [thread] = derived.schematic.threads;
  expect(stateFor(thread!, "R", "throwing", "t2")).toMatchObject({ by: "t2", acting: "a" });
  expect(stateFor(thread!, "R", "rest", "t2")).toEqual({ ...AT_REST.R, asked: { a: "R" } });
});

describe("what is followed as a level", () => {
  it.each(["toggle", "zone"] as const)("goes to reverse while a %s is made and to normal while it is not", (what) => {
    const record = followed("stall-motor", "output-node-8", what);
    const derived = new Derived(record);
    const [thread] = derived.schematic.threads;
    for (const moment of ["throwing", "held", "rest"] as const)
      for (const position of ["N", "R"] as const)
        expect(derived.reading(thread!, position, moment).motors[0]?.goesTo, `${what} ${moment}`).toBe(position);
    // one contact, at one input: open at normal, closed at reverse
    const input = (position: "N" | "R") =>
      measure(derived.circuitry, "in1:I5", "in1:0", "V", stateFor(thread!, position, "rest")).value ?? 0;
    expect(input("N")).toBeGreaterThan(4);
    expect(input("R")).toBeLessThan(0.5);
  });

  it("goes the other way round when it is labelled for the other line, and when its input is inverted", () => {
    const inverse = drafted(followed("stall-motor", "output-node-8", "zone"), (draft) => {
      const control = draft.record.assignments.find((a) => a.role === "control");
      if (control?.role === "control") draft.put("assignment", { ...control, inverse: true });
    });
    const derived = new Derived(inverse);
    const [thread] = derived.schematic.threads;
    expect(derived.reading(thread!, "R", "rest").motors[0]?.goesTo).toBe("R");
    const input = measure(derived.circuitry, "in1:I5", "in1:0", "V", stateFor(thread!, "R", "rest")).value;
    expect(input).toBeGreaterThan(4);
    const inverted = drafted(followed("stall-motor", "output-node-8", "zone"), (draft) =>
      draft.put("sense", {
        ...{ id: "s", link: "input", deviceId: "in1", way: 5, inverts: true, known: "seen", flips: 0, note: "" },
        at: "2026-01-01T00:00:00.000Z",
      }),
    );
    const turned = new Derived(inverted);
    expect(turned.reading(turned.schematic.threads[0]!, "R", "rest").motors[0]?.goesTo).toBe("N");
  });

  it("is not heard at inputs beside an output, which hear presses", () => {
    const record = typed(
      railway(["A", "", "stall-motor", "input-decoder-4"]),
      "a",
      "control",
      "toggle-latching follows",
    );
    const derived = new Derived(record);
    expect(derived.reading(derived.schematic.threads[0]!, "N", "rest").motors[0]?.goesTo).toBeNull();
    expect(derived.findings.map(({ ruleId }) => ruleId)).toContain("control-not-heard");
  });
});

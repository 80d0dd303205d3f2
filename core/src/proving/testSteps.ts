import { traitsOf } from "../catalogue/traits.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import { measure } from "../readings/meter.ts";
import type { Moment } from "../readings/states.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { Position, TestResult } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { wantedRail } from "../schematic/recipes/frogFeed.ts";
import { drivesItself, supplyOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { chainOf } from "./chain.ts";

/** One step of a turnout's test sheet, with what a meter or the eye should find. */
export interface TestStep {
  /** Identifies the step within its turnout: kind, motor, position. */
  key: string;
  turnoutId: string;
  title: string;
  how: string;
  position: Position | null;
  moment: Moment;
  unit: TestResult["unit"];
  /** Terminals for the probes, red first; null when the eye is the instrument. */
  probes: { red: string; black: string; redName: string; blackName: string } | null;
  expected: number | null;
  low: number | null;
  high: number | null;
  /** What should be seen; null for a reading. */
  wanted: string | null;
  chain: Record<string, string>;
}

/** The test sheet of a thread: windings, power, each position by eye, the lamp. Empty until it has a motor on a driver. */
export function testSteps(circuitry: Circuitry, thread: Thread): TestStep[] {
  if (thread.motors.length === 0 || thread.motors.some((motor) => !motor.driver && !drivesItself(motor))) return [];
  const chain = chainOf(circuitry.record, circuitry.loom, thread);
  const several = thread.motors.length > 1;
  const base = { turnoutId: thread.turnout.id, chain };
  return [
    ...thread.motors.flatMap((motor) =>
      windingSteps(circuitry, thread, motor, several).map((step) => ({ ...base, ...step })),
    ),
    ...thread.motors.flatMap((motor) => throwSteps(thread, motor, several).map((step) => ({ ...base, ...step }))),
    ...frogSteps(circuitry, thread).map((step) => ({ ...base, ...step })),
    ...lampSteps(circuitry, thread).map((step) => ({ ...base, ...step })),
  ];
}

type Step = Omit<TestStep, "turnoutId" | "chain">;

function windingSteps(circuitry: Circuitry, thread: Thread, motor: ThreadMotor, several: boolean): Step[] {
  const { device, type } = motor;
  const of = several ? ` of ${motor.turnout.label}` : "";
  const meter = (
    key: string,
    title: string,
    how: string,
    position: Position | null,
    unit: "V" | "ohm",
    red: string,
    black: string,
  ) =>
    reading(circuitry, thread, {
      key: `${key}-${motor.turnout.id}`,
      title,
      how,
      position,
      unit,
      ids: [device.id, device.id],
      red,
      black,
    });
  if (traitsOf(type).movedBy === "signal" || traitsOf(type).movedBy === "commands") {
    const [plus, minus] = traitsOf(type).movedBy === "signal" ? ["+", "−"] : ["J", "K"];
    return [meter("power", `Power${of}`, "At rest. Across the motor's supply.", null, "V", plus, minus)];
  }
  if (traitsOf(type).movedBy === "reversal") {
    return [
      meter("winding", `Winding${of}`, "Power off. Across the motor's leads.", null, "ohm", "+", "−"),
      meter("polarity-n", `Power at N${of}`, "Thrown to normal, at rest.", "N", "V", "+", "−"),
      meter("polarity-r", `Power at R${of}`, "Thrown to reverse, at rest.", "R", "V", "+", "−"),
    ];
  }
  const driver = motor.driver;
  const steps = [
    meter("coil-n", `Normal coil${of}`, "Power off, unit discharged. Coil to common.", null, "ohm", "N", "C"),
    meter("coil-r", `Reverse coil${of}`, "Power off, unit discharged. Coil to common.", null, "ohm", "R", "C"),
  ];
  if (!driver || traitsOf(driver.type).gives !== "pulse") return steps;
  const charge = reading(circuitry, thread, {
    key: `charge-${motor.turnout.id}`,
    title: "Charge",
    how: `${driver.device.label} charged, controls let go.`,
    position: null,
    unit: "V",
    ids: [driver.device.id, driver.device.id],
    red: "+",
    black: "−",
  });
  return [...steps, charge];
}

interface ReadingStep {
  key: string;
  title: string;
  how: string;
  position: Position | null;
  unit: "V" | "ohm";
  ids: [string, string];
  red: string;
  black: string;
}

function reading(circuitry: Circuitry, thread: Thread, { ids, red, black, ...step }: ReadingStep): Step {
  const state = stateFor(thread, step.position ?? "N", "rest");
  const keys = [`${ids[0]}:${red}`, `${ids[1]}:${black}`] as const;
  const { value, tolerance } = measure(circuitry, keys[0], keys[1], step.unit, state);
  const label = (id: string) => circuitry.record.devices.find((device) => device.id === id)?.label ?? id;
  return {
    ...step,
    moment: "rest",
    probes: {
      red: keys[0],
      black: keys[1],
      redName: terminalName(label(ids[0]), red),
      blackName: terminalName(label(ids[1]), black),
    },
    expected: value,
    low: value === null ? null : value - tolerance,
    high: value === null ? null : value + tolerance,
    wanted: null,
  };
}

const BY_EYE = { unit: "seen", probes: null, expected: null, low: null, high: null } as const;

function throwSteps(thread: Thread, motor: ThreadMotor, several: boolean): Step[] {
  const command = thread.control?.device.label ?? "its address";
  return (["N", "R"] as const).map((position) => ({
    ...BY_EYE,
    key: `throw-${position.toLowerCase()}-${motor.turnout.id}`,
    title: `${several ? `${motor.turnout.label} goes` : "Goes"} to ${position === "N" ? "normal" : "reverse"}`,
    how: `Start from ${position === "N" ? "reverse" : "normal"}. Throw by ${command}; blades close for the ${position === "N" ? "normal" : "reverse"} road.`,
    position,
    moment: "throwing" as const,
    wanted: position,
  }));
}

/**
 * Each fed frog against the left rail, before a train is put on: nothing at one position, the track's voltage at the other.
 * A polarity unit is shown the wheel that it waits for. Nothing can be told while the hand is not known.
 */
function frogSteps(circuitry: Circuitry, thread: Thread): Step[] {
  return thread.frogs.flatMap(({ from, turnout, device }) => {
    if (from === null || turnout.hand === "unknown") return [];
    const byWheel = traitsOf(from.type).inTrack === "polarity-unit";
    return (["N", "R"] as const).map((position) => {
      const rail = wantedRail(turnout.hand, position) === "L" ? "left" : "right";
      const first = byWheel
        ? `Bridge the frog to the ${rail} rail for a moment, as a wheel does: ${from.device.label} changes over. `
        : "No train on the track. ";
      return reading(circuitry, thread, {
        key: `frog-${position.toLowerCase()}-${turnout.id}`,
        title: `Frog at ${position}${thread.followers.length > 0 ? ` of ${turnout.label}` : ""}`,
        how: `${first}Meter on AC. Frog to the left rail, facing from the toe.`,
        position,
        unit: "V",
        ids: [device.id, device.id],
        red: "F",
        black: "L",
      });
    });
  });
}

/** The lamp as its contact lights it once the motor stands where it was asked to. */
function lampSteps(circuitry: Circuitry, thread: Thread): Step[] {
  const { lamp } = thread;
  const contact = lamp && lamp.from.type.contactSets > 0;
  if (!lamp?.type.leads || (contact && !supplyOf(circuitry.record, lamp.device.id))) return [];
  const frog = thread.frogs.find(({ device }) => device.id === lamp.from.device.id);
  // what a lamp at the frog should show hangs on the hand
  if (frog?.turnout.hand === "unknown") return [];
  const byWheel = traitsOf(frog?.from?.type).inTrack === "polarity-unit";
  const { crossed } = lamp.assignment;
  const colour = (lead: string) => lamp.type.terminals.find(({ name }) => name === lead)?.about.split(",")[0] ?? lead;
  const [green, other] = [colour(lamp.type.leads[0]), colour(lamp.type.leads[1])];
  return (["N", "R"] as const).map((position) => ({
    ...BY_EYE,
    key: `lamp-${position.toLowerCase()}-${lamp.device.id}`,
    title: `Lamp at ${position}`,
    how: `${lamp.device.label}, thrown to ${position === "N" ? "normal" : "reverse"}${byWheel ? ", after a wheel has run over the frog" : ""}.`,
    position,
    moment: "rest" as const,
    wanted: (position === "N") === crossed ? other : green,
  }));
}

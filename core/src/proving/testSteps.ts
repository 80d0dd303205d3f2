import { traitsOf } from "../catalogue/traits.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import { measure } from "../readings/meter.ts";
import type { Extra } from "../readings/solving.ts";
import type { Moment } from "../readings/states.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position, TestResult } from "../record/schemas.ts";
import { joinsOnBoard } from "../routes/boards.ts";
import { terminalName } from "../schematic/nets.ts";
import { staysMade } from "../schematic/recipes/controlSides.ts";
import { wantedRail } from "../schematic/recipes/frogFeed.ts";
import { isCut } from "../schematic/recipes/lockOut.ts";
import {
  controlsOf,
  drivesItself,
  type Fitted,
  supplyOf,
  type Thread,
  type ThreadControl,
  type ThreadLamp,
  type ThreadMotor,
  threadsOf,
} from "../schematic/thread.ts";
import { chainOf } from "./chain.ts";

/** One step of a turnout's test sheet, before anything is worked out for it. */
export interface PlannedStep {
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
  /** Terminals between which the same should be read, where a hand does what nothing in the circuit does. */
  like?: { red: string; black: string };
  /** A device whose wires are all taken off for the reading: with them on, others would lead round what is measured. */
  apart?: Fitted;
  /** What should be seen; null for a reading. */
  wanted: string | null;
  /** What can be seen; empty for a reading. */
  sees: readonly string[];
}

/** A step with what a meter should find, and all that it depends on. */
export interface TestStep extends PlannedStep {
  expected: number | null;
  low: number | null;
  high: number | null;
  chain: Record<string, string>;
}

/**
 * The test sheet of a thread: windings, power, each control thrown both ways by eye, contacts, frogs, the lamp; each step
 * once. Empty until it has a motor on a driver.
 */
export function testSteps(circuitry: Circuitry, thread: Thread): TestStep[] {
  const planned = plannedSteps(circuitry.record, thread);
  if (planned.length === 0) return [];
  const chain = chainOf(circuitry.record, circuitry.loom, thread);
  return planned.map((step) => expecting(circuitry, thread, step, chain));
}

/** A step with what should be read now. @param chain all that it depends on, as `chainOf` tells */
export function expecting(
  circuitry: Circuitry,
  thread: Thread,
  step: PlannedStep,
  chain: Record<string, string>,
): TestStep {
  const { probes, unit, position, like = probes } = step;
  if (!like || unit === "seen" || unit === "mA") return { ...step, expected: null, low: null, high: null, chain };
  const state = stateFor(thread, position ?? "N", "rest");
  const { value, tolerance } = measure(circuitry, like.red, like.black, unit, state, looseOf(step));
  const [low, high] = value === null ? [null, null] : [value - tolerance, value + tolerance];
  const how = `${step.how}${drainedBy(circuitry, step, value)}`;
  return { ...step, how, expected: value, low, high, chain };
}

/** What a step takes apart before it is read: nothing, or all wires of the device that is measured by itself. */
export function looseOf({ apart }: PlannedStep): Extra {
  if (!apart) return { elements: [] };
  return { elements: [], loose: new Set(apart.type.terminals.map(({ name }) => `${apart.device.id}:${name}`)) };
}

/** Share of what its supply could charge it to below which a unit counts as drained. */
const DRAINED = 0.5;

/** Why a discharge unit has so few volts, when a control that stays made drains it; nothing else. */
function drainedBy({ record }: Circuitry, { key, probes }: PlannedStep, volts: number | null): string {
  const unit = probes?.red.slice(0, probes.red.indexOf(":"));
  if (!key.startsWith("charge-") || unit === undefined || volts === null) return "";
  const peak = (supplyOf(record, unit)?.type.figures.volts?.value ?? 0) * Math.SQRT2;
  if (volts > peak * DRAINED) return "";
  const stays = threadsOf(record).flatMap((thread) =>
    thread.motors.some((motor) => motor.unit?.device.id === unit)
      ? controlsOf(thread).filter((control) => staysMade(control) && !control.reader)
      : [],
  );
  const [first] = stays;
  return first ? ` Few volts, since ${first.device.label} stays made and drains it.` : "";
}

/** The steps of a thread's test sheet, without solving anything. */
export function plannedSteps(record: RailwayRecord, thread: Thread): PlannedStep[] {
  if (thread.motors.length === 0 || thread.motors.some((motor) => !motor.driver && !drivesItself(motor))) return [];
  const several = thread.motors.length > 1;
  const steps = [
    ...thread.motors.flatMap((motor) => windingSteps(motor, several)),
    ...boardSteps(record, thread),
    ...thread.motors.flatMap((motor) => throwSteps(thread, motor, several)),
    ...lockSteps(thread),
    ...contactSteps(thread),
    ...frogSteps(thread),
    ...thread.lamps.flatMap((lamp) => lampSteps(record, thread, lamp)),
  ];
  return steps.map((step) => ({ turnoutId: thread.turnout.id, ...step }));
}

type Step = Omit<PlannedStep, "turnoutId">;

/** A step that a meter decides, between two terminals of one device. */
function reading(
  { device }: Pick<Fitted, "device">,
  [red, black]: readonly [string, string],
  step: Pick<Step, "key" | "title" | "how" | "position"> & { unit: "V" | "ohm" | "diode" },
): Step {
  const at = (terminal: string) => `${device.id}:${terminal}`;
  return {
    ...step,
    moment: "rest",
    probes: {
      red: at(red),
      black: at(black),
      redName: terminalName(device.label, red),
      blackName: terminalName(device.label, black),
    },
    wanted: null,
    sees: [],
  };
}

function windingSteps(motor: ThreadMotor, several: boolean): Step[] {
  const { type, driver, turnout } = motor;
  const of = several ? ` of ${turnout.label}` : "";
  const key = (kind: string) => `${kind}-${turnout.id}`;
  const { movedBy } = traitsOf(type);
  if (movedBy === "signal" || movedBy === "commands") {
    const how = "At rest. Across the motor's supply.";
    const ends = movedBy === "signal" ? (["+", "−"] as const) : (["J", "K"] as const);
    return [reading(motor, ends, { key: key("power"), title: `Power${of}`, how, position: null, unit: "V" })];
  }
  if (movedBy === "reversal") {
    const ends = ["+", "−"] as const;
    const how = "Power off. Across the motor's leads.";
    const thrown = (position: Position) =>
      reading(motor, ends, {
        ...{ key: key(`polarity-${position.toLowerCase()}`), title: `Power at ${position}${of}`, position, unit: "V" },
        how: `Thrown to ${POSITION_WORDS[position]}, at rest.`,
      });
    return [
      reading(motor, ends, { key: key("winding"), title: `Winding${of}`, how, position: null, unit: "ohm" }),
      thrown("N"),
      thrown("R"),
    ];
  }
  const how = "Power off, unit discharged. Coil to common.";
  const coil = (side: Position) =>
    reading(motor, [side, "C"], {
      ...{ key: key(`coil-${side.toLowerCase()}`), title: `${side === "N" ? "Normal" : "Reverse"} coil${of}` },
      ...{ how, position: null, unit: "ohm" },
    });
  const steps = [coil("N"), coil("R")];
  const { unit } = motor;
  if (!driver || !unit || traitsOf(unit.type).gives !== "pulse") return steps;
  const charge = `${unit.device.label} fed, controls let go.`;
  return [
    ...steps,
    reading(unit, ["+", "−"], { key: key("charge"), title: "Charge", how: charge, position: null, unit: "V" }),
  ];
}

/** Each diode and plain wire between the buttons of routes and the coils of a thread, as it lies on the board. */
function boardSteps(record: RailwayRecord, { motors }: Thread): Step[] {
  return motors.flatMap(({ driver }): Step[] => {
    if (driver?.type.drives !== "matrix") return [];
    const board = driver.device;
    const own = new Set(["N", "R"].map((side) => `${driver.way}${side}`));
    return joinsOnBoard(record, board.id).flatMap(({ from, to, with: by }): Step[] => {
      if (!own.has(to)) return [];
      const isDiode = by === "diode";
      return [
        {
          ...reading(driver, [from, to], {
            key: `part-${from}-${to}-${board.id}`.toLowerCase().slice(0, 60),
            title: `${isDiode ? "Diode" : "Wire"} ${from} to ${to} of ${board.label}`,
            how: `Wires of ${board.label} off, unit discharged. ${isDiode ? "Diode range, red at the button's side, black at the band." : "From the button's terminal to the coil's."}`,
            ...{ position: null, unit: isDiode ? "diode" : "ohm" },
          }),
          apart: driver,
        },
      ];
    });
  });
}

const POSITION_WORDS: Record<Position, string> = { N: "normal", R: "reverse" };

/** Each control thrown both ways, each motor watched; those that ask for one position only are thrown that way. */
function throwSteps(thread: Thread, motor: ThreadMotor, several: boolean): Step[] {
  const controls = controlsOf(thread);
  const ways = controls.length > 0 ? controls : [null];
  return ways.flatMap((control, index) =>
    (["N", "R"] as const)
      .filter((position) => !control?.assignment.to || control.assignment.to === position)
      .map((position): Step => {
        const name = control ? nameOf(control) : "its address";
        const by = ways.length > 1 ? ` by ${name}` : "";
        const from = POSITION_WORDS[position === "N" ? "R" : "N"];
        return {
          key: `throw-${position.toLowerCase()}-${motor.turnout.id}${index === 0 || !control ? "" : `-${control.assignment.id}`}`.slice(
            0,
            60,
          ),
          title: `${several ? `${motor.turnout.label} goes` : "Goes"} to ${POSITION_WORDS[position]}${by}`,
          how: `Start from ${from}. Throw by ${name}; blades close for the ${POSITION_WORDS[position]} road.`,
          ...{ position, moment: "throwing", unit: "seen", probes: null, wanted: position },
          sees: ["N", "R", "no change"],
        };
      }),
  );
}

/** What is locked out must do nothing. */
function lockSteps(thread: Thread): Step[] {
  return controlsOf(thread).flatMap((control): Step[] => {
    const { lock, assignment } = control;
    if (!lock) return [];
    const by = lock.device.label;
    const how = isCut(control)
      ? lock.way === null
        ? `${by} turned off.`
        : `The key on that picks ${by} up.`
      : `${by} set so that it does not listen.`;
    return [
      {
        key: `lock-${assignment.id}`.slice(0, 60),
        title: `${nameOf(control)} locked out`,
        how: `${how} Throw by ${nameOf(control)}; nothing moves.`,
        ...{ position: null, moment: "throwing", unit: "seen", probes: null, wanted: "no change" },
        sees: ["N", "R", "no change"],
      },
    ];
  });
}

function nameOf({ device, assignment }: ThreadControl): string {
  return assignment.way === null ? device.label : `${device.label}-${assignment.way}`;
}

/** Which side each contact in use makes: it is known only when the motor is mounted. */
function contactSteps({ motors, frogs, lamps }: Thread): Step[] {
  const uses = [...frogs, ...lamps];
  const used = new Map(
    uses.flatMap(({ from, assignment: { way } }) => {
      const motor = motors.find(({ device }) => device.id === from?.device.id);
      const set = way ?? 1;
      return motor && set <= motor.type.contactSets ? [[`${motor.device.id} ${set}`, { motor, set }] as const] : [];
    }),
  );
  return [...used.values()].flatMap(({ motor, set }) =>
    (["N", "R"] as const).map((position) =>
      reading(motor, [`S${set}c`, `S${set}${position.toLowerCase()}`], {
        key: `contact-${position.toLowerCase()}-${set}-${motor.turnout.id}`,
        title: `Contact S${set} at ${position}${motors.length > 1 ? ` of ${motor.turnout.label}` : ""}`,
        how: `Blades at ${POSITION_WORDS[position]}, power off. Common to the side that should be made.`,
        position,
        unit: "ohm",
      }),
    ),
  );
}

/**
 * Each fed frog against the left rail, before a train is put on: nothing at one position, the track's voltage at the other.
 * A polarity unit is shown the wheel that it waits for. Nothing can be told while the hand is not known.
 */
function frogSteps({ frogs, followers }: Thread): Step[] {
  return frogs.flatMap((frog) => {
    const { from, turnout } = frog;
    if (from === null || turnout.hand === "unknown") return [];
    const byWheel = traitsOf(from.type).inTrack === "polarity-unit";
    return (["N", "R"] as const).map((position) => {
      const rail = wantedRail(turnout.hand, position) === "L" ? "left" : "right";
      const first = byWheel
        ? `Bridge the frog to the ${rail} rail for a moment, as a wheel does: ${from.device.label} changes over. `
        : "No train on the track. ";
      const step = reading(frog, ["F", "L"], {
        key: `frog-${position.toLowerCase()}-${turnout.id}`,
        title: `Frog at ${position}${followers.length > 0 ? ` of ${turnout.label}` : ""}`,
        how: `${first}Meter on AC. Frog to the left rail, facing from the toe.`,
        position,
        unit: "V",
      });
      // once the unit has changed over, the frog stands where the rail does
      const at = (end: string) => `${frog.device.id}:${end}`;
      return byWheel ? { ...step, like: { red: at(rail === "left" ? "L" : "R"), black: at("L") } } : step;
    });
  });
}

/** The lamp as its contact lights it once the motor stands where it was asked to. */
function lampSteps(record: RailwayRecord, thread: Thread, lamp: ThreadLamp): Step[] {
  const contact = lamp.from.type.contactSets > 0;
  if (!lamp.type.leads || (contact && !supplyOf(record, lamp.device.id))) return [];
  const frog = thread.frogs.find(({ device }) => device.id === lamp.from.device.id);
  // what a lamp at the frog should show hangs on the hand
  if (frog?.turnout.hand === "unknown") return [];
  const byWheel = traitsOf(frog?.from?.type).inTrack === "polarity-unit";
  const { crossed } = lamp.assignment;
  const [green, other] = lamp.type.colours ?? ["lit for N", "lit for R"];
  return (["N", "R"] as const).map((position) => ({
    key: `lamp-${position.toLowerCase()}-${lamp.device.id}`,
    title: `${thread.lamps.length > 1 ? lamp.device.label : "Lamp"} at ${position}`,
    how: `${lamp.device.label}, thrown to ${position === "N" ? "normal" : "reverse"}${byWheel ? ", after a wheel has run over the frog" : ""}.`,
    ...{ position, moment: "rest" as const, unit: "seen" as const, probes: null },
    wanted: (position === "N") === crossed ? other : green,
    sees: [green, other, `${green} and ${other}`, "dark"],
  }));
}
